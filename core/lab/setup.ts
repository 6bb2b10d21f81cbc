import type { Air } from '../flight/air.ts'
import { fullSpeedWith } from '../flight/arm.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import { REFERENCE_LAUNCH, RELEASE_HEIGHT, SPIN_PER_MPS } from '../flight/release.ts'
import { DEGREE } from '../flight/units.ts'
import type { Release } from '../flight/release.ts'
import { SHIFTS, shiftOf } from './who.ts'
import type { ArmKnown } from './who.ts'

/** A disc as it is thrown in the lab: one of the shelf with what is not known of it, or any four numbers. */
export interface LabDisc {
  readonly numbers: FlightNumbers
  /** Covariance of (glide, turn, fade), row by row; null where they are taken as they are. */
  readonly covariance: readonly number[] | null
  readonly body: Body
}

/** How it is thrown, in the frame of the throw. */
export interface LabThrow {
  /** V₉ of the arm, m/s. */
  readonly armMps: number
  /** Share of full power. */
  readonly power: number
  /** Tilt toward the fade side, and nose above the flight path, degrees. */
  readonly hyzerDeg: number
  readonly noseDeg: number
  /** Above the horizon, degrees. */
  readonly launchDeg: number
  /** Away from the aim line, positive to the fade side, degrees. */
  readonly aimDeg: number
  /** Spin against what goes with the speed. */
  readonly spin: number
  /** How much throws scatter against a practised thrower. */
  readonly scatter: number
  /** Who throws: an arm does what its habits are besides. Absent, it does as is meant. */
  readonly who?: ArmKnown
}

/** Thrown flat at full power, as a release is meant to be. */
export const FLAT_THROW: Omit<LabThrow, 'armMps' | 'who'> = {
  power: 1,
  hyzerDeg: 0,
  noseDeg: 0,
  launchDeg: REFERENCE_LAUNCH / DEGREE,
  aimDeg: 0,
  spin: 1,
  scatter: 1,
}

/** Everything a flight depends on. */
export interface Setup {
  readonly disc: LabDisc
  readonly throw: LabThrow
  readonly air: Air
}

/** The release of a throw as it is meant, and as whoever throws it does that on average. */
export function releaseOf({
  disc: {
    numbers: { speed },
  },
  throw: t,
}: {
  readonly disc: Pick<LabDisc, 'numbers'>
  readonly throw: Omit<LabThrow, 'scatter'>
}): Release {
  const [lnSpeed, launch, hyzer, nose, lnSpin] = t.who ? shiftOf(t.who, speed) : NO_SHIFT
  const speedMps = fullSpeedWith(t.armMps, speed) * t.power * Math.exp(lnSpeed!)
  return {
    speedMps,
    launchRad: t.launchDeg * DEGREE + launch!,
    hyzerRad: t.hyzerDeg * DEGREE + hyzer!,
    noseRad: t.noseDeg * DEGREE + nose!,
    azimuthRad: t.aimDeg * DEGREE,
    spinRadps: t.spin * SPIN_PER_MPS * speedMps * Math.exp(lnSpin!),
    heightM: RELEASE_HEIGHT,
    wobble: 0,
  }
}
const NO_SHIFT: readonly number[] = Array.from({ length: SHIFTS }, () => 0)
