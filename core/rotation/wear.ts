import type { Estimate } from '../rating/outcome.ts'
import { PLASTIC_KINDS, usualDrop, WEAR_CURVES } from '../shelf/usualWear.ts'
import type { PlasticKind, Use } from '../shelf/usualWear.ts'

/**
 * How far wear may be from that, standard deviations of the logarithm: a kind from what is believed of it, a blend from its kind,
 * a disc from its blend. Together a disc may well wear twice as fast as believed, or half.
 */
export const LN_WEAR_SD = { kind: 0.4, blend: 0.35, disc: 0.3 } as const
/** What a disc does between re-tests that wear does not explain. */
export const RETEST_SD = 0.14

/** How much more or less than believed a hit may do to a kind of plastic, and how far that may be, of the logarithm. */
const HIT_FACTORS = [1 / 3, 1 / Math.sqrt(3), 1, Math.sqrt(3), 3]
export const LN_HIT_SD = 0.6

/** A test of a disc: what it had been through by then, and how stable its throws alone say it flew. */
export interface WearTest {
  readonly use: Use
  readonly stability: Estimate
}
/** A disc with everything that bears on how it wears. */
export interface WornDisc {
  readonly id: string
  readonly kind: PlasticKind
  /** Discs of one blend wear alike. */
  readonly blend: string
  /** What its numbers in force say, and how far a disc may be from them when new. */
  readonly label: Estimate
  readonly tests: readonly WearTest[]
}

/** Logarithms of how much faster than usual a disc may wear. */
const STEP = 0.15
const REACH = 2.4
const GRID: readonly number[] = Array.from(
  { length: 2 * Math.round(REACH / STEP) + 1 },
  (_, i) => i * STEP - REACH,
)

type Curve = ArrayLike<number>
const curveOf = (at: (lnWear: number, i: number) => number): Float64Array =>
  Float64Array.from(GRID, (t, i) => at(t, i))
const bell = (sd: number): Curve => curveOf((t) => Math.exp(-0.5 * (t / sd) ** 2))

/** Adds a bell around nothing to what is known by a curve; nothing lies off the grid. */
class Spread {
  readonly #bell: Curve
  readonly #held: Curve
  constructor(sd: number) {
    this.#bell = bell(sd)
    this.#held = this.#summed(ONE)
  }
  of(curve: Curve): Float64Array {
    return this.#summed(curve).map((v, i) => v / this.#held[i]!)
  }
  #summed(curve: Curve): Float64Array {
    const n = GRID.length
    const middle = (n - 1) / 2
    const sums = new Float64Array(n)
    for (let i = 0; i < n; i++) {
      let sum = 0
      const [from, to] = [Math.max(0, i - middle), Math.min(n - 1, i + middle)]
      for (let j = from; j <= to; j++) sum += this.#bell[middle + i - j]! * curve[j]!
      sums[i] = sum
    }
    return sums
  }
}
const ONE: Curve = curveOf(() => 1)
const AMONG_BLENDS = new Spread(LN_WEAR_SD.blend)
const AMONG_DISCS = new Spread(LN_WEAR_SD.disc)
const times = (a: Curve, b: Curve): Float64Array => curveOf((_, i) => a[i]! * b[i]!)
function sumOf(curve: Curve): number {
  let sum = 0
  for (let i = 0; i < curve.length; i++) sum += curve[i]!
  return sum
}
/** A curve whose largest is 1, and the logarithm of what it was. */
interface Scaled {
  readonly curve: Curve
  readonly ln: number
}
function scaled(curve: Curve): Scaled {
  let most = 0
  for (let i = 0; i < curve.length; i++) most = Math.max(most, curve[i]!)
  return { curve: curveOf((_, i) => curve[i]! / most), ln: Math.log(most) }
}
/** Where a disc started, for each pace of wear, from its tests and its label. */
function startAt(
  { kind, label, tests }: WornDisc,
  lnWear: number,
  hitThrows: number,
): Estimate & { readonly lnFits: number } {
  const pace = Math.exp(lnWear)
  const label_ = 1 / label.sd ** 2
  let [precision, sum, square] = [label_, label_ * label.value, label_ * label.value ** 2]
  for (const { use, stability } of tests) {
    const p = 1 / (stability.sd ** 2 + RETEST_SD ** 2)
    const start = stability.value + pace * usualDrop(kind, use, hitThrows)
    precision += p
    sum += p * start
    square += p * start ** 2
  }
  const value = sum / precision
  return { value, sd: Math.sqrt(1 / precision), lnFits: -0.5 * (square - precision * value ** 2) }
}

/** A disc as it may wear: one way of it, and how likely that is. */
export interface Way {
  /** How much faster than usual it wears. */
  readonly pace: number
  /** Throws that a hard hit is worth. */
  readonly hitThrows: number
  readonly share: number
  /** Stability when it was new. */
  readonly start: Estimate
}
/** Ways less likely than that are left out. */
const LEAST_SHARE = 1e-3

/** What is known of a blend: what its own discs say, and what its kind, known from the other blends, does. */
interface Blend {
  readonly own: Curve
  readonly before: Curve
}

/** What tests say of how each disc wears, were a hit to do so much more or less than believed. */
class AtFactor {
  readonly #likelihoods = new Map<string, Curve>()
  readonly #blends = new Map<string, Blend>()
  readonly #kinds = new Map<PlasticKind, Curve>()
  /** Logarithm of how well all tests of a kind agree with it. */
  readonly agrees: ReadonlyMap<PlasticKind, number>

  constructor(
    readonly factor: number,
    tested: readonly WornDisc[],
  ) {
    const agrees = new Map<PlasticKind, number>(PLASTIC_KINDS.map((k) => [k, 0]))
    const add = (kind: PlasticKind, ln: number) => agrees.set(kind, agrees.get(kind)! + ln)
    const blends = new Map<string, { kind: PlasticKind; own: Curve }>()
    for (const disc of tested) {
      const lnFits = curveOf((t) => startAt(disc, t, this.hitThrows(disc.kind)).lnFits)
      const ln = Math.max(...lnFits)
      const curve = lnFits.map((l) => Math.exp(l - ln))
      this.#likelihoods.set(disc.id, curve)
      const key = blendOf(disc)
      const own = scaled(times(blends.get(key)?.own ?? ONE, AMONG_DISCS.of(curve)))
      blends.set(key, { kind: disc.kind, own: own.curve })
      add(disc.kind, ln + own.ln)
    }
    for (const kind of PLASTIC_KINDS) {
      const says = [...blends].flatMap(([key, b]) =>
        b.kind === kind ? [{ key, own: b.own, curve: AMONG_BLENDS.of(b.own) }] : [],
      )
      const but = (left: string | undefined) =>
        says.reduce<Curve>(
          (all, { key, curve }) => (key === left ? all : times(all, curve)),
          bell(LN_WEAR_SD.kind),
        )
      const all = but(undefined)
      add(kind, Math.log(sumOf(all)))
      this.#kinds.set(kind, AMONG_BLENDS.of(scaled(all).curve))
      for (const { key, own } of says)
        this.#blends.set(key, { own, before: AMONG_BLENDS.of(scaled(but(key)).curve) })
    }
    this.agrees = agrees
  }

  hitThrows(kind: PlasticKind): number {
    return this.factor * WEAR_CURVES[kind].hitThrows
  }

  waysOf(disc: WornDisc): Way[] {
    const likelihood = this.#likelihoods.get(disc.id)
    const before = AMONG_DISCS.of(this.#before(disc, likelihood))
    const weights = likelihood ? times(before, likelihood) : before
    const total = sumOf(weights)
    const hitThrows = this.hitThrows(disc.kind)
    return GRID.map((t, i) => {
      const { value, sd } = startAt(disc, t, hitThrows)
      return { pace: Math.exp(t), hitThrows, share: weights[i]! / total, start: { value, sd } }
    })
  }

  /** What is known of a disc's blend, from the others of it and from its kind. */
  #before(disc: WornDisc, likelihood: Curve | undefined): Curve {
    const blend = this.#blends.get(blendOf(disc))
    if (!blend) return this.#kinds.get(disc.kind)!
    const own = likelihood ? AMONG_DISCS.of(likelihood) : ONE
    return scaled(curveOf((_, i) => (blend.before[i]! * blend.own[i]!) / Math.max(own[i]!, 1e-12))).curve
  }

  /** What is known of how fast a blend wears, all of it together 1. */
  paces(kind: PlasticKind, blend: string): Curve {
    const found = this.#blends.get(blendOf({ kind, blend }))
    const weights = found ? times(found.before, found.own) : this.#kinds.get(kind)!
    const total = sumOf(weights)
    return curveOf((_, i) => weights[i]! / total)
  }
}

/**
 * What tests across the shelf say of how each disc wears: how fast its kind, its blend and it itself do, and how many throws a hit
 * is worth to its kind.
 */
export class Wear {
  readonly #tested: ReadonlySet<string>
  readonly #at: readonly AtFactor[]
  readonly #shares = new Map<PlasticKind, readonly number[]>()
  /** Discs that were never tested wear alike where they are alike. */
  readonly #untested = new Map<string, readonly Way[]>()

  /** @param tested discs with tests; others tell nothing */
  constructor(tested: readonly WornDisc[]) {
    this.#tested = new Set(tested.map((d) => d.id))
    this.#at = HIT_FACTORS.map((factor) => new AtFactor(factor, tested))
    for (const kind of PLASTIC_KINDS) {
      const ln = this.#at.map((a) => a.agrees.get(kind)! - 0.5 * (Math.log(a.factor) / LN_HIT_SD) ** 2)
      const weights = ln.map((l) => Math.exp(l - Math.max(...ln)))
      const total = sumOf(weights)
      this.#shares.set(
        kind,
        weights.map((w) => w / total),
      )
    }
  }

  /**
   * Every way a disc may wear, with its share.
   *
   * @throws RangeError for a disc with tests that was not among those given
   */
  waysOf(disc: WornDisc): readonly Way[] {
    if (disc.tests.length > 0) {
      if (!this.#tested.has(disc.id)) throw new RangeError(`The tests of disc ${disc.id} were not given.`)
      return this.#waysOf(disc)
    }
    const alike = JSON.stringify([disc.kind, disc.blend, disc.label])
    const known = this.#untested.get(alike) ?? this.#waysOf(disc)
    this.#untested.set(alike, known)
    return known
  }
  #waysOf(disc: WornDisc): Way[] {
    const shares = this.#shares.get(disc.kind)!
    const ways = this.#at
      .flatMap((at, i) => at.waysOf(disc).map((way) => ({ ...way, share: way.share * shares[i]! })))
      .filter((way) => way.share >= LEAST_SHARE)
    const total = ways.reduce((sum, w) => sum + w.share, 0)
    return ways.map((way) => ({ ...way, share: way.share / total }))
  }

  /** How much faster than usual a blend wears, as far as is known: the middle, and where it lies with 80 in 100. */
  paceOf(kind: PlasticKind, blend: string): Range {
    const shares = this.#shares.get(kind)!
    const curves = this.#at.map((at) => at.paces(kind, blend))
    const weights = GRID.map((_, i) => curves.reduce((sum, c, k) => sum + shares[k]! * c[i]!, 0))
    return rangeOf((p) => Math.exp(quantile(GRID, weights, p)))
  }

  /** Throws that a hard hit is worth to a kind of plastic, as far as is known. */
  hitOf(kind: PlasticKind): Range {
    const shares = this.#shares.get(kind)!
    return rangeOf(
      (p) => WEAR_CURVES[kind].hitThrows * Math.exp(quantile(HIT_FACTORS.map(Math.log), shares, p)),
    )
  }
}

/** The middle of what is known, and where it lies with 80 in 100. */
export interface Range {
  readonly low: number
  readonly middle: number
  readonly high: number
}
const rangeOf = (at: (p: number) => number): Range => ({ low: at(0.1), middle: at(0.5), high: at(0.9) })

const blendOf = ({ kind, blend }: Pick<WornDisc, 'kind' | 'blend'>) => `${kind}/${blend}`

/** Where so much of the weight lies below, between evenly spaced points. */
function quantile(at: readonly number[], weights: Curve, p: number): number {
  const total = sumOf(weights)
  const step = at[1]! - at[0]!
  let below = 0
  for (let i = 0; i < at.length; i++) {
    const share = weights[i]! / total
    if (below + share >= p) return at[i]! + ((p - below) / share - 0.5) * step
    below += share
  }
  return at.at(-1)!
}

/** Stability of a disc after so much use, over all its ways. */
export function stabilityAfter(kind: PlasticKind, ways: readonly Way[], use: Use): Estimate {
  let [value, square] = [0, 0]
  for (const { pace, share, start, hitThrows } of ways) {
    const at = start.value - pace * usualDrop(kind, use, hitThrows)
    value += share * at
    square += share * (at ** 2 + start.sd ** 2)
  }
  return { value, sd: Math.sqrt(Math.max(0, square - value ** 2)) }
}

/** What so much more use changes of a disc's stability. */
export function changeBy(kind: PlasticKind, ways: readonly Way[], use: Use, more: Use): Estimate {
  const later = { throws: use.throws + more.throws, hardHits: use.hardHits + more.hardHits }
  let [value, square] = [0, 0]
  for (const { pace, share, hitThrows } of ways) {
    const by = -pace * (usualDrop(kind, later, hitThrows) - usualDrop(kind, use, hitThrows))
    value += share * by
    square += share * by ** 2
  }
  return { value, sd: Math.sqrt(Math.max(0, square - value ** 2)) }
}

/** Further ahead nobody plans, throws. */
export const HORIZON = 3000

/** A disc after so many more throws, hit as often as it was so far. */
export function usedOn({ throws, hardHits }: Use, more: number): Use {
  return { throws: throws + more, hardHits: hardHits + (throws > 0 ? (hardHits / throws) * more : 0) }
}

/** When something ends, throws from now; null where that is further off than looked, or it never began. */
export interface Leaving {
  /** With one chance in ten, as likely as not, with nine in ten. */
  readonly earliest: number | null
  readonly likely: number | null
  readonly latest: number | null
}
export const NEVER: Leaving = { earliest: null, likely: null, latest: null }

/**
 * When a disc has lost so much since it was new.
 *
 * @param losses what it has to lose, each with its share and the way it wears
 */
export function whenLost(
  kind: PlasticKind,
  use: Use,
  losses: readonly { readonly share: number; readonly way: Way; readonly loss: number }[],
): Leaving {
  const courses = new Map<number, Course>()
  const courseIf = (hitThrows: number) => {
    const course = courses.get(hitThrows) ?? new Course(kind, use, hitThrows)
    courses.set(hitThrows, course)
    return course
  }
  const times = losses
    .map(({ share, way, loss }) => ({
      share,
      throws: courseIf(way.hitThrows).throwsUntil(loss / way.pace),
    }))
    .sort((a, b) => a.throws - b.throws)
  const at = (p: number) => {
    let below = 0
    for (const [i, t] of times.entries()) {
      if (below + t.share >= p) {
        // between the middles of two shares
        const before = times[i - 1]
        const part = (p - below) / t.share
        const throws =
          before && t.throws < Infinity
            ? before.throws + (t.throws - before.throws) * Math.min(1, part + 0.5)
            : t.throws
        return throws < HORIZON ? Math.round(throws) : null
      }
      below += t.share
    }
    return null
  }
  return { earliest: at(0.1), likely: at(0.5), latest: at(0.9) }
}

/** How a disc that wears as usual loses as it is thrown on, read backwards: throws until it has lost so much since new. */
class Course {
  readonly #lost: Float64Array
  constructor(kind: PlasticKind, use: Use, hitThrows: number) {
    this.#lost = Float64Array.from({ length: HORIZON / COURSE_STEP + 1 }, (_, i) =>
      usualDrop(kind, usedOn(use, i * COURSE_STEP), hitThrows),
    )
  }
  throwsUntil(loss: number): number {
    const lost = this.#lost
    if (lost[0]! >= loss) return 0
    let [low, high] = [0, lost.length - 1]
    if (lost[high]! < loss) return Infinity
    while (high - low > 1) {
      const middle = (low + high) >> 1
      if (lost[middle]! < loss) low = middle
      else high = middle
    }
    return COURSE_STEP * (low + (loss - lost[low]!) / (lost[high]! - lost[low]!))
  }
}
const COURSE_STEP = 20

/** When a disc is so much less stable than it is now. */
export const whenLess = (kind: PlasticKind, ways: readonly Way[], use: Use, by: number): Leaving =>
  whenLost(
    kind,
    use,
    ways.map((way) => ({
      share: way.share,
      way,
      loss: way.pace * usualDrop(kind, use, way.hitThrows) + by,
    })),
  )

/**
 * A test without the belief in the label that its weighing leaned on, so that the label does not count once a test.
 *
 * Of Gaussians: the precision and the weighted mean of the belief are taken away.
 *
 * @returns undefined where next to nothing is left: the throws said nothing of their own
 */
export function withoutLabel(test: Estimate, label: Estimate): Estimate | undefined {
  const own = 1 / test.sd ** 2 - 1 / label.sd ** 2
  if (!(own > LEAST_LEFT / label.sd ** 2)) return undefined
  return {
    value: (test.value / test.sd ** 2 - label.value / label.sd ** 2) / own,
    sd: Math.sqrt(1 / own),
  }
}
const LEAST_LEFT = 0.05
