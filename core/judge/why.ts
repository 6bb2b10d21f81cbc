import { AT, HABIT, OF_HABIT, POINT } from '../rating/places.ts'
import { REFERENCE_DENSITY } from '../flight/air.ts'
import { REFERENCE_LAUNCH } from '../flight/release.ts'
import type { Arm, ThrowEvidence } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { clampPoint, flyPoint, SEEN, SEEN_ROWS } from '../rating/linear.ts'
import { lnMeant } from '../rating/throwTerm.ts'
import { shapley } from './shapley.ts'
import { armOf, discOf, flownIn, pointAsThrown } from '../rating/asThrown.ts'

/** What makes a throw finish elsewhere than its label promises; the first five are the release. */
export const CAUSES = ['angle', 'nose', 'speed', 'launch', 'aim', 'wind', 'air', 'disc'] as const
export type Cause = (typeof CAUSES)[number]

/** A difference on the field, m: downrange, and toward the fade side. */
export interface Shift {
  readonly carryM: number
  readonly veerM: number
}

/** Why a throw finished where it did. */
export interface Why {
  readonly throw: string
  /** Where the label promised it: the published numbers, thrown exactly as meant in still reference air. */
  readonly promised: Shift
  readonly landed: Shift
  /** What each cause moved it by; with `unexplained` they add up to landed less promised. */
  readonly parts: Readonly<Record<Cause, Shift>>
  readonly unexplained: Shift
  /** How far the release was from what was meant: degrees of hyzer and nose, share of speed, and so on (radians, ln). */
  readonly release: { readonly hyzerRad: number; readonly noseRad: number; readonly lnSpeed: number }
}

/** Places of a point that a cause changes. */
const PLACES: Readonly<Record<Exclude<Cause, 'air'>, readonly number[]>> = {
  disc: [AT.glide, AT.turn, AT.fade],
  // an arm's spin comes with its speed
  speed: [AT.lnSpeed, AT.lnSpin],
  launch: [AT.launch],
  angle: [AT.hyzer],
  nose: [AT.nose],
  aim: [AT.azimuth],
  wind: [AT.along, AT.toFade],
}

/**
 * Splits a throw's distance from what its label promised into release (angle, nose, speed, launch, aim), wind, air,
 * disc and what is left unexplained.
 *
 * Each cause gets its Shapley value: its effect averaged over every order in which the causes could be named, so that
 * the answer does not depend on which is named first. That takes 256 flights.
 *
 * @param arms full speeds of arms that have not thrown yet
 * @throws RangeError when the disc is not part of the fit
 */
export function explainThrow(state: FitState, thrown: ThrowEvidence, arms: readonly Arm[] = []): Why {
  const { disc } = discOf(state, thrown.disc)
  const arm = armOf(state, thrown.arm, arms)
  const actual = pointAsThrown(state, thrown, arms)
  const { published } = disc
  // an arm whose full speed nobody knows is meant to throw as it usually does
  const usual = new Float64Array(OF_HABIT)
  if (!arm.known) usual[HABIT.lnSpeed] = arm.habit[HABIT.lnSpeed]!
  const meant = new Float64Array(POINT)
  meant[AT.glide] = published.glide
  meant[AT.turn] = published.turn
  meant[AT.fade] = published.fade
  meant[AT.lnSpeed] = lnMeant(arm.lnFull, thrown.power, published.speed, usual)
  meant[AT.launch] = REFERENCE_LAUNCH
  meant[AT.hyzer] = thrown.hyzerRad
  meant[AT.azimuth] = thrown.aimRad ?? 0
  clampPoint(actual)
  clampPoint(meant)
  const point = new Float64Array(POINT)
  const seen = new Float64Array(SEEN)
  const flown = (set: number): [number, number] => {
    point.set(meant)
    let densityKgM3: number = REFERENCE_DENSITY
    let spinRadps = 0
    CAUSES.forEach((cause, i) => {
      if (!(set & (1 << i))) return
      if (cause === 'air') densityKgM3 = thrown.air.densityKgM3
      else {
        // a spin that was measured came with the speed
        if (cause === 'speed') spinRadps = thrown.spinRadps ?? 0
        for (const p of PLACES[cause]) point[p] = actual[p]!
      }
    })
    flyPoint({ ...flownIn(disc, thrown.air), densityKgM3, spinRadps }, point, seen)
    return [seen[SEEN_ROWS.carry]!, seen[SEEN_ROWS.veer]!]
  }
  const [none, all] = [flown(0), flown((1 << CAUSES.length) - 1)]
  const shifts = shapley(CAUSES.length, flown)
  const parts = Object.fromEntries(
    CAUSES.map((cause, i): [Cause, Shift] => [cause, { carryM: shifts[i]![0]!, veerM: shifts[i]![1]! }]),
  ) as Record<Cause, Shift>
  return {
    throw: thrown.id,
    promised: { carryM: none[0], veerM: none[1] },
    landed: { carryM: thrown.carryM, veerM: thrown.veerM },
    parts,
    unexplained: { carryM: thrown.carryM - all[0], veerM: thrown.veerM - all[1] },
    release: {
      hyzerRad: actual[AT.hyzer]! - meant[AT.hyzer]!,
      noseRad: actual[AT.nose]!,
      lnSpeed: actual[AT.lnSpeed]! - meant[AT.lnSpeed]!,
    },
  }
}
