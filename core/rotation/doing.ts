import type { FlightNumbers } from '../flight/disc.ts'
import { labelScale, sideSlopesOf } from '../flight/side.ts'
import { normalCdf } from '../rating/normal.ts'
import { FLOWN, flownSlopes } from './job.ts'
import type { FlownSlopes, Job, Throwing } from './job.ts'
import { usualDrop, WEAR_TURNS } from '../shelf/usualWear.ts'
import type { PlasticKind, Use } from '../shelf/usualWear.ts'
import { HORIZON, NEVER, usedOn, whenLost } from './wear.ts'
import type { Leaving, Way } from './wear.ts'

/** A disc as the rotation knows it. */
export interface CarriedDisc {
  readonly id: string
  /** What its numbers in force say; stability is read against them. */
  readonly published: FlightNumbers
  /** As its throws say, or its label where there are none; covariance of (glide, turn, fade), row by row. */
  readonly numbers: FlightNumbers
  readonly covariance: readonly number[]
  readonly kind: PlasticKind
  /** What it has been through by now. */
  readonly use: Use
  /** Every way it may wear; see {@link Wear}. */
  readonly ways: readonly Way[]
}

/** Stabilities at which a disc is flown for a job. */
const STEP = 0.25
/** So many of them either way it is looked for where a disc does a job. */
const FAR = 14
/** What is less likely than that changes nothing. */
const SLIGHT = 1e-5
/** A flight is known no better than that, m, however many throws there are. */
const LEAST_SD = 0.3

/** Five points of a normal distribution that stand for all of it, and their shares (Gauss and Hermite). */
const NODES = [-2.856970013872806, -1.355626179974266, 0, 1.355626179974266, 2.856970013872806]
const SHARES = [0.011257411327721, 0.222075922005613, 8 / 15, 0.222075922005613, 0.011257411327721]

/** Points and weights of an integral over [−1, 1] (Gauss and Legendre). */
const POINTS = [
  0.1252334085114689, 0.3678314989981802, 0.5873179542866175, 0.7699026741943047, 0.9041172563704749,
  0.9815606342467192,
]
const WEIGHTS = [
  0.2491470458134028, 0.2334925365383548, 0.2031674267230659, 0.1600783285433462, 0.1069393259953184,
  0.0471753363865118,
]

/** Probability that two jointly normal values lie within so much of nothing. */
function bothWithin(
  [a, b]: readonly [number, number],
  [aa, ab, bb]: readonly [number, number, number],
  [ta, tb]: readonly [number, number],
): number {
  const sdA = Math.sqrt(aa)
  const rest = Math.sqrt(Math.max(LEAST_SD ** 2 / 4, bb - (ab * ab) / aa))
  // what matters of the first, at most six standard deviations either way
  const [from, to] = [Math.max(-ta, a - 6 * sdA), Math.min(ta, a + 6 * sdA)]
  if (!(to > from)) return 0
  const [middle, half] = [(from + to) / 2, (to - from) / 2]
  let sum = 0
  for (let i = 0; i < POINTS.length; i++)
    for (const side of [-1, 1]) {
      const at = middle + side * half * POINTS[i]!
      const z = (at - a) / sdA
      const mean = b + (ab / aa) * (at - a)
      sum +=
        WEIGHTS[i]! *
        Math.exp(-0.5 * z * z) *
        (normalCdf((tb - mean) / rest) - normalCdf((-tb - mean) / rest))
    }
  return Math.min(1, (sum * half) / (sdA * Math.sqrt(2 * Math.PI)))
}

/** A disc and a job: whether it does it now, and when it will. */
export interface Prospect {
  /** Probability that it does the job now. */
  readonly now: number
  /** Where it does it best: how surely, and after how many throws. */
  readonly best: { readonly probability: number; readonly throws: number }
  /** After so many throws it is more likely to do it than not; null where it never is. */
  readonly enters: number | null
  readonly leaves: Leaving
}

const AHEAD = [
  0,
  25,
  50,
  75,
  100,
  150,
  200,
  250,
  300,
  400,
  500,
  600,
  800,
  1000,
  1250,
  1500,
  2000,
  2500,
  HORIZON,
]

/** How stable a disc is by its numbers, and how those go with its stability. */
export class StableAt {
  /** Its stability as its numbers say. */
  readonly stability: number
  /** Standard deviation of that. */
  readonly sd: number
  /** What is not known of its numbers once its stability is. */
  readonly rest: readonly number[]
  readonly #numbers: FlightNumbers
  /** How far its numbers move along the way of wear for one of stability. */
  readonly #shift: number

  constructor({ published, numbers, covariance }: Pick<CarriedDisc, 'published' | 'numbers' | 'covariance'>) {
    const label = labelScale(published)
    const { side, sideBy } = sideSlopesOf(numbers)
    const by = sideBy.map((s) => s / label.perNumber)
    this.stability = label.stability + (side - label.side) / label.perNumber
    this.#numbers = numbers
    this.#shift = 1 / Math.max(0.25, WEAR_TURNS * by[1]! + (1 - WEAR_TURNS) * by[2]!)
    const c = covariance
    const to = [0, 1, 2].map((i) => c[3 * i]! * by[0]! + c[3 * i + 1]! * by[1]! + c[3 * i + 2]! * by[2]!)
    const variance = to.reduce((sum, t, i) => sum + t * by[i]!, 0)
    this.sd = Math.sqrt(Math.max(0, variance))
    this.rest = c.map((v, i) => (variance > 0 ? v - (to[Math.floor(i / 3)]! * to[i % 3]!) / variance : v))
  }

  /** Its numbers once it is so stable. */
  numbersAt(stability: number): FlightNumbers {
    const moved = (stability - this.stability) * this.#shift
    const { turn, fade } = this.#numbers
    return { ...this.#numbers, turn: turn + WEAR_TURNS * moved, fade: fade + (1 - WEAR_TURNS) * moved }
  }
}

/** How a disc flies thrown in some way, at steps of stability; the same for every job that wants it thrown so. */
export class FlownAt {
  readonly #known = new Map<number, FlownSlopes | null>()

  constructor(
    readonly stable: StableAt,
    private readonly throwing: Throwing,
  ) {}

  /** Null where it does not come down. */
  at(step: number): FlownSlopes | null {
    const known = this.#known.get(step)
    if (known !== undefined) return known
    const found = flownSlopes(this.stable.numbersAt(step * STEP), this.throwing)
    this.#known.set(step, found ?? null)
    return found ?? null
  }
}

/** Steps of stability a disc may be at: from so many below nothing to as many above. */
const STEPS = 120

/** How surely one disc does one job, however worn it is. */
export class Doing {
  /** By steps of stability, NaN where not worked out yet. */
  readonly #known = new Float64Array(2 * STEPS + 1).fill(NaN)
  readonly #weights = new Float64Array(2 * STEPS + 1)

  /** @param flownAt how the disc flies thrown as the job wants */
  constructor(
    private readonly disc: CarriedDisc,
    private readonly job: Job,
    private readonly flownAt = new FlownAt(new StableAt(disc), job.throwing),
  ) {}

  #at(step: number): number {
    const place = Math.max(0, Math.min(2 * STEPS, step + STEPS))
    if (Number.isNaN(this.#known[place])) this.#known[place] = this.#flown(place - STEPS)
    return this.#known[place]!
  }
  #flown(step: number): number {
    const { job } = this
    const found = this.flownAt.at(step)
    if (!found) return 0
    const { flown, by } = found
    const off = FLOWN.map((part) => flown[part] - job.wanted[part])
    const c = this.flownAt.stable.rest
    const cov = (a: number, b: number) => {
      let sum = a === b ? LEAST_SD ** 2 : 0
      for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) sum += by[a]![i]! * c[3 * i + j]! * by[b]![j]!
      return sum
    }
    const line = bothWithin(
      [off[0]!, off[1]!],
      [cov(0, 0), cov(0, 1), cov(1, 1)],
      [job.within.at60M, job.within.finishM],
    )
    if (job.within.carryM === Infinity) return line
    const sd = Math.sqrt(cov(2, 2))
    const { carryM } = job.within
    return line * (normalCdf((carryM - off[2]!) / sd) - normalCdf((-carryM - off[2]!) / sd))
  }

  /** The probability after some more throws, over all the ways it may wear. */
  after(throws: number): number {
    const { kind, use, ways } = this.disc
    const later = usedOn(use, throws)
    const drops = new Map<number, number>()
    const dropIf = (hitThrows: number) => {
      let drop = drops.get(hitThrows)
      if (drop === undefined) drops.set(hitThrows, (drop = usualDrop(kind, later, hitThrows)))
      return drop
    }
    // how likely it is at each step, each place shared between the two next to it
    const weights = this.#weights.fill(0)
    let [least, most] = [2 * STEPS, 0]
    for (const { pace, share, start, hitThrows } of ways) {
      const value = start.value - pace * dropIf(hitThrows)
      for (let i = 0; i < NODES.length; i++) {
        const place = Math.max(0, Math.min(2 * STEPS - 1e-9, (value + NODES[i]! * start.sd) / STEP + STEPS))
        const below = Math.floor(place)
        const weight = share * SHARES[i]!
        weights[below]! += weight * (1 - (place - below))
        weights[below + 1]! += weight * (place - below)
        if (below < least) least = below
        if (below > most) most = below
      }
    }
    let sum = 0
    for (let i = least; i <= most + 1; i++) if (weights[i]! > SLIGHT) sum += weights[i]! * this.#at(i - STEPS)
    return sum
  }

  /** Stabilities between which it does the job rather than not; undefined where there are none. */
  range(): { readonly low: number; readonly high: number } | undefined {
    const middle = Math.round(this.flownAt.stable.stability / STEP)
    const [from, to] = [middle - FAR, middle + FAR]
    let best = middle
    // every other one first: what a disc does changes slowly
    for (let i = from; i <= to; i += 2) if (this.#at(i) > this.#at(best)) best = i
    for (const i of [best - 1, best + 1]) if (i >= from && i <= to && this.#at(i) > this.#at(best)) best = i
    if (this.#at(best) < 0.5) return undefined
    const edge = (by: -1 | 1, end: number) => {
      let i = best
      while (by * i < by * end && this.#at(i + by) >= 0.5) i += by
      const [inside, outside] = [this.#at(i), this.#at(i + by)]
      return STEP * (i + (inside > outside ? (by * (inside - 0.5)) / (inside - outside) : 0))
    }
    return { low: edge(-1, from), high: edge(1, to) }
  }

  /** Whether it does the job now, when it will, and when no more. */
  prospect(): Prospect {
    const course = AHEAD.map((throws) => ({ throws, probability: this.after(throws) }))
    const best = course.reduce((a, b) => (b.probability > a.probability + 1e-9 ? b : a))
    const range = this.range()
    return {
      now: course[0]!.probability,
      best,
      enters: course.find((c) => c.probability >= 0.5)?.throws ?? null,
      leaves: range ? this.#leaves(range.low) : NEVER,
    }
  }

  /** When it falls below a stability, over all the ways it may wear. */
  #leaves(low: number): Leaving {
    const { kind, use, ways } = this.disc
    return whenLost(
      kind,
      use,
      ways.flatMap((way) =>
        NODES.map((node, i) => ({
          share: way.share * SHARES[i]!,
          way,
          loss: way.start.value + node * way.start.sd - low,
        })),
      ),
    )
  }
}
