import { mean } from 'd3'
import { STILL_AIR } from '../flight/air.ts'
import type { Air } from '../flight/air.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import { pathPoints, tracePath } from '../flight/path.ts'
import type { PathPoint } from '../flight/path.ts'
import { fullSpeedWith } from '../flight/arm.ts'
import { cleanRelease, offBy, RELEASE_ERRORS } from '../flight/release.ts'
import { DEGREE } from '../flight/units.ts'
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

/** The same of their shapes: each flight as large as it would be were it to carry as far as its neighbour. */
function shapesApart(a: readonly PathPoint[], b: readonly PathPoint[]): number {
  let sum = 0
  for (let from = 0; from < a.length; from += INSTANTS) {
    const last = from + INSTANTS - 1
    const scale = a[last]!.x / Math.max(1, b[last]!.x)
    for (let i = from; i <= last; i++)
      sum +=
        (a[i]!.x - scale * b[i]!.x) ** 2 + (a[i]!.y - scale * b[i]!.y) ** 2 + (a[i]!.z - scale * b[i]!.z) ** 2
  }
  return sum / a.length
}

/** Mean carry of flights laid end to end, m. */
const carryOf = (paths: readonly PathPoint[]) =>
  mean(
    paths.filter((_, i) => i % INSTANTS === INSTANTS - 1),
    (p) => p.x,
  )!

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

/** How far two throws of one disc meant alike lie apart, m: their paths, their shapes, and their carries. */
export interface FlightSpread {
  readonly pathM: number
  readonly shapeM: number
  readonly carryM: number
}

/**
 * The thrower's own spread: the same distances between two throws of one disc meant alike. Discs closer than this overlap: which
 * of them was thrown cannot be seen from a throw.
 *
 * Each kind of error moves the path both ways by its standard deviation; two throws differ by twice the variance.
 *
 * @param noise the arm's noise against the usual, as a ratio of standard deviations
 */
export function flightSpreadOf(disc: FlownDisc, armMps: number, noise = 1): FlightSpread {
  const all = conditions(disc, armMps)
  const sums = { path: 0, shape: 0, carry: 0 }
  for (const { release, air } of all)
    for (const kind of RELEASE_ERRORS) {
      const sd = noise * THROW_SD[kind]!
      const [up, down] = [sd, -sd].map((by) => flown(disc, offBy(release, kind, by), air))
      sums.path += apart(up!, down!) / 4
      sums.shape += shapesApart(up!, down!) / 4
      sums.carry += (carryOf(up!) - carryOf(down!)) ** 2 / 4
    }
  const of = (sum: number) => Math.sqrt((2 * sum) / all.length)
  return { pathM: of(sums.path), shapeM: of(sums.shape), carryM: of(sums.carry) }
}

/** How one disc flies beside another, against what two throws of one disc differ by. */
export interface Likeness {
  /**
   * Root-mean-square distance between their paths at equal shares of their flights, m, over hyzer, flat and anhyzer, head, still
   * and tail; distance included. 0 for a disc and itself.
   */
  readonly distanceM: number
  /** How much farther it carries than the other, m. */
  readonly fartherM: number
  /** Bends alike: were it to carry as far, the paths would lie within the spread of shapes. */
  readonly sameShape: boolean
  /** Carries alike, within the spread of carries. */
  readonly sameDistance: boolean
  /** Both: which of them was thrown cannot be seen from a throw. */
  readonly overlaps: boolean
}

/** Other discs by how like one they fly, and that thrower's own spread. */
export interface Likenesses {
  readonly spread: FlightSpread
  readonly others: readonly (Likeness & { readonly disc: string })[]
}

function likenessOf(own: readonly PathPoint[], other: readonly PathPoint[], spread: FlightSpread): Likeness {
  const distanceM = Math.sqrt(apart(own, other))
  const fartherM = carryOf(other) - carryOf(own)
  const sameShape = Math.sqrt(shapesApart(own, other)) < spread.shapeM
  const sameDistance = Math.abs(fartherM) < spread.carryM
  return { distanceM, fartherM, sameShape, sameDistance, overlaps: sameShape && sameDistance }
}

/** How a disc flies beside another, each at the full power the arm (V₉) has with it. */
export function likeness(
  disc: FlownDisc,
  other: FlownDisc,
  armMps: number,
  noise = 1,
): Likeness & { readonly spread: FlightSpread } {
  const spread = flightSpreadOf(disc, armMps, noise)
  return { ...likenessOf(pathsOf(disc, armMps), pathsOf(other, armMps), spread), spread }
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
  const spread = flightSpreadOf(disc, armMps, noise)
  const own = pathsOf(disc, armMps)
  const close = others.size < MANY ? [...others] : nearestAndFarthest(disc, others, armMps, shown)
  return {
    spread,
    others: close
      .map(([id, other]) => ({ disc: id, ...likenessOf(own, pathsOf(other, armMps), spread) }))
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
