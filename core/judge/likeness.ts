import { STILL_AIR } from '../flight/air.ts'
import type { Air } from '../flight/air.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import { pathPoints, tracePath } from '../flight/path.ts'
import type { PathPoint } from '../flight/path.ts'
import { fullSpeedWith } from '../flight/arm.ts'
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

/** Releases and winds of an arm (V₉) with a disc: a slow disc leaves the hand slower. */
const conditions = ({ numbers }: FlownDisc, armMps: number) =>
  HYZERS.flatMap((hyzerRad) =>
    WINDS.map((windAlongMps) => ({
      release: cleanRelease(fullSpeedWith(armMps, numbers.speed), hyzerRad),
      air: { ...STILL_AIR, windAlongMps },
    })),
  )

/** A disc's paths over all of it, one after the other. */
const pathsOf = (d: FlownDisc, armMps: number): PathPoint[] =>
  conditions(d, armMps).flatMap(({ release, air }) => flown(d, release, air))

/**
 * How unlike two discs fly, m: the root-mean-square distance between their paths at equal shares of their flights, over
 * hyzer, flat and anhyzer, head, still and tail, each at the full power the arm has with it. 0 for a disc and itself.
 */
export const distanceBetween = (a: FlownDisc, b: FlownDisc, armMps: number): number =>
  Math.sqrt(apart(pathsOf(a, armMps), pathsOf(b, armMps)))

/**
 * The thrower's own spread, m: the same distance between two throws of one disc meant alike. Discs closer than this
 * overlap: which of them was thrown cannot be seen from a throw.
 *
 * Each kind of error moves the path both ways by its standard deviation; two throws differ by twice the variance.
 *
 * @param noise the arm's noise against the usual, as a ratio of standard deviations
 */
export function spreadOf(disc: FlownDisc, armMps: number, noise = 1): number {
  const all = conditions(disc, armMps)
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

/** Other discs by how like one they fly, and that thrower's own spread. */
export interface Likenesses {
  readonly spreadM: number
  readonly others: readonly Likeness[]
}

/** From so many discs on, those looked at closely are chosen first. */
const MANY = 60
/** Looked at closely for each that is shown: far away, lines say less of where paths go. */
const CLOSELY = { near: 12, far: 60 }
/**
 * The other discs by how like the first they fly, the likest first.
 *
 * Of many discs those nearest and some of the farthest are found first, by two flights each; only as many of them as it takes are
 * then flown in every wind and at every angle. All distances told are of discs flown.
 *
 * @param shown how many of the likest and of the unlikest are wanted, of many discs; of few all are told
 */
export function likest(
  disc: FlownDisc,
  others: ReadonlyMap<string, FlownDisc>,
  armMps: number,
  shown: { readonly most: number; readonly least: number } = { most: Infinity, least: Infinity },
  noise = 1,
): Likenesses {
  const spreadM = spreadOf(disc, armMps, noise)
  const own = pathsOf(disc, armMps)
  const close = others.size < MANY ? [...others] : nearestAndFarthest(disc, others, armMps, shown)
  return {
    spreadM,
    others: close
      .map(([id, other]) => {
        const distanceM = Math.sqrt(apart(own, pathsOf(other, armMps)))
        return { disc: id, distanceM, overlaps: distanceM < spreadM }
      })
      .sort((a, b) => a.distanceM - b.distanceM),
  }
}

/** Rough distances are of two flights in still air, one at hyzer and one at anhyzer. */
const ROUGHLY = [HYZERS[0]!, HYZERS.at(-1)!]

function nearestAndFarthest(
  disc: FlownDisc,
  others: ReadonlyMap<string, FlownDisc>,
  armMps: number,
  { most, least }: { readonly most: number; readonly least: number },
): [string, FlownDisc][] {
  const roughly = (d: FlownDisc) =>
    ROUGHLY.flatMap((hyzerRad) =>
      flown(d, cleanRelease(fullSpeedWith(armMps, d.numbers.speed), hyzerRad), STILL_AIR),
    )
  const own = roughly(disc)
  const ranked = [...others]
    .map((entry) => ({ entry, by: apart(own, roughly(entry[1])) }))
    .sort((a, b) => a.by - b.by)
    .map(({ entry }) => entry)
  const [near, far] = [CLOSELY.near * most, CLOSELY.far * least]
  return near + far >= ranked.length ? ranked : [...ranked.slice(0, near), ...ranked.slice(-far)]
}
