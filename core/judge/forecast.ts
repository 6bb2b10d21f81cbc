import type { Air } from '../flight/air.ts'
import { pathPoints, tracePath } from '../flight/path.ts'
import { REFERENCE_LAUNCH, RELEASE_HEIGHT, SPIN_PER_MPS } from '../flight/release.ts'
import { discBorderCovariance, discCovariance, OF_HABIT } from '../rating/arrow.ts'
import { HABIT_SD, THROW_SD, TYPICAL_FULL_SPEED } from '../rating/evidence.ts'
import type { Arm, RatedDisc, ThrowEvidence } from '../rating/evidence.ts'
import type { FitState } from '../rating/fit.ts'
import { linearise, OF_DISC, OF_THROW, POINT, SEEN, SEEN_ROWS } from '../rating/linear.ts'
import { eliminate, makeTerm, placeTerm, updateLatents, BEARS_ON } from '../rating/throwTerm.ts'
import type { PlanPoint } from './corrected.ts'

/** A throw somebody is about to make. */
export interface PlannedThrow {
  readonly disc: string
  readonly arm: string
  readonly power: number
  readonly hyzerRad: number
  readonly air: Air
}

/** Where a planned throw is expected, in the frame of the throw. */
export interface Forecast {
  readonly carryM: number
  readonly veerM: number
  /** Covariance of (carry, veer), m²: var carry, covariance, var veer. */
  readonly covariance: readonly [number, number, number]
  readonly path: readonly PlanPoint[]
}

/** What the fit believes of an arm; the prior where it has not thrown. */
function armOf(state: FitState, id: string, arms: readonly Arm[]) {
  const at = state.evidence.arms.findIndex((a) => a.id === id)
  const known = at >= 0 ? state.evidence.arms[at] : arms.find((a) => a.id === id)
  const lnFull = Math.log(known?.fullSpeedMps ?? TYPICAL_FULL_SPEED)
  return {
    at,
    lnFull,
    habit: at >= 0 ? state.habits[at]! : new Float64Array(OF_HABIT),
    scale: at >= 0 ? state.scales[at]! : 1,
  }
}

function discOf(state: FitState, id: string): { at: number; disc: RatedDisc } {
  const at = state.evidence.discs.findIndex((d) => d.id === id)
  if (at < 0) throw new RangeError(`Disc ${id} is not among the discs of this fit.`)
  return { at, disc: state.evidence.discs[at]! }
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
  const { at, disc } = discOf(state, planned.disc)
  const arm = armOf(state, planned.arm, arms)
  const point = new Float64Array(POINT)
  point.set(state.numbers[at]!)
  point[3] = arm.lnFull + Math.log(planned.power) + arm.habit[0]!
  point[4] = REFERENCE_LAUNCH + arm.habit[1]!
  point[5] = planned.hyzerRad + arm.habit[2]!
  point[6] = arm.habit[3]!
  point[8] = planned.air.windAlongMps
  point[9] = planned.air.windTowardFadeMps
  const seen = new Float64Array(SEEN)
  const jacobian = new Float64Array(SEEN * POINT)
  linearise(disc.published.speed, disc.body, planned.air.densityKgM3, point, 0, seen, jacobian)

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
        s += cross(i, j) * (slope(a, i) * slope(b, 3 + j) + slope(b, i) * slope(a, 3 + j))
    }
    for (let i = 0; i < OF_HABIT; i++)
      for (let j = 0; j < OF_HABIT; j++) s += slope(a, 3 + i) * habitCovariance(i, j) * slope(b, 3 + j)
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

function planOf(disc: RatedDisc, point: Float64Array, air: Air): PlanPoint[] {
  const speedMps = Math.exp(point[3]!)
  const path = tracePath(
    { speed: disc.published.speed, glide: point[0]!, turn: point[1]!, fade: point[2]! },
    disc.body,
    {
      speedMps,
      launchRad: point[4]!,
      hyzerRad: point[5]!,
      noseRad: point[6]!,
      azimuthRad: point[7]!,
      spinRadps: SPIN_PER_MPS * speedMps,
      heightM: RELEASE_HEIGHT,
      wobble: 0,
    },
    { ...air, windAlongMps: point[8]!, windTowardFadeMps: point[9]!, shearExponent: 0 },
  )
  return pathPoints(path, 40).map(({ x, y }) => ({ x, y }))
}

/** Rounds in which a single throw's latents settle. */
const ROUNDS = 6

/**
 * The most believable path of a throw to where it landed (and through its bend, where one was seen), the disc's
 * numbers and the arm's habit as the fit has them. What is left unexplained is spread along the path.
 *
 * @throws RangeError when the disc is not part of the fit
 */
export function pathAsThrown(state: FitState, thrown: ThrowEvidence, arms: readonly Arm[] = []): PlanPoint[] {
  const { at, disc } = discOf(state, thrown.disc)
  const arm = armOf(state, thrown.arm, arms)
  const term = makeTerm(thrown, at, Math.max(0, arm.at), '')
  const still = new Float64Array(BEARS_ON)
  for (let i = 0; i < ROUNDS; i++) {
    placeTerm(term, state.numbers[at]!, arm.lnFull, arm.habit)
    eliminate(term, disc)
    updateLatents(term, still)
  }
  placeTerm(term, state.numbers[at]!, arm.lnFull, arm.habit)
  const plan = planOf(disc, term.point, thrown.air)
  const end = plan[plan.length - 1]!
  // what is still missing at the landing grows along the path; what is missing at the bend swells and is gone again
  const landed = plan.map(({ x, y }) => {
    const share = end.x === 0 ? 1 : x / end.x
    return { x: x + share * (thrown.carryM - end.x), y: y + share ** 2 * (thrown.veerM - end.y) }
  })
  const { mid } = thrown
  if (!mid || mid.downM >= thrown.carryM) return landed
  const bend = landed.findIndex((p) => p.x >= mid.downM)
  const [a, b] = [landed[bend - 1], landed[bend]]
  if (!a || !b) return landed
  const missing = mid.veerM - (a.y + ((b.y - a.y) * (mid.downM - a.x)) / (b.x - a.x))
  const swell = (x: number) => (x / thrown.carryM) ** 2 * (1 - x / thrown.carryM)
  return landed.map(({ x, y }) => ({ x, y: y + (missing * swell(x)) / swell(mid.downM) }))
}
