import { DEGREE } from '../flight/units.ts'
import type { Air } from '../flight/air.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import type { AirCall } from './calls.ts'
import type { Leg } from '../throw/leg.ts'
import type { MeasuringMethod } from '../throw/method.ts'
import type { RecordedPath } from '../throw/recordedPath.ts'

/** One thrown disc as evidence, in the frame of the throw. SI units and radians; absent means not observed. */
export interface ThrowEvidence {
  readonly id: string
  /** Id of the disc thrown. */
  readonly disc: string
  /** Id of the thrower-and-stroke that threw it. */
  readonly arm: string
  /** The outing it was thrown on, which has one aim line; one for all throws that name none. */
  readonly outing?: string
  /** Which way of the walk it was made on. */
  readonly leg?: Leg
  /** +1 where its fade side is the thrower's right, −1 where it is the left; 1 where absent. Throws of one outing may differ. */
  readonly fadeSign?: 1 | -1
  /** Share of full power that was meant. */
  readonly power: number
  /** Hyzer that was meant. */
  readonly hyzerRad: number
  /** Aim that was meant off the line, positive to the fade side; along the line where absent. */
  readonly aimRad?: number
  readonly air: Air
  /** Standard deviation of the wind at release about what was logged, m/s each way; the usual where absent. */
  readonly windSdMps?: number
  /** First contact, downrange along the aim line. */
  readonly carryM: number
  /** First contact, off the aim line, positive to the fade side. */
  readonly veerM: number
  readonly method?: MeasuringMethod
  /** One more point of the path, seen from above. */
  readonly mid?: { readonly downM: number; readonly veerM: number }
  readonly hangS?: number
  readonly apexM?: number
  readonly releaseSpeedMps?: number
  /** Measured spin, rad/s; it follows the release speed where nobody measured it. */
  readonly spinRadps?: number
  readonly hyzerCalledRad?: number
  readonly noseCalledRad?: number
  readonly launchCalledRad?: number
  /** How far off whoever called its angles sees them, standard deviation; the usual where absent. */
  readonly watcherSdRad?: number
  /** What a watcher called of it in the air. */
  readonly calls?: readonly AirCall[]
  /**
   * How much more stable than now its disc was then had it worn as discs of its plastic usually do, on the scale of turn + fade;
   * 0 where absent.
   */
  readonly worn?: number
  /** The flight as it was recorded. */
  readonly path?: RecordedPath
  /** False leaves the throw out of the fit; it is still explained. */
  readonly counts: boolean
}

/** Where a disc comes from: what it shares with others. */
export interface Kin {
  /** Maker and mold. */
  readonly mold: string
  readonly plastic?: string
  readonly run?: string
  /** 0 new … 1 beaten. */
  readonly wear?: number
}

/** A disc as the fit sees it. */
export interface RatedDisc {
  readonly id: string
  /** The published numbers in force: the mean of the prior. */
  readonly published: FlightNumbers
  readonly body: Body
  /** What it shares with other discs; absent where nobody said. */
  readonly kin?: Kin
  /** A well-known disc anchors the throwers' habits: its prior is narrow. */
  readonly control?: boolean
}

/** One thrower with one stroke. */
export interface Arm {
  readonly id: string
  /** Full-power release speed with a disc of speed 9 (V₉) where known; else it is estimated from the throws. */
  readonly fullSpeedMps?: number
}

/** All the fit is given. */
export interface Evidence {
  readonly discs: readonly RatedDisc[]
  readonly arms: readonly Arm[]
  readonly throws: readonly ThrowEvidence[]
}

/** Prior standard deviation of a disc's (glide, turn, fade) about its published numbers. */
export const DISC_PRIOR_SD: readonly [number, number, number] = [0.6, 0.8, 0.8]
/** The same for a control disc: known from long use, not from this session. */
export const CONTROL_PRIOR_SD: readonly [number, number, number] = [0.15, 0.2, 0.2]
/**
 * Prior standard deviation of a habit: ln speed, launch, hyzer, nose, growth of ln speed per speed number, ln spin (4.9 ± 0.5
 * rad/m), growth of hyzer per speed number.
 */
export const HABIT_SD: readonly number[] = [
  0.08,
  2 * DEGREE,
  2 * DEGREE,
  1.5 * DEGREE,
  0.004,
  0.1,
  0.4 * DEGREE,
]
/** Prior standard deviation of the aim line that landings are measured from against the one that was thrown along. */
export const AIM_LINE_SD = 1.5 * DEGREE
/** ln speed when nobody knows the arm's full speed. */
const UNKNOWN_SPEED_SD = 0.25
/** Prior standard deviations of an arm's habit. */
export const habitSdsOf = ({ fullSpeedMps }: Arm): readonly number[] =>
  fullSpeedMps === undefined ? [UNKNOWN_SPEED_SD, ...HABIT_SD.slice(1)] : HABIT_SD
/** Where the search for an unknown full speed (V₉) starts, m/s. */
export const TYPICAL_FULL_SPEED = 24
/** Standard deviation of the wind at release about what was noted of it, m/s each way. */
export const LOGGED_WIND_SD = 0.6
/** The least it is: even in steady wind the disc flies higher and elsewhere than an instrument stands, m/s each way. */
export const STEADIEST_WIND_SD = 0.3
/**
 * Standard deviation of one throw's own error: ln speed, launch, hyzer, nose, azimuth, then the wind's
 * difference from what was logged, along and across, m/s.
 */
export const THROW_SD: readonly number[] = [
  0.03,
  1.5 * DEGREE,
  2.5 * DEGREE,
  1.5 * DEGREE,
  1.5 * DEGREE,
  LOGGED_WIND_SD,
  LOGGED_WIND_SD,
]
/** The same where nobody noted the wind: a calm day as likely as a breezy one. */
export const UNLOGGED_WIND_SD = 1.2
/** Standard deviation of what is called or measured out of the hand. */
export const CALLED_SD = {
  lnSpeed: 0.012,
  launch: 1 * DEGREE,
  hyzer: 1.2 * DEGREE,
  nose: 0.8 * DEGREE,
} as const
/** Standard deviation of the other things seen. */
export const SEEN_SD = { midM: 1.5, hangS: 0.25, apexM: 1.5 } as const

/** Standard deviation of a landing, downrange and aside, m, by measuring method (default 1 m each way). */
export function landingSd(
  method: MeasuringMethod | undefined,
  carryM: number,
  veerM: number,
): [number, number] {
  switch (method) {
    case 'paced':
      return [Math.max(0.5, 0.03 * carryM), Math.max(0.5, 0.03 * Math.abs(veerM))]
    case 'ranged':
      return [0.5, 0.5]
    case 'taped':
      return [0.2, 0.2]
    default:
      return [1, 1]
  }
}
