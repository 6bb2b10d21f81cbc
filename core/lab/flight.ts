import { DEGREE } from '../flight/units.ts'
import { APEX, CARRY, noDistances, HANG, LOGGED, VEER } from '../flight/landing.ts'
import { NOTHING_DIFFERS, tracedBy } from './cloud.ts'
import type { FieldPlace } from './field.ts'
import type { Setup } from './setup.ts'

/** A throw as it is meant, from the hand to where it comes down: instants, the last of them the landing. */
export interface LabFlight {
  /** Seconds since the release. */
  readonly timeS: readonly number[]
  /** Downrange along the aim line, to the fade side of it, and above the ground, m. */
  readonly downM: readonly number[]
  readonly sideM: readonly number[]
  readonly upM: readonly number[]
  /** How the disc is tilted, positive to the fade side, degrees. */
  readonly tiltDeg: readonly number[]
  readonly landed: FieldPlace
  readonly hangS: number
  readonly apexM: number
}

const log = noDistances()
const tiltOf = (normalToFade: number) => Math.asin(Math.max(-1, Math.min(1, normalToFade))) / DEGREE

/** A throw as it is meant; undefined where it does not come down. */
export function labFlightOf(setup: Setup): LabFlight | undefined {
  const traced = tracedBy(setup, NOTHING_DIFFERS, log)
  if (!traced) return undefined
  const { steps, seen } = traced
  const column = (place: number, last?: number) =>
    Array.from({ length: steps + 1 }, (_, i) =>
      i === steps && last !== undefined ? last : log[i * LOGGED + place]!,
    )
  return {
    timeS: column(0, seen[HANG]),
    downM: column(1, seen[CARRY]),
    sideM: column(2, seen[VEER]),
    upM: column(3, 0),
    tiltDeg: column(7).map(tiltOf),
    landed: traced.landed,
    hangS: seen[HANG]!,
    apexM: seen[APEX]!,
  }
}

/** An instant of a flight. */
export interface FlightInstant extends FieldPlace {
  readonly upM: number
  readonly tiltDeg: number
}
/** Where a disc is some seconds after the release; where it came down from then on. */
export function instantOf({ timeS, downM, sideM, upM, tiltDeg }: LabFlight, atS: number): FlightInstant {
  let i = 0
  while (i < timeS.length - 2 && timeS[i + 1]! <= atS) i++
  const share = Math.max(0, Math.min(1, (atS - timeS[i]!) / (timeS[i + 1]! - timeS[i]! || 1)))
  const between = (of: readonly number[]) => of[i]! + share * (of[i + 1]! - of[i]!)
  return { downM: between(downM), sideM: between(sideM), upM: between(upM), tiltDeg: between(tiltDeg) }
}

/** Eyes of somebody who stands behind the tee: so far behind it, and so high, m. */
export const EYES = { behindM: 2.5, heightM: 1.7 } as const
/**
 * How a place is seen from behind the tee: to the fade side and above the horizon, as parts of the distance ahead (a central
 * projection on a plane at distance 1).
 */
export function fromBehind({ downM, sideM, upM }: FieldPlace & { readonly upM: number }): {
  readonly across: number
  readonly above: number
} {
  const ahead = Math.max(0.5, downM + EYES.behindM)
  return { across: sideM / ahead, above: (upM - EYES.heightM) / ahead }
}
