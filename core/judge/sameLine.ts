import { AT, MOVES, POINT } from '../rating/places.ts'
import { group } from 'd3'
import { DEGREE } from '../flight/units.ts'
import type { Arm } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { linearise, SEEN, SEEN_ROWS } from '../rating/linear.ts'
import { probabilityAbove } from '../rating/outcome.ts'
import { beliefOf, contrastPlaces } from '../plan/information.ts'
import { hyzerHabit, throwReach } from '../rating/throwTerm.ts'
import type { Belief } from '../plan/information.ts'
import { flownIn, numbersAt, pointMeant, releaseAt } from '../rating/asThrown.ts'
import type { PlannedThrow } from '../rating/asThrown.ts'
import { findAngle } from './findAngle.ts'

/** The angle somebody must mean for a disc to finish on the aim line, or why there is none. */
export type LineAngle = { readonly disc: string } & (
  | {
      readonly found: true
      /** Of hyzer, as meant: the thrower's habit is allowed for. */
      readonly hyzerRad: number
      /** What is not known of the disc and the habit; a single throw scatters beside that. */
      readonly sdRad: number
      /** Where on the line it comes down. */
      readonly carryM: number
    }
  | { readonly found: false; readonly why: string }
)

/** How many degrees more one disc needs than another. */
export interface LinePair {
  readonly a: string
  readonly b: string
  readonly moreRad: number
  readonly sdRad: number
  /** Probability that a needs more hyzer than b. */
  readonly pAMore: number
}

/** A disc's angle moves so much with each of its numbers, its thrower's habits and the aim line. */
interface Slopes {
  readonly angle: Extract<LineAngle, { found: true }>
  readonly places: readonly number[]
  readonly slopes: readonly number[]
}

/** The angle of one disc and how it moves with what is not known; or why there is none. */
function slopesOf(
  state: FitState,
  belief: Belief,
  planned: Omit<PlannedThrow, 'hyzerRad'>,
  arms: readonly Arm[],
): Slopes | Extract<LineAngle, { found: false }> {
  const {
    disc: { at, disc },
    arm,
    point,
  } = pointMeant(state, { ...planned, hyzerRad: 0 }, arms)
  const found = findAngle(numbersAt(disc, point), disc.body, releaseAt(point), planned.air, {
    kind: 'finish on the line',
  })
  if (!found.found) return { disc: planned.disc, found: false, why: found.why }
  point[AT.hyzer] = found.hyzerRad
  const jacobian = new Float64Array(SEEN * POINT)
  linearise(flownIn(disc, planned.air), point, new Float64Array(SEEN), jacobian)
  const row = SEEN_ROWS.veer * POINT
  const byAngle = jacobian[row + AT.hyzer]!
  // what moves the landing aside is made up for by the angle
  const slopes = [...throwReach(planned, disc)].map(
    (reach, k) => (-reach * jacobian[row + MOVES[k]!]!) / byAngle,
  )
  const places = [...contrastPlaces(belief, at, belief.arms.indexOf(planned.arm), planned)]
  const own = { places, slopes }
  return {
    ...own,
    angle: {
      disc: planned.disc,
      found: true,
      hyzerRad: found.hyzerRad - hyzerHabit(disc.published.speed, arm.habit),
      sdRad: Math.sqrt(Math.max(0, covariance(belief, own, own))),
      carryM: found.carryM,
    },
  }
}

type Weighted = Pick<Slopes, 'places' | 'slopes'>
function covariance({ covariance: c, size }: Belief, a: Weighted, b: Weighted): number {
  let s = 0
  a.places.forEach((p, i) =>
    b.places.forEach((q, j) => (s += a.slopes[i]! * b.slopes[j]! * c[p * size + q]!)),
  )
  return s
}

/**
 * The angles it takes for discs to finish on the aim line, thrown alike by one arm: the most believable angle, how far it may
 * be off by what is not known of disc and habit (first order, with all that discs and habit have in common), and how many
 * degrees one disc needs more than another. A disc that needs more hyzer turns more; this is how the same-line protocol
 * compares discs.
 *
 * @param discs which discs, each once
 * @param planned arm, power and air of the throws
 * @param arms full speeds of arms that have not thrown yet
 * @throws RangeError when a disc or the arm is not known
 */
export function lineAngles(
  state: FitState,
  discs: readonly string[],
  planned: Omit<PlannedThrow, 'hyzerRad' | 'disc'>,
  arms: readonly Arm[] = [],
): { readonly angles: readonly LineAngle[]; readonly pairs: readonly LinePair[] } {
  const belief = beliefOf(state, arms)
  if (!belief.arms.includes(planned.arm))
    throw new RangeError(`${planned.arm} is not among the throwers of this fit.`)
  const all = discs.map((disc) => slopesOf(state, belief, { ...planned, disc }, arms))
  const known = all.filter((x): x is Slopes => 'angle' in x)
  const pairs = known.flatMap((x, i) =>
    known.slice(i + 1).map((y): LinePair => {
      const [a, b] = x.angle.hyzerRad >= y.angle.hyzerRad ? [x, y] : [y, x]
      const moreRad = a.angle.hyzerRad - b.angle.hyzerRad
      const variance = covariance(belief, a, a) + covariance(belief, b, b) - 2 * covariance(belief, a, b)
      const sdRad = Math.sqrt(Math.max(0, variance))
      return { a: a.angle.disc, b: b.angle.disc, moreRad, sdRad, pAMore: probabilityAbove(moreRad, sdRad) }
    }),
  )
  return { angles: all.map((x) => ('angle' in x ? x.angle : x)), pairs }
}

/**
 * The same throws, each at the angle that brings its disc back to the line, in their order; where no angle does, as they are.
 *
 * @param throws of discs and arms that are known
 */
export function broughtToLine<T extends PlannedThrow>(
  state: FitState,
  throws: readonly T[],
  arms: readonly Arm[] = [],
): T[] {
  const alike = group(throws, ({ arm, power, air }) => JSON.stringify([arm, power, air]))
  const angles = new Map(
    [...alike].map(([key, list]) => {
      const { angles: told } = lineAngles(state, [...new Set(list.map((t) => t.disc))], list[0]!, arms)
      return [key, new Map(told.map((a) => [a.disc, a.found ? a.hyzerRad : undefined]))]
    }),
  )
  return throws.map((t) => {
    const { arm, power, air, disc } = t
    return { ...t, hyzerRad: angles.get(JSON.stringify([arm, power, air]))?.get(disc) ?? t.hyzerRad }
  })
}

/** A throw that finishes this near the aim line is on it, m: what a throw scatters anyway. */
export const ON_THE_LINE = { leastM: 2, shareOfCarry: 0.04 }

/** Whether a throw finished on the aim line. */
export const onTheLine = (carryM: number, sideM: number): boolean =>
  Math.abs(sideM) <= Math.max(ON_THE_LINE.leastM, ON_THE_LINE.shareOfCarry * carryM)

/** Whole degrees, as angles are meant. */
export const wholeDegrees = (rad: number): number => Math.round(rad / DEGREE) + 0
