import { OF_DISC, OF_HABIT, OF_THROW, POINT } from '../rating/places.ts'
import { discBorderCovariance, discCovariance } from '../rating/arrow.ts'
import { HABIT_SD, THROW_SD } from '../rating/evidence.ts'
import type { Arm } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { linearise, SEEN, SEEN_ROWS } from '../rating/linear.ts'
import { flownIn, planOf, pointMeant } from './asThrown.ts'
import type { PlannedThrow } from './asThrown.ts'
import type { PlanPoint } from './corrected.ts'

/** Where a planned throw is expected, in the frame of the throw. */
export interface Forecast {
  readonly carryM: number
  readonly veerM: number
  /** Covariance of (carry, veer), m²: var carry, covariance, var veer. */
  readonly covariance: readonly [number, number, number]
  readonly path: readonly PlanPoint[]
}

/**
 * Throws scatter like a Student-t with 4 degrees of freedom. In the plane two thirds of such a scatter lie within
 * 2·(√3 − 1) squared scales, two thirds of a Gaussian within ln 3: the Gaussian that agrees is this much wider.
 */
const TAILS = (2 * (Math.sqrt(3) - 1)) / Math.log(3)
/** Metres squared of landing error by eye, added to what the flight itself may do. */
const SEEN_VARIANCE = 1

/**
 * Expected landing of a planned throw with its covariance: what is not known of the disc and the habit, and what
 * a release and the wind vary from throw to throw.
 *
 * @param arms full speeds of arms that have not thrown yet
 * @throws RangeError when the disc is not part of the fit
 */
export function forecastThrow(state: FitState, planned: PlannedThrow, arms: readonly Arm[] = []): Forecast {
  const {
    disc: { at, disc },
    arm,
    point,
  } = pointMeant(state, planned, arms)
  const seen = new Float64Array(SEEN)
  const jacobian = new Float64Array(SEEN * POINT)
  linearise(flownIn(disc, planned.air), point, seen, jacobian)

  const own = discCovariance(state.posterior, at, at)
  const { border } = state.posterior
  const toBorder = discBorderCovariance(state.posterior, at)
  const cross = (i: number, j: number) => (arm.at < 0 ? 0 : toBorder[i * border + arm.at * OF_HABIT + j]!)
  const slope = (row: number, column: number) => jacobian[row * POINT + column]!
  const habitCovariance = (i: number, j: number) => {
    if (arm.at < 0) return i === j ? HABIT_SD[i]! ** 2 : 0
    return state.posterior.sharedCovariance[(arm.at * OF_HABIT + i) * border + arm.at * OF_HABIT + j]!
  }
  const covarianceOf = (a: number, b: number) => {
    let s = a === b ? SEEN_VARIANCE : 0
    for (let i = 0; i < OF_DISC; i++) {
      for (let j = 0; j < OF_DISC; j++) s += slope(a, i) * own[i * OF_DISC + j]! * slope(b, j)
      for (let j = 0; j < OF_HABIT; j++)
        s += cross(i, j) * (slope(a, i) * slope(b, OF_DISC + j) + slope(b, i) * slope(a, OF_DISC + j))
    }
    for (let i = 0; i < OF_HABIT; i++)
      for (let j = 0; j < OF_HABIT; j++)
        s += slope(a, OF_DISC + i) * habitCovariance(i, j) * slope(b, OF_DISC + j)
    for (let i = 0; i < OF_THROW; i++)
      s += arm.scale * TAILS * slope(a, OF_DISC + i) * THROW_SD[i]! ** 2 * slope(b, OF_DISC + i)
    return s
  }
  const { carry, veer } = SEEN_ROWS
  return {
    carryM: seen[carry]!,
    veerM: seen[veer]!,
    covariance: [covarianceOf(carry, carry), covarianceOf(carry, veer), covarianceOf(veer, veer)],
    path: planOf(disc, point, planned.air),
  }
}
