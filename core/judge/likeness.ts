import { STILL_AIR } from '../flight/air.ts'
import type { Air } from '../flight/air.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import { pathPoints, tracePath } from '../flight/path.ts'
import type { PathPoint } from '../flight/path.ts'
import { cleanRelease, DEGREE, SPIN_PER_MPS } from '../flight/release.ts'
import type { Release } from '../flight/release.ts'
import { THROW_SD } from '../rating/evidence.ts'

/** A disc to be compared by how it flies. */
export interface FlownDisc {
  readonly numbers: FlightNumbers
  readonly body: Body
}

/** Releases and winds over which discs are compared: hyzer, flat and anhyzer; head, still and tail. */
const HYZERS = [10, 0, -10].map((d) => d * DEGREE)
const WINDS = [-3, 0, 3]
/** Instants at which two paths are compared, as shares of their flights. */
const INSTANTS = 24

const flown = (d: FlownDisc, release: Release, air: Air) =>
  pathPoints(tracePath(d.numbers, d.body, release, air), INSTANTS + 1).slice(1)

const apart = (a: readonly PathPoint[], b: readonly PathPoint[]) =>
  a.reduce((s, p, i) => s + (p.x - b[i]!.x) ** 2 + (p.y - b[i]!.y) ** 2 + (p.z - b[i]!.z) ** 2, 0) / a.length

const conditions = (speedMps: number) =>
  HYZERS.flatMap((hyzerRad) =>
    WINDS.map((windAlongMps) => ({
      release: cleanRelease(speedMps, hyzerRad),
      air: { ...STILL_AIR, windAlongMps },
    })),
  )

/**
 * How unlike two discs fly, m: the root-mean-square distance between their paths at equal shares of their flights, over
 * hyzer, flat and anhyzer, head, still and tail, at the thrower's release speed. 0 for a disc and itself.
 */
export function distanceBetween(a: FlownDisc, b: FlownDisc, speedMps: number): number {
  const all = conditions(speedMps)
  return Math.sqrt(
    all.reduce((s, { release, air }) => s + apart(flown(a, release, air), flown(b, release, air)), 0) /
      all.length,
  )
}

/**
 * The thrower's own spread, m: the same distance between two throws of one disc meant alike. Discs closer than this
 * overlap: which of them was thrown cannot be seen from a throw.
 *
 * Each kind of error moves the path both ways by its standard deviation; two throws differ by twice the variance.
 *
 * @param noise the arm's noise against the usual, as a ratio of standard deviations
 */
export function spreadOf(disc: FlownDisc, speedMps: number, noise = 1): number {
  const all = conditions(speedMps)
  const moved = (r: Release, kind: number, by: number): Release => {
    const speed = kind === 0 ? r.speedMps * Math.exp(by) : r.speedMps
    return {
      ...r,
      speedMps: speed,
      spinRadps: SPIN_PER_MPS * speed,
      launchRad: r.launchRad + (kind === 1 ? by : 0),
      hyzerRad: r.hyzerRad + (kind === 2 ? by : 0),
      noseRad: r.noseRad + (kind === 3 ? by : 0),
      azimuthRad: r.azimuthRad + (kind === 4 ? by : 0),
    }
  }
  let sum = 0
  for (const { release, air } of all)
    for (let kind = 0; kind < 5; kind++) {
      const sd = noise * THROW_SD[kind]!
      const [up, down] = [moved(release, kind, sd), moved(release, kind, -sd)]
      sum += apart(flown(disc, up, air), flown(disc, down, air)) / 4
    }
  return Math.sqrt((2 * sum) / all.length)
}

/** A disc of the shelf beside the one asked about. */
export interface Likeness {
  readonly disc: string
  readonly distanceM: number
  readonly overlaps: boolean
}

/** The other discs by how like the first they fly, the likest first. */
export function likest(
  disc: FlownDisc,
  others: ReadonlyMap<string, FlownDisc>,
  speedMps: number,
  noise = 1,
): { readonly spreadM: number; readonly others: readonly Likeness[] } {
  const spreadM = spreadOf(disc, speedMps, noise)
  return {
    spreadM,
    others: [...others]
      .map(([id, other]) => {
        const distanceM = distanceBetween(disc, other, speedMps)
        return { disc: id, distanceM, overlaps: distanceM < spreadM }
      })
      .sort((a, b) => a.distanceM - b.distanceM),
  }
}
