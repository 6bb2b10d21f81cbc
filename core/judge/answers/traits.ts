import { STILL_AIR } from '../../flight/air.ts'
import { fullSpeedWith } from '../../flight/arm.ts'
import { landing } from '../../flight/landing.ts'
import { cleanRelease } from '../../flight/release.ts'
import { numbersCovariance } from '../../rating/discrepancy.ts'
import type { Estimate } from '../../rating/outcome.ts'
import { OF_DISC } from '../../rating/places.ts'
import { sideIn } from '../../rating/sides.ts'
import type { FitState } from '../../rating/state.ts'
import { discOf } from '../../rating/asThrown.ts'

/** Something of a disc that goes with its numbers in a straight line near where they are believed to be. */
export interface Trait {
  /** The disc's place in the evidence. */
  readonly at: number
  readonly value: number
  /** How it goes with glide, turn and fade. */
  readonly by: readonly [glide: number, turn: number, fade: number]
}
/** A trait of a disc, by its id. @throws RangeError when the disc is not part of the fit */
export type TraitOf = (state: FitState, disc: string) => Trait

/** How far it flies to the fade side, m a 100 m. */
export const sideTrait: TraitOf = (state, disc) => {
  const { at } = discOf(state, disc)
  const { side, sideBy } = sideIn(state, at)
  return { at, value: side, by: sideBy }
}

/** How far to the fade side it finishes, m a 100 m. */
export const finishTrait: TraitOf = (state, disc) => {
  const { at } = discOf(state, disc)
  const { finish, finishBy } = sideIn(state, at)
  return { at, value: finish, by: finishBy }
}

/** One of its numbers. */
export const numberTrait =
  (number: 'glide' | 'fade'): TraitOf =>
  (state, disc) => {
    const { at } = discOf(state, disc)
    return number === 'glide'
      ? { at, value: state.numbers[at]![0]!, by: [1, 0, 0] }
      : { at, value: state.numbers[at]![2]!, by: [0, 0, 1] }
  }

/** Step of the differences, of a number. */
const NUDGE = 0.05

/** How far it carries, m, thrown flat and clean in still air at the full power of an arm, m/s. */
export const carryTrait =
  (armMps: number): TraitOf =>
  (state, disc) => {
    const { at, disc: rated } = discOf(state, disc)
    const { published, body } = rated
    const [glide, turn, fade] = state.numbers[at] as unknown as [number, number, number]
    const flown = (by: readonly number[]) =>
      landing(
        { speed: published.speed, glide: glide + by[0]!, turn: turn + by[1]!, fade: fade + by[2]! },
        body,
        cleanRelease(fullSpeedWith(armMps, published.speed)),
        STILL_AIR,
      ).carryM
    const slope = (k: number) => {
      const step = [0, 0, 0].map((_, i) => (i === k ? NUDGE : 0))
      return (flown(step) - flown(step.map((v) => -v))) / (2 * NUDGE)
    }
    return { at, value: flown([0, 0, 0]), by: [slope(0), slope(1), slope(2)] }
  }

/** Covariance of two discs' traits, the model's own error included. */
function together(state: FitState, a: Trait, b: Trait): number {
  const covariance = numbersCovariance(state, a.at, b.at)
  return a.by.reduce(
    (s, v, p) => s + b.by.reduce((t, w, q) => t + v * covariance[p * OF_DISC + q]! * w, 0),
    0,
  )
}

/**
 * By how much the mean of some discs is above the mean of others, exactly as the fit has it: no draws, which would move its last digit.
 * A disc on both sides counts for nothing.
 *
 * @param than none: the mean itself
 */
export function apart(state: FitState, some: readonly Trait[], than: readonly Trait[] = []): Estimate {
  const all = [
    ...some.map((trait) => ({ trait, share: 1 / some.length })),
    ...than.map((trait) => ({ trait, share: -1 / than.length })),
  ]
  const variance = all.reduce(
    (s, a) => s + all.reduce((t, b) => t + a.share * b.share * together(state, a.trait, b.trait), 0),
    0,
  )
  return {
    value: all.reduce((s, { trait, share }) => s + share * trait.value, 0),
    sd: Math.sqrt(Math.max(0, variance)),
  }
}
