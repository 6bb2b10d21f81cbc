import type { SolvedArrow } from './arrow.ts'
import type { Base } from './base.ts'
import { aimColumn, effectColumn, ownVariances } from './beliefs.ts'
import { AIM_LINE_SD, habitSdsOf } from './evidence.ts'
import type { Evidence, RatedDisc } from './evidence.ts'
import { effectKey, effectPrior, kinshipOf } from './kin.ts'
import { OF_DISC, OF_HABIT } from './places.ts'

/** The unknowns that a few more throws touch, as a fit has them: their means, and how they go together. */

/** One of a disc's own numbers, or a weighted sum of what stands in the border and a belief of its own. */
export interface Entry {
  readonly mean: number
  /** A disc's place in the fit, and which of its numbers. */
  readonly own?: readonly [number, number]
  /** Border columns and their weights. */
  readonly border: readonly (readonly [number, number])[]
  /** Variance that goes together with nothing in the fit. */
  readonly apart: number
}

/** Glide, turn and fade of a disc of the fit. */
export const ownEntries = ({ numbers }: Base, place: number): Entry[] =>
  Array.from({ length: OF_DISC }, (_, k) => ({
    mean: numbers[place]![k]!,
    own: [place, k] as const,
    border: [],
    apart: 0,
  }))

/** The same of a disc that the fit does not have: its label, and what its kin have shown. */
function newEntries(base: Base, disc: RatedDisc): Entry[] {
  const { published } = disc
  const discs = [...base.discs, disc]
  const kinship = kinshipOf(discs)
  const place = discs.length - 1
  const own = ownVariances({ discs, kinship }, base.spread, place)
  const named = new Map(base.kinship.effects.map((e, i) => [effectKey(e.level, e.names), i]))
  return [published.glide, published.turn, published.fade].map((label, k): Entry => {
    let [mean, apart] = [label, own[k]!]
    const border: [number, number][] = []
    for (const { effect, weight } of kinship.of[place]!) {
      const { level, names } = kinship.effects[effect]!
      const known = named.get(effectKey(level, names))
      const prior = effectPrior(level, base.spread)
      mean += weight * (known === undefined ? prior.mean[k]! : base.effects[known]![k]!)
      if (known === undefined) apart += weight * weight * prior.variance[k]!
      else border.push([effectColumn(base.arms.length, known) + k, weight])
    }
    return { mean, border, apart }
  })
}

/**
 * Every touched unknown: glide, turn and fade of each disc, then each arm's habit, then each outing's aim line; what the fit does not
 * have as it is believed before any throw.
 */
export function entriesOf(
  base: Base,
  { discs, arms }: Pick<Evidence, 'discs' | 'arms'>,
  outings: readonly string[],
): Entry[] {
  const places = <T>(known: readonly T[]) => new Map(known.map((id, i) => [id, i]))
  const discAt = places(base.discs.map((d) => d.id))
  const armAt = places(base.arms.map((a) => a.id))
  const outingAt = places(base.outings)
  const column = (at: number, mean: number): Entry => ({ mean, border: [[at, 1]], apart: 0 })
  const believed = (sd: number): Entry => ({ mean: 0, border: [], apart: sd * sd })
  return [
    ...discs.flatMap((d) => {
      const place = discAt.get(d.id)
      return place === undefined ? newEntries(base, d) : ownEntries(base, place)
    }),
    ...arms.flatMap((a) => {
      const place = armAt.get(a.id)
      if (place === undefined) return habitSdsOf(a).map(believed)
      return Array.from(base.habits[place]!, (habit, k) => column(place * OF_HABIT + k, habit))
    }),
    ...outings.map((o) => {
      const place = outingAt.get(o)
      if (place === undefined) return believed(AIM_LINE_SD)
      return column(aimColumn(base.arms.length, base.kinship.effects.length, place), base.aims[place]!)
    }),
  ]
}

/** How anything in a fit goes together with some entries: covariances with each of them. */
export function togetherWith(solved: SolvedArrow, entries: readonly Entry[]): (e: Entry) => Float64Array {
  const { border, columns, gain, ownInverse, sharedCovariance } = solved
  /** Which columns of the border an entry leans on, and how: a disc's numbers by their gain. */
  const leansOn = ({ own, border: weights }: Entry) => {
    if (!own) return { at: weights.map(([at]) => at), by: weights.map(([, weight]) => weight) }
    const [place, k] = own
    const at = columns[place]!
    return { at, by: gain[place]!.subarray(k * at.length, (k + 1) * at.length).map((g) => -g) }
  }
  const through = entries.map((e) => {
    const row = new Float64Array(border)
    const { at, by } = leansOn(e)
    for (let a = 0; a < at.length; a++) {
      const from = at[a]! * border
      for (let q = 0; q < border; q++) row[q]! += by[a]! * sharedCovariance[from + q]!
    }
    return row
  })
  return (e) => {
    const { at, by } = leansOn(e)
    const result = new Float64Array(entries.length)
    for (let i = 0; i < entries.length; i++) {
      const [o, row] = [entries[i]!, through[i]!]
      let s = e === o ? e.apart : 0
      for (let a = 0; a < at.length; a++) s += by[a]! * row[at[a]!]!
      if (e.own && o.own && e.own[0] === o.own[0])
        s += ownInverse[e.own[0] * 9 + e.own[1] * OF_DISC + o.own[1]]!
      result[i] = s
    }
    return result
  }
}
