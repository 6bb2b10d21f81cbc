import { WEAR_TURNS } from '../shelf/usualWear.ts'
import type { Evidence } from './evidence.ts'
import { NUMBER, OF_DISC } from './places.ts'

/**
 * A disc that was thrown on many days was not the same disc on each. Its numbers are those it has now; at a throw it was more stable
 * by what a disc of its plastic usually lost between then and now, times its pace. A disc's pace is one unknown more; discs of one
 * blend wear alike.
 */

/** What throws must find a disc's usual loss to differ by, on the scale of turn + fade, before its pace is asked for. */
const LEAST = 0.02

/**
 * How fast a disc wears against what is usual of its plastic, before any throw: as usual; standard deviations of a blend, and of a
 * disc within its blend. Normal rather than lognormal, since a disc that does not wear at all must be within reach.
 */
export const PACE = { mean: 1, blendSd: 0.7, discSd: 0.4 } as const
/** Variance of the pace of a disc of which no other tells. */
export const PACE_VARIANCE = PACE.blendSd ** 2 + PACE.discSd ** 2

/** Whose pace is asked for. Paces of discs come first, then those of blends. */
export interface Worn {
  /** Places of the discs whose throws found them in different states. */
  readonly discs: readonly number[]
  /** Blends that several of them are of: their names, and the paces of their discs, by place among `discs`. */
  readonly blends: readonly { readonly name: string; readonly paces: readonly number[] }[]
  /** Per pace of a disc: which of the blends it is of, if any. */
  readonly blendOf: readonly (number | undefined)[]
  /** Per disc: where its pace stands; undefined where it is as it was at every throw. */
  readonly paceOf: ReadonlyMap<number, number>
}
/** No disc has changed between its throws. */
export const UNWORN: Worn = { discs: [], blends: [], blendOf: [], paceOf: new Map() }

/** How many paces there are. */
export const paceCount = ({ discs, blends }: Worn): number => discs.length + blends.length
/** Where the pace of a blend stands. */
export const blendPace = ({ discs }: Worn, blend: number): number => discs.length + blend

/** Whose pace is asked for, of all the evidence. */
export function wornOf({ discs, throws }: Pick<Evidence, 'discs' | 'throws'>): Worn {
  const changed = new Set(throws.filter((t) => t.counts && (t.worn ?? 0) > LEAST).map((t) => t.disc))
  if (changed.size === 0) return UNWORN
  const places = discs.flatMap(({ id }, d) => (changed.has(id) ? [d] : []))
  const groups = new Map<string, number[]>()
  places.forEach((d, i) => {
    const name = discs[d]!.kin?.plastic
    if (name !== undefined) groups.set(name, [...(groups.get(name) ?? []), i])
  })
  const blends = [...groups].flatMap(([name, paces]) => (paces.length > 1 ? [{ name, paces }] : []))
  const blendOf = places.map((_, i) => {
    const found = blends.findIndex((b) => b.paces.includes(i))
    return found < 0 ? undefined : found
  })
  return { discs: places, blends, blendOf, paceOf: new Map(places.map((d, i) => [d, i])) }
}

/**
 * A disc's glide, turn and fade at a throw.
 *
 * @param numbers as it is now
 * @param worn what a disc of its plastic usually lost between then and now
 * @param pace how fast it wears against that
 */
export function numbersThen(numbers: Float64Array, worn: number, pace: number): Float64Array {
  if (worn === 0) return numbers
  const then = numbers.slice(0, OF_DISC)
  then[NUMBER.turn]! += WEAR_TURNS * worn * pace
  then[NUMBER.fade]! += (1 - WEAR_TURNS) * worn * pace
  return then
}

/** The pace of a disc; as usual where it is not asked for. */
export function paceOf({ worn, paces }: { worn: Worn; paces: Float64Array }, disc: number): number {
  const at = worn.paceOf.get(disc)
  return at === undefined ? PACE.mean : paces[at]!
}

/** What is believed of paces, as terms of a sum of squares: what is away from what, and its variance. */
export function paceBeliefs(
  worn: Worn,
  paces: Float64Array,
): {
  readonly at: number
  readonly from: number | undefined
  readonly away: number
  readonly variance: number
}[] {
  const own = worn.discs.map((_, at) => {
    const blend = worn.blendOf[at]
    if (blend === undefined)
      return { at, from: undefined, away: paces[at]! - PACE.mean, variance: PACE_VARIANCE }
    const from = blendPace(worn, blend)
    return { at, from, away: paces[at]! - paces[from]!, variance: PACE.discSd ** 2 }
  })
  const blends = worn.blends.map((_, b) => {
    const at = blendPace(worn, b)
    return { at, from: undefined, away: paces[at]! - PACE.mean, variance: PACE.blendSd ** 2 }
  })
  return [...own, ...blends]
}
