import { BEARS_ON, MOVES, OF_DISC, OF_THROW, POINT } from '../rating/places.ts'
import { covarianceBorne } from '../rating/borne.ts'
import { THROW_SD } from '../rating/evidence.ts'
import type { Arm } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { linearise, SEEN, SEEN_ROWS } from '../rating/linear.ts'
import { throwReach } from '../rating/throwTerm.ts'
import { flownIn, planOf, pointMeant } from '../rating/asThrown.ts'
import type { PlannedThrow } from '../rating/asThrown.ts'
import type { PlanPoint } from '../flight/path.ts'

/** Where a planned throw is expected, in the frame of the throw. */
export interface Forecast {
  readonly carryM: number
  readonly veerM: number
  /** Covariance of (carry, veer), m²: var carry, covariance, var veer. */
  readonly covariance: readonly [number, number, number]
  readonly path: readonly PlanPoint[]
}

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

  const borne = covarianceBorne(state, at, planned, arms)
  const reach = throwReach(planned, disc)
  const slope = (row: number, k: number) => reach[k]! * jacobian[row * POINT + MOVES[k]!]!
  const ofError = (row: number, i: number) => jacobian[row * POINT + OF_DISC + i]!
  const covarianceOf = (a: number, b: number) => {
    let s = a === b ? SEEN_VARIANCE : 0
    for (let i = 0; i < BEARS_ON; i++)
      for (let j = 0; j < BEARS_ON; j++) s += slope(a, i) * borne[i * BEARS_ON + j]! * slope(b, j)
    for (let i = 0; i < OF_THROW; i++) s += arm.scale * ofError(a, i) * THROW_SD[i]! ** 2 * ofError(b, i)
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
