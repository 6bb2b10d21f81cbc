import { STILL_AIR } from '../flight/air.ts'
import { armOfCarry, fullSpeedWith, USUAL_DISCS } from '../flight/arm.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import { pathPoints, tracePath } from '../flight/path.ts'
import { cleanRelease } from '../flight/release.ts'
import { numbersAtSpeed } from '../judge/atArm.ts'

/** A disc as a reader’s page knows it. */
export interface ReaderDisc {
  readonly name: string
  /** How it is drawn: its hue, of eight. */
  readonly place: number
  readonly published: FlightNumbers
  /** As the throws have it, and how surely: half of the interval that holds it nine times in ten. */
  readonly observed: FlightNumbers
  readonly within: { readonly glide: number; readonly turn: number; readonly fade: number }
  readonly body: Body
}

/** A throw as it landed, m; side toward the fade side. */
export interface ReaderThrow {
  readonly disc: number
  readonly carryM: number
  readonly veerM: number
  readonly counts: boolean
}

/** What travels inside an exported review so that its reader can bend it to their own arm. */
export interface ReaderData {
  readonly format: 'veer-line-review'
  readonly version: 1
  /** Of the method that made the numbers. */
  readonly method: string
  readonly units: 'metric' | 'imperial'
  readonly trials: readonly {
    readonly name: string
    /** Of the arm that threw most, V₉, m/s: where the panel begins. */
    readonly armMps: number
    readonly discs: readonly ReaderDisc[]
    readonly throws: readonly ReaderThrow[]
  }[]
}

/** What a disc is to an arm in a wind. */
export interface ToReader {
  readonly turn: number
  readonly fade: number
  /** False where no numbers describe it quite. */
  readonly exact: boolean
  readonly carryM: number
  /** Where it ends, m to the fade side, and how far it was to the turn side at most. */
  readonly finishM: number
  readonly turnedM: number
  readonly path: readonly { readonly x: number; readonly y: number }[]
}

/** Points of a path that is drawn. */
const POINTS = 40

/**
 * What a disc is to a reader: thrown flat and clean at the full power of their arm. The numbers it seems to have are of still air; where
 * it goes is in their wind.
 *
 * @param armMps full power with a disc of speed 9 (V₉), m/s
 * @param windAlongMps positive from behind
 */
export function toReader({ observed, body }: ReaderDisc, armMps: number, windAlongMps: number): ToReader {
  const release = cleanRelease(fullSpeedWith(armMps, observed.speed))
  const seems = numbersAtSpeed(observed, release.speedMps)
  const path = tracePath(observed, body, release, { ...STILL_AIR, windAlongMps })
  const points = pathPoints(path, POINTS)
  return {
    turn: seems.numbers.turn,
    fade: seems.numbers.fade,
    exact: seems.exact,
    carryM: path.carryM,
    finishM: path.veerM,
    turnedM: Math.min(0, ...points.map((p) => p.y)),
    path: points.map(({ x, y }) => ({ x, y })),
  }
}

/** V₉ of an arm that throws a usual mid-range disc so far, flat in still air; undefined where no arm does. */
export const armOfMidrange = (carryM: number): number | undefined => armOfCarry(USUAL_DISCS.midrange, carryM)
