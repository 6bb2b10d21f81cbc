import { STILL_AIR } from '../flight/air.ts'
import { STANDARD_BODY } from '../flight/disc.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import { landing } from '../flight/landing.ts'
import { offBy, RELEASE_ERRORS } from '../flight/release.ts'
import type { Release } from '../flight/release.ts'
import { FLAT_THROW, releaseOf } from '../lab/setup.ts'
import type { ArmKnown, ArmShown } from '../lab/who.ts'
import { THROW_SD } from '../rating/evidence.ts'

/** How surely each disc does each job: job, then disc. */
export type Does = ReadonlyMap<string, ReadonlyMap<string, number>>

/** Probability that at least one disc of a bag does a job; of each what is known of the others says nothing. */
export function covered(does: Does, jobId: string, bag: readonly string[]): number {
  const of = does.get(jobId)
  return 1 - bag.reduce((none, id) => none * (1 - (of?.get(id) ?? 0)), 1)
}

/**
 * A bag of so many discs that does most jobs: one after the other the disc that adds most to how many are done.
 *
 * @param from discs that can be taken
 * @param keep discs that are in it whatever they add
 */
export function bagOf(
  does: Does,
  from: readonly string[],
  size: number,
  keep: readonly string[] = [],
): string[] {
  const bag = keep.slice(0, size)
  const done = (discs: readonly string[]) =>
    [...does.keys()].reduce((sum, job) => sum + covered(does, job, discs), 0)
  while (bag.length < size) {
    const now = done(bag)
    let best: { id: string; adds: number } | undefined
    for (const id of from) {
      if (bag.includes(id)) continue
      const adds = done([...bag, id]) - now
      if (best === undefined || adds > best.adds) best = { id, adds }
    }
    // what adds nothing is weight
    if (!best || best.adds < LEAST_ADDED) break
    bag.push(best.id)
  }
  return bag
}
const LEAST_ADDED = 0.005

/** Where a disc of a bag lands, thrown flat at full power in still air, and how two thirds of one's throws scatter about it. */
export interface BagFlight {
  readonly id: string
  readonly carryM: number
  readonly veerM: number
  /** var carry, covariance, var veer, m². */
  readonly covariance: readonly [number, number, number]
}

/** Who throws: what that arm does besides what is meant, and how much it scatters against what is usual. */
export type BagArm = ArmKnown & Pick<ArmShown, 'scatter'>

/**
 * Where a disc lands at an arm, with the thrower's own scatter.
 *
 * @param armMps V₉ of the arm, m/s
 * @param who throws; absent, everything is thrown as it is meant and scatters as is usual
 */
export function bagFlight(id: string, numbers: FlightNumbers, armMps: number, who?: BagArm): BagFlight {
  const release = releaseOf({ disc: { numbers }, throw: { ...FLAT_THROW, armMps, ...(who && { who }) } })
  const at = (r: Release) => landing(numbers, STANDARD_BODY, r, STILL_AIR)
  const scatter = who?.scatter ?? 1
  const { carryM, veerM } = at(release)
  const covariance: [number, number, number] = [0, 0, 0]
  for (const kind of RELEASE_ERRORS) {
    const [up, down] = [1, -1].map((way) => at(offBy(release, kind, way * scatter * THROW_SD[kind]!)))
    const [along, across] = [(up!.carryM - down!.carryM) / 2, (up!.veerM - down!.veerM) / 2]
    covariance[0] += along * along
    covariance[1] += along * across
    covariance[2] += across * across
  }
  return { id, carryM, veerM, covariance }
}

/** Two discs of a bag and how far apart they land, against one's own scatter. */
export interface BagNeighbours {
  readonly a: string
  readonly b: string
  /** How much farther b carries, and how much farther to the fade side it lands, m. */
  readonly fartherM: number
  readonly asideM: number
  /** How far two throws of the same disc lie apart along and across, m: root mean square. */
  readonly scatterM: readonly [number, number]
}

const scatterOf = (a: BagFlight, b: BagFlight, place: 0 | 2) =>
  Math.sqrt(a.covariance[place] + b.covariance[place])

function between(a: BagFlight, b: BagFlight): BagNeighbours {
  return {
    a: a.id,
    b: b.id,
    fartherM: b.carryM - a.carryM,
    asideM: b.veerM - a.veerM,
    scatterM: [scatterOf(a, b, 0), scatterOf(a, b, 2)],
  }
}

/** Pairs of which nobody sees from where a throw landed which of them it was, the closest first. */
export function overlapsIn(flights: readonly BagFlight[]): BagNeighbours[] {
  const pairs = flights.flatMap((a, i) => flights.slice(i + 1).map((b) => between(a, b)))
  const apart = ({ fartherM, asideM, scatterM }: BagNeighbours) =>
    Math.hypot(fartherM / scatterM[0], asideM / scatterM[1])
  return pairs.filter((p) => apart(p) < OVERLAPS).sort((a, b) => apart(a) - apart(b))
}
/** Landings closer than what two throws of one disc differ by. */
const OVERLAPS = 1

/** Stretches of the field no disc reaches: from one carry to the next by more than twice one's scatter and a stretch worth a disc. */
export function gapsIn(flights: readonly BagFlight[]): BagNeighbours[] {
  const sorted = flights.toSorted((a, b) => a.carryM - b.carryM)
  return sorted
    .slice(1)
    .map((b, i) => between(sorted[i]!, b))
    .filter(({ fartherM, scatterM }) => fartherM > Math.max(GAP_M, GAP_SCATTERS * scatterM[0]))
}
const GAP_M = 12
const GAP_SCATTERS = 1.5
