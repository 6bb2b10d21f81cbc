import { randomNormal } from 'd3'
import type { Air } from '../flight/air.ts'
import { ARM_SPEED_NUMBER, fullSpeedWith } from '../flight/arm.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import { landing } from '../flight/landing.ts'
import type { Landing } from '../flight/landing.ts'
import { tracePath, veerAt } from '../flight/path.ts'
import type { Oddities, Path } from '../flight/path.ts'
import { REFERENCE_LAUNCH, RELEASE_HEIGHT, SPIN_PER_MPS } from '../flight/release.ts'
import { DEGREE } from '../flight/units.ts'
import type { Release } from '../flight/release.ts'

/** A source of uniform numbers in [0, 1), handed in by the caller. */
export type Uniform = () => number

/** A thrower with one stroke, as nature made it: what the rating tries to see through. */
export interface SimulatedArm {
  /** Full power with a disc of speed 9, V₉. */
  readonly fullSpeedMps: number
  /** How its full power grows with the speed number of what it throws; as usual where absent. */
  readonly classSlope?: number
  /** Spin that goes with each m/s of its release speed, rad/m; as usual where absent. */
  readonly spinPerMps?: number
  /** How much more hyzer each speed number above 9 has, rad; none where absent. */
  readonly hyzerSlopeRad?: number
  /** What every throw has too much of. */
  readonly habit: {
    readonly lnSpeed: number
    readonly launchRad: number
    readonly hyzerRad: number
    readonly noseRad: number
  }
  /** Standard deviations from throw to throw. */
  readonly spread: {
    readonly lnSpeed: number
    readonly launchRad: number
    readonly hyzerRad: number
    readonly noseRad: number
    readonly azimuthRad: number
  }
  /** Mean wobble of a throw; 0 for a clean arm. */
  readonly wobble: number
}

/** The spread the rating expects of a practised thrower. */
export const USUAL_SPREAD: SimulatedArm['spread'] = {
  lnSpeed: 0.03,
  launchRad: 1.5 * DEGREE,
  hyzerRad: 2.5 * DEGREE,
  noseRad: 1.5 * DEGREE,
  azimuthRad: 1.5 * DEGREE,
}

export interface SimulatedThrow {
  readonly release: Release
  readonly landing: Landing
  readonly path: Path
  /** The side of the path at a distance downrange, m. */
  readonly sideAt: (downM: number) => number
}

/** The release that comes out when an arm means `power`, `hyzerRad` and an aim off the line, positive to the fade side, with a disc of some speed number. */
export function releaseBy(
  arm: SimulatedArm,
  speedNumber: number,
  power: number,
  hyzerRad: number,
  uniform: Uniform,
  aimRad = 0,
): Release {
  const normal = randomNormal.source(uniform)()
  const { habit, spread } = arm
  const full = fullSpeedWith(arm.fullSpeedMps, speedNumber, arm.classSlope)
  const speedMps = full * power * Math.exp(habit.lnSpeed + spread.lnSpeed * normal())
  return {
    speedMps,
    launchRad: REFERENCE_LAUNCH + habit.launchRad + spread.launchRad * normal(),
    hyzerRad:
      hyzerRad +
      habit.hyzerRad +
      (arm.hyzerSlopeRad ?? 0) * (speedNumber - ARM_SPEED_NUMBER) +
      spread.hyzerRad * normal(),
    noseRad: habit.noseRad + spread.noseRad * normal(),
    azimuthRad: aimRad + spread.azimuthRad * normal(),
    spinRadps: (arm.spinPerMps ?? SPIN_PER_MPS) * speedMps,
    heightM: RELEASE_HEIGHT,
    wobble: Math.max(0, arm.wobble * (1 + 0.5 * normal())),
  }
}

/**
 * Throws a disc of known true numbers once, in the frame of the throw.
 *
 * @throws RangeError when the flight is absurd
 */
export function throwDisc(
  numbers: FlightNumbers,
  body: Body,
  arm: SimulatedArm,
  meant: { readonly power: number; readonly hyzerRad: number; readonly aimRad?: number },
  air: Air,
  uniform: Uniform,
  oddities?: Oddities,
): SimulatedThrow {
  const release = releaseBy(arm, numbers.speed, meant.power, meant.hyzerRad, uniform, meant.aimRad)
  const path = tracePath(numbers, body, release, air, oddities)
  return {
    release,
    path,
    landing: oddities ? path : landing(numbers, body, release, air),
    sideAt: (downM) => veerAt(path, downM),
  }
}
