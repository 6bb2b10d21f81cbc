import { deviation, mean } from 'd3'
import { STILL_AIR } from '../../flight/air.ts'
import { fullSpeedWith } from '../../flight/arm.ts'
import { landing } from '../../flight/landing.ts'
import { cleanRelease } from '../../flight/release.ts'
import { numbersCovariance } from '../../rating/discrepancy.ts'
import { drawn } from '../../rating/drawn.ts'
import type { Estimate } from '../../rating/outcome.ts'
import { OF_DISC } from '../../rating/places.ts'
import { sideIn } from '../../rating/sides.ts'
import { discOf } from '../asThrown.ts'
import type { FitState } from '../../rating/state.ts'

/** Draws of what has to be flown. */
export const FLOWN_DRAWS = 120

/**
 * Glide, turn and fade of some discs as they may well be: draws from the posterior of all of them together, the model's own error
 * included.
 *
 * @returns per draw the numbers of each disc in turn
 */
export function numberDraws(state: FitState, discs: readonly string[], count?: number): Float64Array[] {
  const asked = discs.map((id) => discOf(state, id).at)
  // drawn in one order, whichever they are asked in
  const at = asked.toSorted((a, b) => sideIn(state, b).side - sideIn(state, a).side)
  const from = asked.map((a) => at.indexOf(a) * OF_DISC)
  const n = at.length * OF_DISC
  const covariance = new Float64Array(n * n)
  at.forEach((a, i) =>
    at.forEach((b, j) => {
      const block = numbersCovariance(state, a, b)
      for (let p = 0; p < OF_DISC; p++)
        for (let q = 0; q < OF_DISC; q++)
          covariance[(i * OF_DISC + p) * n + j * OF_DISC + q] = block[p * OF_DISC + q]!
    }),
  )
  const mean = at.flatMap((a) => [...state.numbers[a]!])
  return drawn(mean, covariance, count).map((draw) =>
    Float64Array.from({ length: n }, (_, k) => draw[from[Math.floor(k / OF_DISC)]! + (k % OF_DISC)]!),
  )
}

/** How far one disc flies to the fade side of another, or of its label's side where there is none, m a 100 m. */
export function sideApart(state: FitState, disc: string, than: string | null, ofLabel: number): Estimate {
  const sideAt = (id: string) => {
    const { at } = discOf(state, id)
    return { at, ...sideIn(state, at) }
  }
  type Side = ReturnType<typeof sideAt>
  const together = (a: Side, b: Side) => {
    const covariance = numbersCovariance(state, a.at, b.at)
    return a.sideBy.reduce(
      (s, v, p) => s + b.sideBy.reduce((t, w, q) => t + v * covariance[p * OF_DISC + q]! * w, 0),
      0,
    )
  }
  const own = sideAt(disc)
  if (than === null) return { value: own.side - ofLabel, sd: Math.sqrt(together(own, own)) }
  const other = sideAt(than)
  const variance = together(own, own) + together(other, other) - 2 * together(own, other)
  return { value: own.side - other.side, sd: Math.sqrt(Math.max(0, variance)) }
}

/** Side and finish of some discs by draws, m a 100 m, as they follow the numbers: per draw a value a disc. */
export function sideDraws(
  state: FitState,
  discs: readonly string[],
  draws: readonly Float64Array[],
  which: 'side' | 'finish',
): Float64Array[] {
  const of = discs.map((id) => {
    const { at } = discOf(state, id)
    const slopes = sideIn(state, at)
    return { value: slopes[which], by: which === 'side' ? slopes.sideBy : slopes.finishBy, at }
  })
  return draws.map((draw) =>
    Float64Array.from(of, ({ value, by, at }, i) =>
      by.reduce((s, w, k) => s + w * (draw[i * OF_DISC + k]! - state.numbers[at]![k]!), value),
    ),
  )
}

/** Step of the differences, of a number. */
const NUDGE = 0.05

/** How far some discs carry, m, thrown flat and clean in still air at the full power of an arm, by draws, as it follows the numbers. */
export function carryDraws(
  state: FitState,
  discs: readonly string[],
  draws: readonly Float64Array[],
  armMps: number,
): Float64Array[] {
  const of = discs.map((id) => {
    const { at, disc } = discOf(state, id)
    const { published, body } = disc
    const [glide, turn, fade] = state.numbers[at] as unknown as [number, number, number]
    const flown = (by: readonly number[]) =>
      landing(
        { speed: published.speed, glide: glide + by[0]!, turn: turn + by[1]!, fade: fade + by[2]! },
        body,
        cleanRelease(fullSpeedWith(armMps, published.speed)),
        STILL_AIR,
      ).carryM
    const value = flown([0, 0, 0])
    const by = [0, 1, 2].map((k) => {
      const step = [0, 0, 0].map((_, i) => (i === k ? NUDGE : 0))
      return (flown(step) - flown(step.map((v) => -v))) / (2 * NUDGE)
    })
    return { at, value, by }
  })
  return draws.map((draw) =>
    Float64Array.from(of, ({ at, value, by }, i) =>
      by.reduce((s, w, k) => s + w * (draw[i * OF_DISC + k]! - state.numbers[at]![k]!), value),
    ),
  )
}

/** Mean and standard deviation of draws. */
export const estimateOf = (values: Iterable<number>): Estimate => {
  const list = [...values]
  return { value: mean(list)!, sd: deviation(list) ?? 0 }
}

/** Share of draws that something is true of, kept off 0 and 1: no finite number of throws is certain. */
export const shareOf = <T>(draws: readonly T[], is: (draw: T) => boolean): number =>
  Math.min(0.9999, Math.max(0.0001, draws.filter(is).length / draws.length))
