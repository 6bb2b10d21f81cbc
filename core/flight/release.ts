import { DEGREE } from './units.ts'
/** How a disc leaves the hand, in the frame of the throw. SI units and radians. */
export interface Release {
  /** Ground speed, m/s. */
  readonly speedMps: number
  /** Launch angle above the horizon. */
  readonly launchRad: number
  /** Tilt toward the fade side; anhyzer is negative. */
  readonly hyzerRad: number
  /** Nose angle relative to the flight path; up is positive. */
  readonly noseRad: number
  /** Aim away from the line; positive to the fade side. */
  readonly azimuthRad: number
  /** Spin, rad/s, always positive: the frame takes its sense. */
  readonly spinRadps: number
  /** Height of release, m. */
  readonly heightM: number
  /** Off-axis wobble at release, 0 clean … 1 bad flutter. */
  readonly wobble: number
}

/** Spin that goes with each m/s of release speed, rad/m. */
export const SPIN_PER_MPS = 4.9
/** Launch angle of the reference release and of every throw asked for as "as usual". */
export const REFERENCE_LAUNCH = 10.4 * DEGREE
/** Height of release, m. */
export const RELEASE_HEIGHT = 1.2

/** Release speed at which a published speed number is read, m/s. */
export const referenceSpeed = (speedNumber: number): number => 16.3 + 1.074 * speedNumber

/** A clean release at a given speed: flat, nose level, on the line, at the reference launch angle. */
export function cleanRelease(speedMps: number, hyzerRad = 0): Release {
  return {
    speedMps,
    launchRad: REFERENCE_LAUNCH,
    hyzerRad,
    noseRad: 0,
    azimuthRad: 0,
    spinRadps: SPIN_PER_MPS * speedMps,
    heightM: RELEASE_HEIGHT,
    wobble: 0,
  }
}

/** The release at which published numbers are read for a disc of this speed number. */
export const referenceRelease = (speedNumber: number): Release => cleanRelease(referenceSpeed(speedNumber))

/** Ways a release is off what was meant: speed (by a share of it), launch, hyzer, nose, direction (rad). */
export const RELEASE_ERRORS = [0, 1, 2, 3, 4] as const

/** A release that is off in one of {@link RELEASE_ERRORS}; a faster one spins faster. */
export function offBy(r: Release, error: number, by: number): Release {
  const speedMps = error === 0 ? r.speedMps * Math.exp(by) : r.speedMps
  return {
    ...r,
    speedMps,
    spinRadps: error === 0 ? SPIN_PER_MPS * speedMps : r.spinRadps,
    launchRad: r.launchRad + (error === 1 ? by : 0),
    hyzerRad: r.hyzerRad + (error === 2 ? by : 0),
    noseRad: r.noseRad + (error === 3 ? by : 0),
    azimuthRad: r.azimuthRad + (error === 4 ? by : 0),
  }
}
