import { rollups } from 'd3'
import type { FitState } from '../rating/state.ts'
import { ARM_SPEED_NUMBER } from '../flight/arm.ts'
import { lnMeant } from '../rating/throwTerm.ts'
import { armOf, discOf, numbersAt } from '../rating/asThrown.ts'
import { likeness, flightSpreadOf } from './likeness.ts'
import type { FlownDisc, Likeness, FlightSpread } from './likeness.ts'
import { tellingShot } from './tellingShot.ts'
import type { TellingShot } from './tellingShot.ts'

/** How two discs of a trial fly beside each other, and the spread of two throws of one disc by the same arm. */
export interface FlewLike extends Likeness {
  readonly spread: FlightSpread
  /** Of the arm: full power with a disc of speed 9 (V₉). */
  readonly armMps: number
  /** What tells them apart. */
  readonly shot: TellingShot
}

/**
 * How far two throws of one disc meant alike lie apart, thrown by an arm at full power: discs closer than that cannot be told
 * apart by a throw.
 *
 * @throws RangeError when the disc is not part of the fit
 */
export function armSpread(state: FitState, arm: string, disc: string): FlightSpread | undefined {
  const armMps = armSpeed(state, arm)
  return armMps === undefined
    ? undefined
    : flightSpreadOf(flownDisc(state, disc), armMps, Math.sqrt(armOf(state, arm, []).scale))
}

const flownDisc = (state: FitState, id: string): FlownDisc => {
  const { at, disc } = discOf(state, id)
  return { numbers: numbersAt(disc, state.numbers[at]!), body: disc.body }
}

/**
 * Whether two discs fly alike, as the throws of a trial have them.
 *
 * @param at V₉ of the arm they are thrown by, m/s: full power of the arm that threw most of them unless told otherwise
 * @returns undefined before both discs have a throw that counts
 */
export function flewLike(state: FitState, disc: string, other: string, at?: number): FlewLike | undefined {
  const counted = state.evidence.throws.filter((t) => t.counts)
  if (![disc, other].every((d) => counted.some((t) => t.disc === d))) return undefined
  const { noise, ...busiest } = busiestArm(state)!
  const armMps = at ?? busiest.armMps
  const [a, b] = [flownDisc(state, disc), flownDisc(state, other)]
  return { ...likeness(a, b, armMps, noise), armMps, shot: tellingShot(a, b, armMps, noise) }
}

/** The arm that threw most of the throws that count: its V₉, m/s, and its noise against the usual; undefined before any counts. */
export function busiestArm(
  state: FitState,
): { readonly id: string; readonly armMps: number; readonly noise: number } | undefined {
  const [most] = rollups(
    state.evidence.throws.filter((t) => t.counts),
    (list) => list.length,
    (t) => t.arm,
  ).sort((a, b) => b[1] - a[1])
  if (!most) return undefined
  return {
    id: most[0],
    armMps: armSpeed(state, most[0])!,
    noise: Math.sqrt(armOf(state, most[0], []).scale),
  }
}

/** V₉ of an arm, m/s, its habit included, as the fit has it; undefined where it has not thrown. */
export function armSpeed(state: FitState, id: string): number | undefined {
  const arm = armOf(state, id, [])
  return arm.at < 0 ? undefined : Math.exp(lnMeant(arm.lnFull, 1, ARM_SPEED_NUMBER, arm.habit))
}
