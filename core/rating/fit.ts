import { emptyArrow, OF_HABIT, solveArrow } from './arrow.ts'
import type { Arrow, SolvedArrow } from './arrow.ts'
import { addBeliefs, effectColumn, ownVariances, respread, sameSpread, SPREAD_BELIEVED } from './beliefs.ts'
import type { Believed, Spread } from './beliefs.ts'
import { pullOf } from './bend.ts'
import { alone } from './crew.ts'
import type { Crew } from './crew.ts'
import { HABIT_SD, TYPICAL_FULL_SPEED, UNKNOWN_SPEED_SD } from './evidence.ts'
import type { Evidence, RatedDisc } from './evidence.ts'
import { effectPrior, kinshipOf } from './kin.ts'
import type { Kinship } from './kin.ts'
import { OF_DISC } from './linear.ts'
import {
  BEARS_ON,
  eliminateLatents,
  evidenceKey,
  flyAnew,
  makeTerm,
  measureGust,
  placeTerm,
  takeSlopes,
  updateLatents,
} from './throwTerm.ts'
import type { ThrowTerm } from './throwTerm.ts'

/** Degrees of freedom of the Student-t weights: a bad throw nobody flagged pulls little. */
const NU = 4
/** What the noise scale is believed to be before any throw, and how many observations that is worth. */
const SCALE_PRIOR = { value: 1, worth: 24 }
/** How many throws the belief in gusts is worth. */
const GUST_WORTH = 2
const HURRY = 2.5
const LEARNING_ROUNDS = 14
/** A warm start has learnt nearly all there is, and the next one goes on. */
const LEARNING_WHEN_WARM = 4
/**
 * Share of a throw's information that the posterior counts. Throws mostly scatter like a Gaussian; there a Student-t
 * likelihood whose scale is estimated states 0.86 of the variance that its estimate really has (the sandwich variance of an
 * M-estimator, for two to five observations a throw), and simulated sessions agree.
 *
 * Source: P. J. Huber, Robust estimation of a location parameter, 1964.
 */
const HONEST = 0.87
/** Rounds in which throws are flown again whenever they have moved at all. */
const FLOWN_CLOSELY = 8
/**
 * Rounds of a cold start whose steps only have to lead the right way: derivatives may then be so many times further off,
 * and how flights bend is not looked at yet.
 */
const FIRST_ROUNDS = 4
const EASE_AT_FIRST = 20
/** A warm start brings derivatives that were good enough. */
const EASE_WHEN_WARM = 4
/** How flights bend is looked at in every so manieth round: it changes little from one to the next. */
const LOOK_EVERY = 3
/** Later than this a few throws would make the search go round for ever. */
const LAST_LOOK = 22
/** While steps are long they only have to lead the right way. */
const easeOf = (lastStep: Float64Array) =>
  lastStep.length === 0
    ? 1
    : Math.max(1, Math.min(EASE_AT_FIRST, 20 * lastStep.reduce((l, v) => Math.max(l, Math.abs(v)), 0)))
/** From here on a throw's rows are looked at together. */
const MANY = 500
const MAX_ITERATIONS = 40
/** Steps below these end the search: numbers, ln speed, angles. */
const SMALL = { number: 8e-3, lnSpeed: 8e-4, angle: 8e-4 }
/** One step moves no further than this. */
const LONGEST = { number: 1.2, lnSpeed: 0.15, angle: 0.07 }

/** Where a fit stands; hand it to the next fit of nearly the same throws for a warm start. */
export interface FitState {
  readonly evidence: Evidence
  /** Glide, turn, fade of every disc, absolute, in the order of the evidence. */
  readonly numbers: readonly Float64Array[]
  /** Habit of every arm: ln speed, launch, hyzer, nose. */
  readonly habits: readonly Float64Array[]
  /** What discs share, and each effect's glide, turn and fade. */
  readonly kinship: Kinship
  readonly effects: readonly Float64Array[]
  /** Variances at each level of kinship against what was believed. */
  readonly spread: Spread
  /** Gusts: variance of the wind about its log against what was believed. */
  readonly gust: number
  /** Noise scale (variance ratio) of every arm. */
  readonly scales: Float64Array
  /** A term per throw, in the order of the evidence, those left out included. */
  readonly terms: readonly ThrowTerm[]
  /** Curvature at the solution: the Laplace posterior. */
  readonly posterior: SolvedArrow
  readonly iterations: number
  /** False when the search was ended by its limit. */
  readonly settled: boolean
}

export interface FitOptions {
  readonly warm?: FitState
  /** Flies what has to be flown; this thread alone unless told otherwise. */
  readonly crew?: Crew
  /** Called once an iteration with the share of the way believed gone; return false to stop. */
  readonly onProgress?: (share: number) => boolean | void
}

/** Thrown when the caller stopped a fit. */
export class FitCancelled extends Error {
  constructor() {
    super('The rating was stopped before it settled.')
  }
}

/**
 * Joint maximum a posteriori of disc numbers, throwers' habits and every throw's own errors, by Gauss–Newton.
 *
 * Latents are eliminated throw by throw at their own current estimate, discs block by block, habits last.
 * Throws carry Student-t weights with 4 degrees of freedom on their whole misfit; a noise scale per arm is
 * estimated with them. The posterior is the expected curvature of that likelihood at the solution.
 *
 * @throws RangeError when a throw names a disc or an arm that is not in the evidence
 * @throws FitCancelled when `onProgress` returned false
 */
export function fit(evidence: Evidence, { warm, onProgress, crew }: FitOptions = {}): FitState {
  const steps = fitting(evidence, warm, crew)
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
    if (onProgress?.(step.value) === false) throw new FitCancelled()
  }
}

/**
 * The same, a round at a time: yields the share of the way believed gone after each, so that whoever drives it can breathe
 * in between, say how far it is, or let it be.
 */
export function* fitting(
  evidence: Evidence,
  warm?: FitState,
  crew: Crew = alone,
): Generator<number, FitState, void> {
  const { discs, arms } = evidence
  const terms = termsOf(evidence, warm)
  const numbers = discs.map((d) => startNumbers(d, warm))
  const lnFull = arms.map((a) => Math.log(a.fullSpeedMps ?? TYPICAL_FULL_SPEED))
  const habits = arms.map((a) => {
    const before =
      warm?.evidence.arms.findIndex((b) => b.id === a.id && b.fullSpeedMps === a.fullSpeedMps) ?? -1
    return before >= 0 ? warm!.habits[before]!.slice() : new Float64Array(OF_HABIT)
  })
  const habitSds = arms.map((a) =>
    a.fullSpeedMps === undefined ? [UNKNOWN_SPEED_SD, ...HABIT_SD.slice(1)] : HABIT_SD,
  )
  const kinship = kinshipOf(discs)
  const effects = kinship.effects.map((e) => startEffect(e, warm))
  const believed: Believed = { discs, kinship, habitSds }
  let spread: Spread = warm?.spread ?? SPREAD_BELIEVED
  let gust = warm?.gust ?? 1
  let unknowns = 0
  const scales = Float64Array.from(arms, (a) => {
    const before = warm?.evidence.arms.findIndex((b) => b.id === a.id) ?? -1
    return before >= 0 ? warm!.scales[before]! : SCALE_PRIOR.value
  })
  const counted = terms.filter((t) => t.evidence.counts)
  const border = effectColumn(arms.length, kinship.effects.length)
  const columns = columnsOf(discs.length, arms.length, counted, kinship)
  const order = orderOf(arms.length, kinship)
  const step = new Float64Array(BEARS_ON)

  let iterations = 0
  const first = warm ? 1 : FIRST_ROUNDS
  const learning = warm ? LEARNING_WHEN_WARM : LEARNING_ROUNDS
  let slack = 1
  const place = (t: ThrowTerm) => {
    t.windVariance = t.windBelieved * gust
    placeTerm(t, numbers[t.disc]!, lnFull[t.arm]!, habits[t.arm]!)
    // late in the search a few throws would swing between two flights for ever, and their discs with them
    const patience = 1 + Math.max(0, iterations - FLOWN_CLOSELY) / 2
    return flyAnew(t, discs[t.disc]!, patience, Math.max(patience, slack))
  }
  /** Every throw where it stands now: flown where it must be, all those together, its latents eliminated. */
  const placeAll = (list: readonly ThrowTerm[]) => {
    const waiting: ThrowTerm[] = []
    const jobs = list.flatMap((t) => {
      const job = place(t)
      if (!job) return []
      waiting.push(t)
      return [job]
    })
    crew(jobs)
    waiting.forEach(takeSlopes)
    list.forEach(eliminateLatents)
  }
  const weigh = () => {
    for (const t of counted) t.weight = (NU + t.count) / (NU + t.distance / scales[t.arm]!)
  }
  const solve = (final: boolean): SolvedArrow => {
    const arrow = emptyArrow(columns, border, order)
    addBeliefs(arrow, believed, { numbers, habits, effects }, spread)
    for (const t of counted) {
      // at the end the expected information of a Student-t, not the working weights of the search
      const share = final ? (HONEST * (NU + t.count)) / (NU + t.count + 2) : 1
      addTerm(arrow, t, (t.weight * share) / scales[t.arm]!)
    }
    return solveArrow(arrow)
  }

  let ease = 1
  let lastStep = new Float64Array(0)
  let settled = counted.length === 0
  let solved: SolvedArrow | undefined
  while (iterations < MAX_ITERATIONS && !settled) {
    iterations++
    slack = warm ? EASE_WHEN_WARM : easeOf(lastStep)
    placeAll(counted)
    if (iterations > first && iterations <= LAST_LOOK && (iterations - first) % LOOK_EVERY === 1)
      counted.forEach((t, i) => pullOf(t, discs[t.disc]!, i))
    weigh()
    let moved = false
    if (iterations > 1) {
      // what varies how much is learnt slowly, so gusts are hurried along; and not for ever, so that the search can end
      if (iterations <= learning) {
        unknowns = effectiveUnknowns(believed, spread, solved!)
        gust *= Math.min(2, Math.max(0.5, (gustOf(counted, scales) / gust) ** HURRY))
        const before = spread
        spread = respread(believed, { numbers, habits, effects }, spread, solved!)
        moved = !sameSpread(before, spread) && iterations < learning
      }
      rescale(scales, counted, unknowns)
    }
    weigh()
    solved = solve(false)
    const far = damp(solved, arms.length)
    // past the bottom of a bent valley and back again: shorter steps end that
    const units = inUnits(solved, arms.length)
    if (product(units, lastStep) < -0.1 * product(lastStep, lastStep)) ease = Math.max(0.1, 0.5 * ease)
    else ease = Math.min(1, 1.3 * ease)
    const share = ease * far.share
    lastStep = units.map((v) => v * share)
    settled = far.small && !moved && iterations > first
    for (let d = 0; d < discs.length; d++)
      for (let k = 0; k < OF_DISC; k++) numbers[d]![k]! += share * solved.ownStep[d * OF_DISC + k]!
    for (let a = 0; a < arms.length; a++)
      for (let k = 0; k < OF_HABIT; k++) habits[a]![k]! += share * solved.sharedStep[a * OF_HABIT + k]!
    for (let e = 0; e < effects.length; e++)
      for (let k = 0; k < OF_DISC; k++)
        effects[e]![k]! += share * solved.sharedStep[effectColumn(arms.length, e) + k]!
    for (const t of counted) {
      for (let k = 0; k < OF_DISC; k++) step[k] = share * solved.ownStep[t.disc * OF_DISC + k]!
      for (let k = 0; k < OF_HABIT; k++) step[OF_DISC + k] = share * solved.sharedStep[t.arm * OF_HABIT + k]!
      updateLatents(t, step)
    }
    yield Math.min(0.95, iterations / 14)
  }
  placeAll(terms)
  for (const t of terms) {
    if (t.evidence.counts) continue
    step.fill(0)
    updateLatents(t, step)
    t.weight = 0
  }
  weigh()
  const posterior = solve(true)
  return {
    evidence,
    numbers,
    habits,
    kinship,
    effects,
    spread,
    gust,
    scales,
    terms,
    posterior,
    iterations,
    settled,
  }
}

function termsOf(evidence: Evidence, warm: FitState | undefined): ThrowTerm[] {
  const discAt = new Map(evidence.discs.map((d, i) => [d.id, i]))
  const armAt = new Map(evidence.arms.map((a, i) => [a.id, i]))
  const before = new Map(warm?.terms.map((t) => [t.evidence.id, t]))
  return evidence.throws.map((t) => {
    const disc = discAt.get(t.disc)
    const arm = armAt.get(t.arm)
    if (disc === undefined)
      throw new RangeError(`Throw ${t.id} names disc ${t.disc}, which is not among the discs.`)
    if (arm === undefined)
      throw new RangeError(`Throw ${t.id} names ${t.arm}, who is not among the throwers.`)
    const key = evidenceKey(t, evidence.discs[disc]!)
    const old = before.get(t.id)
    const many = evidence.throws.length > MANY
    if (!old) return makeTerm(t, disc, arm, key, many)
    // the state of the earlier fit stays as it was: its arrays are copied, not shared
    const term = makeTerm(t, disc, arm, key, many)
    term.latent.set(old.latent)
    if (old.key !== key || !old.flown) return term
    term.flownAt.set(old.flownAt)
    term.slopedAt.set(old.slopedAt)
    term.pull.set(old.pull)
    term.pulledAt.set(old.pulledAt)
    term.pulled = old.pulled
    term.lean.set(old.lean)
    term.seen.set(old.seen)
    term.jacobian.set(old.jacobian)
    term.slope.set(old.slope)
    term.flown = true
    return term
  })
}

function startNumbers(disc: RatedDisc, warm: FitState | undefined): Float64Array {
  const before = warm?.evidence.discs.findIndex((d) => d.id === disc.id) ?? -1
  if (before >= 0) return warm!.numbers[before]!.slice()
  return Float64Array.of(disc.published.glide, disc.published.turn, disc.published.fade)
}

function startEffect({ level, names }: Kinship['effects'][number], warm: FitState | undefined): Float64Array {
  const before =
    warm?.kinship.effects.findIndex((e) => e.level === level && e.names.join() === names.join()) ?? -1
  return before >= 0
    ? warm!.effects[before]!.slice()
    : Float64Array.from(effectPrior(level, SPREAD_BELIEVED).mean)
}

/** Border columns every disc touches: the habits of the arms that threw it, then its effects in the order of its kin. */
function columnsOf(
  discs: number,
  arms: number,
  counted: readonly ThrowTerm[],
  kinship: Kinship,
): Int32Array[] {
  const thrownBy = Array.from({ length: discs }, () => new Set<number>())
  for (const t of counted) thrownBy[t.disc]!.add(t.arm)
  const wide = (first: number, count: number) => Array.from({ length: count }, (_, k) => first + k)
  const columns = thrownBy.map((set, d) => {
    const own = [...set].sort((a, b) => a - b).flatMap((a) => wide(a * OF_HABIT, OF_HABIT))
    const shared = kinship.of[d]!.flatMap(({ effect }) => wide(effectColumn(arms, effect), OF_DISC))
    return Int32Array.from([...own, ...shared])
  })
  for (const t of counted) t.slot = columns[t.disc]!.indexOf(t.arm * OF_HABIT)
  return columns
}

/** Effects mold by mold, from the narrowest; then what touches discs of many molds; then habits, which touch nearly all. */
function orderOf(arms: number, { effects }: Kinship): number[] {
  const narrow = { run: 0, plastic: 1, mold: 2, blend: 3, wear: 3 } as const
  const moldOf = new Map<string, number>()
  const place = effects.map(({ level, names }, e) => {
    if (narrow[level] === 3) return [Infinity, 3, e] as const
    const mold = names[0]!
    if (!moldOf.has(mold)) moldOf.set(mold, moldOf.size)
    return [moldOf.get(mold)!, narrow[level], e] as const
  })
  place.sort((a, b) => (a[0] === b[0] ? a[1] - b[1] || a[2] - b[2] : a[0] - b[0]))
  return [
    ...place.flatMap(([, , e]) => Array.from({ length: OF_DISC }, (_, k) => effectColumn(arms, e) + k)),
    ...Array.from({ length: arms * OF_HABIT }, (_, i) => i),
  ]
}

/** Adds one throw's information, times `share`, to the normal equations. */
function addTerm(arrow: Arrow, t: ThrowTerm, share: number): void {
  const { rows, bearing, white, disc, arm, slot } = t
  const { border } = arrow
  const coupling = arrow.coupling[disc]!
  const k = arrow.columns[disc]!.length
  for (let i = 0; i < BEARS_ON; i++) {
    let side = 0
    for (let r = 0; r < rows; r++) side += bearing[r * BEARS_ON + i]! * white[r]!
    side *= share
    side -= t.pull[i]!
    if (i < OF_DISC) arrow.ownSide[disc * OF_DISC + i]! += side
    else arrow.sharedSide[arm * OF_HABIT + i - OF_DISC]! += side
    for (let j = 0; j < BEARS_ON; j++) {
      let s = 0
      for (let r = 0; r < rows; r++) s += bearing[r * BEARS_ON + i]! * bearing[r * BEARS_ON + j]!
      s *= share
      if (i < OF_DISC && j < OF_DISC) arrow.own[disc * 9 + i * OF_DISC + j]! += s
      else if (i < OF_DISC) coupling[i * k + slot + j - OF_DISC]! += s
      else if (j >= OF_DISC)
        arrow.shared[(arm * OF_HABIT + i - OF_DISC) * border + arm * OF_HABIT + j - OF_DISC]! += s
    }
  }
}

/** A step in the units of the longest that is taken, all unknowns in one row. */
function inUnits(solved: SolvedArrow, arms: number): Float64Array {
  const own = solved.ownStep.map((s) => s / LONGEST.number)
  const shared = solved.sharedStep.map((s, i) => {
    if (i >= arms * OF_HABIT) return s / LONGEST.number
    return s / (i % OF_HABIT === 0 ? LONGEST.lnSpeed : LONGEST.angle)
  })
  return Float64Array.of(...own, ...shared)
}

const product = (a: Float64Array, b: Float64Array) => b.reduce((s, v, i) => s + v * a[i]!, 0)

/** How much of the solved step to take, and whether it was small enough to stop. */
function damp(solved: SolvedArrow, arms: number): { share: number; small: boolean } {
  let longest = 0
  let smallest = true
  const see = (value: number, limit: number, small: number) => {
    longest = Math.max(longest, Math.abs(value) / limit)
    if (Math.abs(value) > small) smallest = false
  }
  for (const s of solved.ownStep) see(s, LONGEST.number, SMALL.number)
  solved.sharedStep.forEach((s, i) => {
    if (i >= arms * OF_HABIT) see(s, LONGEST.number, SMALL.number)
    else if (i % OF_HABIT === 0) see(s, LONGEST.lnSpeed, SMALL.lnSpeed)
    else see(s, LONGEST.angle, SMALL.angle)
  })
  return { share: longest > 1 ? 1 / longest : 1, small: smallest }
}

/** Unknowns the throws have really determined: all of them less what the priors still hold. */
function effectiveUnknowns(believed: Believed, spread: Spread, solved: SolvedArrow): number {
  let count = 0
  believed.discs.forEach((_, d) => {
    const variance = ownVariances(believed, spread, d)
    for (let k = 0; k < OF_DISC; k++)
      count += Math.max(0, 1 - solved.ownInverse[d * 9 + k * 4]! / variance[k]!)
  })
  believed.habitSds.forEach((sds, a) => {
    for (let k = 0; k < OF_HABIT; k++) {
      const at = a * OF_HABIT + k
      count += 1 - solved.sharedCovariance[at * solved.border + at]! / sds[k]! ** 2
    }
  })
  return Math.max(0, count)
}

/** Gusts as all throws together show them, bad throws aside, held by a prior. */
function gustOf(counted: readonly ThrowTerm[], scales: Float64Array): number {
  let [sum, count] = [GUST_WORTH, GUST_WORTH]
  for (const t of counted) {
    measureGust(t, scales[t.arm]!)
    const weight = Math.min(1, t.weight)
    sum += (weight * t.gustiness * t.windVariance) / t.windBelieved / 2
    count += weight
  }
  return sum / count
}

/** Noise scale per arm: the weighted misfit per observation, held by a prior worth a couple of dozen of them. */
function rescale(scales: Float64Array, counted: readonly ThrowTerm[], unknowns: number): void {
  const misfit = new Float64Array(scales.length)
  const observed = new Float64Array(scales.length)
  let all = 0
  for (const t of counted) {
    misfit[t.arm]! += t.weight * t.distance
    observed[t.arm]! += t.count
    all += t.count
  }
  for (let a = 0; a < scales.length; a++) {
    const free = observed[a]! * (1 - Math.min(0.8, unknowns / Math.max(1, all)))
    scales[a] = (SCALE_PRIOR.value * SCALE_PRIOR.worth + misfit[a]!) / (SCALE_PRIOR.worth + free)
  }
}
