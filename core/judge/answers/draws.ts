import { deviation, mean } from 'd3'
import { numbersCovariance, sharedByModel } from '../../rating/discrepancy.ts'
import { drawn } from '../../rating/drawn.ts'
import type { Estimate } from '../../rating/outcome.ts'
import { OF_DISC } from '../../rating/places.ts'
import { sideIn } from '../../rating/sides.ts'
import { discOf } from '../../rating/asThrown.ts'
import type { FitState } from '../../rating/state.ts'
import { LEAST_SHARE } from './answer.ts'
import type { TraitOf } from './traits.ts'

/** Draws of what has to be flown. */
export const FLOWN_DRAWS = 120

/**
 * Glide, turn and fade of some discs as they may well be: draws from the posterior of all of them together, the model's own error
 * included.
 *
 * @returns per draw the numbers of each disc in turn
 */
export function numberDraws(state: FitState, discs: readonly string[], count?: number): Float64Array[] {
  const { at, asked } = inOneOrder(state, discs)
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

/** Discs by their places in the fit, as they are asked for and in the one order they are drawn in, however they are asked for. */
function inOneOrder(state: FitState, discs: readonly string[]) {
  const asked = discs.map((id) => discOf(state, id).at)
  return { asked, at: asked.toSorted((a, b) => sideIn(state, b).side - sideIn(state, a).side) }
}

/** Where the draws of the model's own error begin: they have nothing to do with those of numbers. */
const OF_MODEL = 0.25

/**
 * How far off the model itself may be in what it says of some discs in conditions they were not thrown in, beside their numbers: draws,
 * per disc a value. Discs of one mold share part of it.
 *
 * @param variance of one disc, per share in which residuals go together
 */
export function modelDraws(
  state: FitState,
  discs: readonly string[],
  variance: number,
  count?: number,
): Float64Array[] {
  const { at, asked } = inOneOrder(state, discs)
  const covariance = Float64Array.from(
    at.flatMap((a) => at.map((b) => variance * state.discrepancy * sharedByModel(state, a, b))),
  )
  return drawn(
    at.map(() => 0),
    covariance,
    count,
    OF_MODEL,
  ).map((draw) => Float64Array.from(asked, (a) => draw[at.indexOf(a)]!))
}

/** A trait of some discs by draws of their numbers: per draw a value a disc. */
export function traitDraws(
  state: FitState,
  discs: readonly string[],
  draws: readonly Float64Array[],
  trait: TraitOf,
): Float64Array[] {
  const of = discs.map((id) => trait(state, id))
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
  Math.min(1 - LEAST_SHARE, Math.max(LEAST_SHARE, draws.filter(is).length / draws.length))
