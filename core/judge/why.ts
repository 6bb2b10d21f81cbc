import { AT, HABIT, OF_HABIT, POINT } from '../rating/places.ts'
import { REFERENCE_DENSITY } from '../flight/air.ts'
import { REFERENCE_LAUNCH } from '../flight/release.ts'
import type { Arm, ThrowEvidence } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { clampPoint, flyPoint, SEEN, SEEN_ROWS } from '../rating/linear.ts'
import { lnMeant } from '../rating/throwTerm.ts'
import { armOf, discOf, flownIn, pointAsThrown } from './asThrown.ts'

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

/** Weight of a coalition of `size` of `n` causes in the Shapley value. */
function shapleyWeights(n: number): number[] {
  const factorial = (k: number): number => (k < 2 ? 1 : k * factorial(k - 1))
  return Array.from({ length: n }, (_, size) => (factorial(size) * factorial(n - size - 1)) / factorial(n))
}
const WEIGHTS = shapleyWeights(CAUSES.length)

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
  clampPoint(actual)
  clampPoint(meant)
  const n = CAUSES.length
  const carry = new Float64Array(1 << n)
  const veer = new Float64Array(1 << n)
  const point = new Float64Array(POINT)
  const seen = new Float64Array(SEEN)
  for (let set = 0; set < 1 << n; set++) {
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
    carry[set] = seen[SEEN_ROWS.carry]!
    veer[set] = seen[SEEN_ROWS.veer]!
  }
  const parts = Object.fromEntries(
    CAUSES.map((cause, i): [Cause, Shift] => {
      let carryM = 0
      let veerM = 0
      for (let set = 0; set < 1 << n; set++) {
        if (set & (1 << i)) continue
        const weight = WEIGHTS[bits(set)]!
        carryM += weight * (carry[set | (1 << i)]! - carry[set]!)
        veerM += weight * (veer[set | (1 << i)]! - veer[set]!)
      }
      return [cause, { carryM, veerM }]
    }),
  ) as Record<Cause, Shift>
  const all = (1 << n) - 1
  return {
    throw: thrown.id,
    promised: { carryM: carry[0]!, veerM: veer[0]! },
    landed: { carryM: thrown.carryM, veerM: thrown.veerM },
    parts,
    unexplained: { carryM: thrown.carryM - carry[all]!, veerM: thrown.veerM - veer[all]! },
    release: {
      hyzerRad: actual[AT.hyzer]! - meant[AT.hyzer]!,
      noseRad: actual[AT.nose]!,
      lnSpeed: actual[AT.lnSpeed]! - meant[AT.lnSpeed]!,
    },
  }
}

function bits(set: number): number {
  let count = 0
  for (let s = set; s > 0; s &= s - 1) count++
  return count
}
