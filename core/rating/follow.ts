import { discCovariance, emptyArrow } from './arrow.ts'
import type { SolvedArrow } from './arrow.ts'
import type { Base } from './base.ts'
import { sideSlopesOf } from '../flight/side.ts'
import { pullOf } from './bend.ts'
import { withModelError } from './discrepancy.ts'
import { ratingOf } from './outcome.ts'
import type { DiscRating } from './outcome.ts'
import { factorise, inverse, solve } from './cholesky.ts'
import { Indigestible, without } from './digest.ts'
import type { LeftOut } from './digest.ts'
import { eliminate, updateLatents } from './eliminate.ts'
import { addTerm, layoutOf } from './equations.ts'
import type { Layout } from './equations.ts'
import { habitSdsOf, TYPICAL_FULL_SPEED } from './evidence.ts'
import type { Evidence, RatedDisc } from './evidence.ts'
import { clampNumbers } from './linear.ts'
import { scaleOf, scatterOf, sharesOf, weigh } from './noise.ts'
import type { Noise, Purpose, Scatter } from './noise.ts'
import { AIM, BEARS_ON, OF_DISC, OF_HABIT } from './places.ts'
import { easedAfter } from './steps.ts'
import { placeTerm, ROUND } from './throwTerm.ts'
import type { ThrowTerm } from './throwTerm.ts'
import { entriesOf, ownEntries, togetherWith } from './touched.ts'
import type { Entry } from './touched.ts'
import { outingsOf, termsOf } from './warm.ts'
import { UNWORN } from './worn.ts'

/**
 * A few more throws on top of a fit: what they touch (their discs, arms and outings) is weighed anew with them; everything else is
 * held at its posterior and moves as far as it goes together with what is touched. The other throws are not looked at again: a full
 * fit agrees to a few hundredths of a standard deviation.
 */

/** A disc as it stands with more throws. */
export interface Followed {
  readonly disc: RatedDisc
  /** Glide, turn, fade. */
  readonly numbers: Float64Array
  /** Their covariance as scatter leaves it, 3 × 3, row by row. */
  readonly covariance: Float64Array
  /** How far it has moved or narrowed: the most of its numbers, in its standard deviations. */
  readonly moved: number
}

/** What is said of it. */
export function ratingAfter({ discrepancy }: Base, { disc, numbers, covariance }: Followed): DiscRating {
  const [glide, turn, fade] = numbers as unknown as [number, number, number]
  const flown = sideSlopesOf({ ...disc.published, glide, turn, fade })
  return ratingOf(disc, numbers, withModelError(disc, covariance, discrepancy), flown)
}

/** Rounds of a search among a few unknowns. */
const ROUNDS = 40
/** It ends when no unknown moves by more of its standard deviation. */
const SMALL = 2e-3
/** One step moves nothing by more of its standard deviation. */
const LONGEST = 3

/**
 * Every disc with a few more throws.
 *
 * @param more those throws, with their discs and arms; such as the fit does not have are taken as believed before any throw
 * @throws RangeError when a throw names a disc or an arm that is not in the evidence
 */
export function follow(
  base: Base,
  more: Evidence,
): { readonly discs: readonly Followed[]; readonly leftOut: readonly LeftOut[] } {
  const leftOut: LeftOut[] = []
  for (;;)
    try {
      return { discs: following(base, without(more, leftOut)), leftOut }
    } catch (e) {
      if (!(e instanceof Indigestible)) throw e
      leftOut.push(...e.throws)
    }
}

function following(base: Base, more: Evidence): Followed[] {
  const { discs, arms } = more
  const counted = termsOf(more, undefined).filter((t) => t.evidence.counts)
  const armAt = new Map(base.arms.map((a, i) => [a.id, i]))
  for (const t of counted) t.shape = base.shapes[armAt.get(t.evidence.arm) ?? -1] ?? ROUND
  const outings = outingsOf(more)
  const kinship = { effects: [], of: discs.map(() => []), ownShare: [] }
  const layout = layoutOf(
    { discs, kinship, habitSds: arms.map(habitSdsOf), worn: UNWORN },
    counted,
    outings.length,
  )
  const entries = entriesOf(base, more, outings)
  const n = entries.length
  const belief = beliefIn(base.curvature, entries)
  const search: Search = {
    base,
    counted,
    layout,
    belief,
    mean: Float64Array.from(entries, (e) => e.mean),
    lnFull: arms.map((a) => Math.log(a.fullSpeedMps ?? TYPICAL_FULL_SPEED)),
    noise: noiseBefore(base, more, outings),
  }
  const moved = searched(search)
  const pull = times(belief.precision, moved, n)
  const stated = beliefIn(base.posterior, entries)
  const told = gathered(search, 'posterior').information
  // what is known less: H − H·(Σ⁻¹ + H)⁻¹·H, seen from everything that goes together with what is touched
  const known = multiplied(told, multiplied(inverted(sum(stated.precision, told), n), told, n), n)
  const narrower = told.map((v, i) => v - known[i]!)
  const place = new Map(base.discs.map((d, i) => [d.id, i]))
  const carried = (disc: RatedDisc, own: readonly Entry[], was: Float64Array): Followed => {
    const step = own.map((e) => belief.together(e).reduce((s, c, i) => s + c * pull[i]!, 0))
    const rows = own.map((e) => stated.together(e))
    const lost = rows.map((row) => times(narrower, row, n))
    const covariance = was.map(
      (v, at) => v - lost[Math.floor(at / OF_DISC)]!.reduce((s, l, i) => s + l * rows[at % OF_DISC]![i]!, 0),
    )
    return {
      disc,
      numbers: Float64Array.from(own, (e, k) => e.mean + step[k]!),
      covariance,
      moved: Math.max(
        ...step.map((s, k) => {
          const sd = Math.sqrt(was[k * 4]!)
          return Math.max(Math.abs(s) / sd, 1 - Math.sqrt(covariance[k * 4]!) / sd)
        }),
      ),
    }
  }
  return [
    ...base.discs.map((disc, d) => carried(disc, ownEntries(base, d), discCovariance(base.posterior, d, d))),
    ...discs.flatMap((disc, d) => {
      if (place.has(disc.id)) return []
      const own = entries.slice(d * OF_DISC, (d + 1) * OF_DISC)
      const among = (row: Float64Array) => [...row.subarray(d * OF_DISC, (d + 1) * OF_DISC)]
      return [carried(disc, own, Float64Array.from(own.flatMap((e) => among(stated.together(e)))))]
    }),
  ]
}

/** What a fit believes of the touched unknowns, and how anything else goes together with them. */
function beliefIn(solved: SolvedArrow, entries: readonly Entry[]) {
  const together = togetherWith(solved, entries)
  const covariance = Float64Array.from(entries.flatMap((e) => [...together(e)]))
  return { together, covariance, precision: inverted(covariance, entries.length) }
}

interface Search {
  readonly base: Base
  readonly counted: readonly ThrowTerm[]
  readonly layout: Layout
  readonly belief: ReturnType<typeof beliefIn>
  readonly mean: Float64Array
  /** Per arm. */
  readonly lnFull: readonly number[]
  readonly noise: Shown
}

/** The noise of touched arms and cameras, and what they had shown of it before. */
interface Shown extends Noise {
  readonly before: { readonly arms: readonly Scatter[]; readonly cameras: readonly Scatter[] }
}

function noiseBefore(base: Base, { arms }: Evidence, outings: readonly string[]): Shown {
  const of = (ids: readonly string[], known: readonly string[], scatter: readonly Scatter[]) =>
    ids.map((id) => scatter[known.indexOf(id)] ?? { misfit: 0, seen: 0 })
  const ids = (list: Evidence['arms']) => list.map((a) => a.id)
  const before = {
    arms: of(ids(arms), ids(base.arms), base.scatter.arms),
    cameras: of(outings, base.outings, base.scatter.cameras),
  }
  const scales = (list: readonly Scatter[]) => Float64Array.from(list, (s) => scaleOf(s, base.free))
  return { before, arms: scales(before.arms), cameras: scales(before.cameras) }
}

/** Learns the noise anew: what was shown before, and what these throws show. */
function learn({ noise, counted, base: { free } }: Search): void {
  const now = scatterOf(noise, counted)
  const both = (a: Scatter, b: Scatter) =>
    scaleOf({ misfit: a.misfit + b.misfit, seen: a.seen + b.seen }, free)
  now.arms.forEach((s, i) => (noise.arms[i] = both(noise.before.arms[i]!, s)))
  now.cameras.forEach((s, i) => (noise.cameras[i] = both(noise.before.cameras[i]!, s)))
}

/** How far the touched unknowns move, by Gauss–Newton among them alone; the fit's curvature is what is believed of them. */
function searched(search: Search): Float64Array {
  const { base, counted, belief, mean, lnFull, noise } = search
  const n = mean.length
  const moved = new Float64Array(n)
  const at = placesIn(search)
  const step = new Float64Array(BEARS_ON)
  let open = search.layout.columns.map((_, d) => ownOpen(belief.precision, n, d))
  const sds = Float64Array.from({ length: n }, (_, i) => Math.sqrt(belief.covariance[i * n + i]!))
  let ease = 1
  let lastStep = new Float64Array(n)
  for (let round = 0; round < ROUNDS; round++) {
    const x = sum(mean, moved)
    for (const t of counted) {
      const [d, a, o] = at(t)
      t.windVariance = t.windBelieved * base.gust
      t.scale = noise.arms[t.arm]!
      placeTerm(t, x.subarray(d, d + OF_DISC), lnFull[t.arm]!, x.subarray(a, a + OF_HABIT), x[o]!)
      eliminate(t)
      if (round > 0) pullOf(t, open[t.disc])
    }
    weigh(counted, noise)
    if (round > 0) learn(search)
    weigh(counted, noise)
    const { information, side } = gathered(search, 'step')
    times(belief.precision, moved, n).forEach((v, i) => (side[i]! -= v))
    const curvature = sum(information, belief.precision)
    open = open.map((_, d) => ownOpen(curvature, n, d))
    factorise(curvature, n)
    solve(curvature, n, side)
    const change = side
    const units = change.map((v, i) => v / sds[i]!)
    const far = units.reduce((most, v) => Math.max(most, Math.abs(v)), 0)
    ease = easedAfter(ease, units, lastStep)
    const share = Math.min(ease, LONGEST / far)
    lastStep = units.map((v) => v * share)
    for (let i = 0; i < n; i++) moved[i]! += share * change[i]!
    for (let d = 0; d < search.layout.columns.length; d++) {
      const own = sum(mean, moved).subarray(d * OF_DISC, (d + 1) * OF_DISC)
      clampNumbers(own)
      for (let k = 0; k < OF_DISC; k++) moved[d * OF_DISC + k] = own[k]! - mean[d * OF_DISC + k]!
    }
    for (const t of counted) {
      const [d, a, o] = at(t)
      for (let k = 0; k < BEARS_ON; k++)
        step[k] = share * change[k < OF_DISC ? d + k : k === AIM ? o : a + k - OF_DISC]!
      updateLatents(t, step)
    }
    if (far < SMALL && round > 2) break
  }
  return moved
}

/** Covariance of what is not known of a disc's own numbers were all else known, from the information of everything. */
const ownOpen = (information: Float64Array, n: number, disc: number): Float64Array =>
  inverted(
    Float64Array.from({ length: OF_DISC * OF_DISC }, (_, at) => {
      const [i, j] = [Math.floor(at / OF_DISC), at % OF_DISC]
      return information[(disc * OF_DISC + i) * n + disc * OF_DISC + j]!
    }),
    OF_DISC,
  )

/** Where the disc, the arm and the outing of a throw stand among the touched unknowns. */
const placesIn = ({ layout, lnFull }: Search) => {
  const firstArm = layout.columns.length * OF_DISC
  return (t: ThrowTerm): readonly [number, number, number] => [
    t.disc * OF_DISC,
    firstArm + t.arm * OF_HABIT,
    firstArm + lnFull.length * OF_HABIT + t.outing,
  ]
}

/** What the throws say of the touched unknowns: their information, n × n, and the side it pulls to. */
function gathered({ counted, layout, noise, mean }: Search, purpose: Purpose) {
  const arrow = emptyArrow(layout.columns, layout.border)
  for (const t of counted) addTerm(arrow, t, ...sharesOf(t, noise, purpose))
  const n = mean.length
  const information = new Float64Array(n * n)
  const put = (i: number, j: number, v: number) => (information[i * n + j] = information[j * n + i] = v)
  const first = layout.columns.length * OF_DISC
  layout.columns.forEach((touched, d) => {
    const k = touched.length
    for (let i = 0; i < OF_DISC; i++) {
      for (let j = 0; j < OF_DISC; j++)
        put(d * OF_DISC + i, d * OF_DISC + j, arrow.own[d * 9 + i * OF_DISC + j]!)
      for (let c = 0; c < k; c++) put(d * OF_DISC + i, first + touched[c]!, arrow.coupling[d]![i * k + c]!)
    }
  })
  const { border } = layout
  for (let i = 0; i < border; i++)
    for (let j = 0; j < border; j++) put(first + i, first + j, arrow.shared[i * border + j]!)
  return { information, side: Float64Array.of(...arrow.ownSide, ...arrow.sharedSide) }
}

/** Matrices are n × n, row by row. */
const sum = (a: Float64Array, b: Float64Array): Float64Array => a.map((v, i) => v + b[i]!)

function inverted(a: Float64Array, n: number): Float64Array {
  const factor = a.slice()
  factorise(factor, n)
  return inverse(factor, n)
}

function times(a: Float64Array, v: Float64Array, n: number): Float64Array {
  const result = new Float64Array(n)
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) result[i]! += a[i * n + j]! * v[j]!
  return result
}

function multiplied(a: Float64Array, b: Float64Array, n: number): Float64Array {
  const result = new Float64Array(n * n)
  for (let i = 0; i < n; i++)
    for (let k = 0; k < n; k++) {
      const f = a[i * n + k]!
      if (f !== 0) for (let j = 0; j < n; j++) result[i * n + j]! += f * b[k * n + j]!
    }
  return result
}
