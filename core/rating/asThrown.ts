import { AT, HABIT, OF_HABIT, POINT } from './places.ts'
import type { Air } from '../flight/air.ts'
import { pathPoints, tracePath } from '../flight/path.ts'
import type { PathPoint } from '../flight/path.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import { REFERENCE_LAUNCH, RELEASE_HEIGHT, SPIN_PER_MPS } from '../flight/release.ts'
import type { Release } from '../flight/release.ts'
import { TYPICAL_FULL_SPEED } from './evidence.ts'
import type { Arm, RatedDisc, ThrowEvidence } from './evidence.ts'
import type { FitState } from './state.ts'
import { clampPoint } from './linear.ts'
import type { Circumstances } from './linear.ts'
import { settleAlone } from './eliminate.ts'
import { hyzerHabit, lnMeant, makeTerm, placeTerm } from './throwTerm.ts'
import { outingKey } from './warm.ts'
import type { PlanPoint } from '../flight/path.ts'

/** A throw somebody is about to make. */
export interface PlannedThrow {
  readonly disc: string
  readonly arm: string
  /** The outing it is thrown on, and on which side it fades, where its aim line is known. */
  readonly outing?: string
  readonly fadeSign?: 1 | -1
  readonly power: number
  readonly hyzerRad: number
  /** Aim that is meant off the line, positive to the fade side; along the line where absent. */
  readonly aimRad?: number
  readonly air: Air
}

/** What the fit believes of an arm; the prior where it has not thrown. */
export function armOf(state: FitState, id: string, arms: readonly Arm[]) {
  const at = state.evidence.arms.findIndex((a) => a.id === id)
  const known = at >= 0 ? state.evidence.arms[at] : arms.find((a) => a.id === id)
  const lnFull = Math.log(known?.fullSpeedMps ?? TYPICAL_FULL_SPEED)
  return {
    at,
    /** Whether somebody measured its full speed. */
    known: known?.fullSpeedMps !== undefined,
    lnFull,
    habit: at >= 0 ? state.habits[at]! : new Float64Array(OF_HABIT),
    scale: at >= 0 ? state.scales[at]! : 1,
  }
}

/** The aim line of an outing as the fit has it; straight where nothing was thrown on it. */
export function aimOf(state: FitState, t: Pick<PlannedThrow, 'outing'>): { at: number; aim: number } {
  const at = state.outings.indexOf(outingKey(t))
  return { at, aim: at < 0 ? 0 : state.aims[at]! }
}

/** A disc of a fit, and its place there. @throws RangeError where there is none of that id */
export function discOf(state: FitState, id: string): { at: number; disc: RatedDisc } {
  const at = state.evidence.discs.findIndex((d) => d.id === id)
  if (at < 0) throw new RangeError(`Disc ${id} is not among the discs of this fit.`)
  return { at, disc: state.evidence.discs[at]! }
}

/** What the flight of a disc depends on besides the point, its side seen nowhere. */
export const flownIn = ({ published, body }: RatedDisc, air: Air): Circumstances => ({
  speed: published.speed,
  body,
  densityKgM3: air.densityKgM3,
  midX: 0,
  spinRadps: 0,
})

/** The disc's numbers at a point. */
export const numbersAt = (disc: RatedDisc, point: Float64Array): FlightNumbers => ({
  speed: disc.published.speed,
  glide: point[AT.glide]!,
  turn: point[AT.turn]!,
  fade: point[AT.fade]!,
})

/** The release at a point; its spin follows the speed where nobody measured it. */
export function releaseAt(point: Float64Array, spinRadps?: number): Release {
  const speedMps = Math.exp(point[AT.lnSpeed]!)
  return {
    speedMps,
    launchRad: point[AT.launch]!,
    hyzerRad: point[AT.hyzer]!,
    noseRad: point[AT.nose]!,
    azimuthRad: point[AT.azimuth]!,
    spinRadps: spinRadps ?? SPIN_PER_MPS * speedMps * Math.exp(point[AT.lnSpin]!),
    heightM: RELEASE_HEIGHT,
    wobble: 0,
  }
}

/** The point of a throw before it is made: numbers and habit as the fit has them, the release as it is meant. */
export function pointMeant(
  state: FitState,
  planned: PlannedThrow,
  arms: readonly Arm[] = [],
): {
  readonly disc: ReturnType<typeof discOf>
  readonly arm: ReturnType<typeof armOf>
  readonly point: Float64Array
} {
  const disc = discOf(state, planned.disc)
  const arm = armOf(state, planned.arm, arms)
  const point = new Float64Array(POINT)
  point.set(state.numbers[disc.at]!)
  point[AT.lnSpeed] = lnMeant(arm.lnFull, planned.power, disc.disc.published.speed, arm.habit)
  point[AT.launch] = REFERENCE_LAUNCH + arm.habit[HABIT.launch]!
  point[AT.hyzer] = planned.hyzerRad + hyzerHabit(disc.disc.published.speed, arm.habit)
  point[AT.nose] = arm.habit[HABIT.nose]!
  point[AT.azimuth] = (planned.aimRad ?? 0) + (planned.fadeSign ?? 1) * aimOf(state, planned).aim
  point[AT.along] = planned.air.windAlongMps
  point[AT.toFade] = planned.air.windTowardFadeMps
  point[AT.lnSpin] = arm.habit[HABIT.lnSpin]!
  return { disc, arm, point }
}

/** So many points of the flight at a point. */
export function flightOf(
  disc: RatedDisc,
  point: Float64Array,
  air: Air,
  count: number,
  spinRadps?: number,
): PathPoint[] {
  const path = tracePath(numbersAt(disc, point), disc.body, releaseAt(point, spinRadps), {
    ...air,
    windAlongMps: point[AT.along]!,
    windTowardFadeMps: point[AT.toFade]!,
    shearExponent: 0,
  })
  return pathPoints(path, count)
}

/** The plan of the flight at a point. */
export const planOf = (disc: RatedDisc, point: Float64Array, air: Air, spinRadps?: number): PlanPoint[] =>
  flightOf(disc, point, air, 40, spinRadps).map(({ x, y }) => ({ x, y }))

/**
 * The most believable point of a throw (numbers, release, wind; see linear.ts) to what was seen of it, the disc's
 * numbers and the arm's habit as the fit has them.
 *
 * @param arms full speeds of arms that have not thrown yet
 * @throws RangeError when the disc is not part of the fit
 */
export function pointAsThrown(
  state: FitState,
  thrown: ThrowEvidence,
  arms: readonly Arm[] = [],
): Float64Array {
  const { at, disc } = discOf(state, thrown.disc)
  const arm = armOf(state, thrown.arm, arms)
  const term = makeTerm(thrown, disc, at, Math.max(0, arm.at), 0, '')
  const { aim } = aimOf(state, thrown)
  settleAlone(term, () => placeTerm(term, state.numbers[at]!, arm.lnFull, arm.habit, aim))
  clampPoint(term.point)
  return term.point
}

/**
 * The most believable path of a throw to where it landed (and through its bend, where one was seen), the disc's
 * numbers and the arm's habit as the fit has them. What is left unexplained is spread along the path.
 *
 * @throws RangeError when the disc is not part of the fit
 */
export function pathAsThrown(state: FitState, thrown: ThrowEvidence, arms: readonly Arm[] = []): PlanPoint[] {
  const { disc } = discOf(state, thrown.disc)
  const plan = planOf(disc, pointAsThrown(state, thrown, arms), thrown.air, thrown.spinRadps)
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
