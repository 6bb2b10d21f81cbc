import { fullSpeedWith } from '../flight/arm.ts'
import { coefficientsOf, STANDARD_BODY } from '../flight/disc.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import { CARRY, noDistances, flyStraight, LOGGED, MAX_STEPS, SEEN, VEER } from '../flight/landing.ts'
import { cleanRelease } from '../flight/release.ts'
import { DEGREE } from '../flight/units.ts'
import { REFERENCE_DENSITY } from '../flight/air.ts'

/** How a disc is thrown for a job: by the owner's arm, in still air or in the wind it must stand. */
export interface Throwing {
  /** V₉ of the arm, m/s. */
  readonly armMps: number
  readonly hyzerDeg: number
  /** Share of full power, 0 to 1. */
  readonly power: number
  /** Wind along the aim line, m/s: positive from behind. */
  readonly windAlongMps: number
}

/** Where a disc is along its flight, m: to the fade side at 60 % of its carry and where it lands, and how far that is. */
export interface JobFlight {
  readonly at60M: number
  readonly finishM: number
  readonly carryM: number
}
/** Places of a flight in which a job may want something. */
export const FLOWN = ['at60M', 'finishM', 'carryM'] as const

/** A job a disc does: a wanted flight, and how far from it is near enough. */
export interface Job {
  readonly throwing: Throwing
  readonly wanted: JobFlight
  /** Either way, m; Infinity where it does not matter. */
  readonly within: JobFlight
}

/** Where along the flight a disc should be, as a share of its carry. */
const LATE = 0.6
const landed = new Float64Array(SEEN)
const log = noDistances()

/** A flight of given step sizes, so that one of slightly other numbers differs from it smoothly. */
class Steps {
  readonly sizes = new Float64Array(MAX_STEPS)
  taken = 0
}

/** For flights that no other follows. */
const anySteps = new Steps()

/**
 * Flight of a disc thrown for a job, cleanly.
 *
 * @returns undefined where it does not come down: thrown by no arm there is
 */
export function flownBy(
  numbers: FlightNumbers,
  throwing: Throwing,
  steps = anySteps,
  replay = false,
): JobFlight | undefined {
  const c = coefficientsOf(numbers)
  const { speedMps, launchRad, hyzerRad, noseRad, azimuthRad, spinRadps, heightM } = cleanRelease(
    fullSpeedWith(throwing.armMps, numbers.speed) * throwing.power,
    throwing.hyzerDeg * DEGREE,
  )
  // prettier-ignore
  const count = flyStraight(
    c.cd0, c.cl0, c.cm0, c.cma, STANDARD_BODY.massKg, STANDARD_BODY.diameterM, REFERENCE_DENSITY, throwing.windAlongMps, 0,
    speedMps, launchRad, hyzerRad, noseRad, azimuthRad, spinRadps, heightM,
    0, landed, steps.sizes, replay ? steps.taken : 0, log,
  )
  if (count < 0) return undefined
  if (!replay) steps.taken = count
  const carryM = landed[CARRY]!
  return { at60M: sideAt(LATE * carryM, count), finishM: landed[VEER]!, carryM }
}

/** Side of the flight in the log at a distance downrange, m. */
function sideAt(downM: number, count: number): number {
  let i = 0
  while (i < count - 1 && log[(i + 1) * LOGGED + 1]! < downM) i++
  const [x0, y0] = [log[i * LOGGED + 1]!, log[i * LOGGED + 2]!]
  const [x1, y1] = [log[(i + 1) * LOGGED + 1]!, log[(i + 1) * LOGGED + 2]!]
  return y0 + ((y1 - y0) * (downM - x0)) / (x1 - x0)
}

/** Step of the differences, of a number. */
const NUDGE = 1e-3
/** A flight, and how it follows glide, turn and fade: one row for each of {@link FLOWN}. */
export interface FlownSlopes {
  readonly flown: JobFlight
  readonly by: readonly (readonly [number, number, number])[]
}

/** Where a disc of some numbers lands thrown as a job is, and how that follows its numbers; undefined where it does not fly. */
export function flownSlopes(numbers: FlightNumbers, throwing: Throwing): FlownSlopes | undefined {
  const steps = anySteps
  const flown = flownBy(numbers, throwing, steps)
  if (!flown) return undefined
  const moved = (['glide', 'turn', 'fade'] as const).map((name) =>
    flownBy({ ...numbers, [name]: numbers[name] + NUDGE }, throwing, steps, true),
  )
  return {
    flown,
    by: FLOWN.map(
      (part) => moved.map((m) => ((m ?? flown)[part] - flown[part]) / NUDGE) as [number, number, number],
    ),
  }
}
