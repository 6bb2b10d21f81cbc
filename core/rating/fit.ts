import type { SolvedArrow } from './arrow.ts'
import { aimColumn, effectColumn, paceColumn, respread, sameSpread, SPREAD_BELIEVED } from './beliefs.ts'
import type { Believed, Spread } from './beliefs.ts'
import { PULL_FRESH, PULL_WHEN_WARM, pullOf } from './bend.ts'
import { onThisThread } from './crew.ts'
import type { Crew } from './crew.ts'
import { Indigestible, oddity, without } from './digest.ts'
import type { LeftOut } from './digest.ts'
import { discrepancyOf } from './discrepancy.ts'
import { eliminateLatents, updateLatents } from './eliminate.ts'
import { layoutOf, solveEquations } from './equations.ts'
import { habitSdsOf, TYPICAL_FULL_SPEED } from './evidence.ts'
import type { Evidence } from './evidence.ts'
import { flyAnew, takeSlopes } from './flown.ts'
import { kinshipOf } from './kin.ts'
import { clampNumbers } from './linear.ts'
import { effectiveUnknowns, freeShare, gustier, rescale, shapesOf, weigh } from './noise.ts'
import type { Purpose } from './noise.ts'
import { WEAR_TURNS } from '../shelf/usualWear.ts'
import { AIM, BEARS_ON, NUMBER, OF_DISC, OF_HABIT } from './places.ts'
import type { FitState } from './state.ts'
import { damp, easedAfter, inUnits } from './steps.ts'
import { placeTerm } from './throwTerm.ts'
import type { ThrowTerm } from './throwTerm.ts'
import {
  outingsOf,
  sameEvidence,
  startAims,
  startArms,
  startCameras,
  startEffect,
  startNumbers,
  startPaces,
  termsOf,
} from './warm.ts'
import { numbersThen, paceOf, wornOf } from './worn.ts'

const LEARNING_ROUNDS = 14
/** A warm start has learnt nearly all there is, and the next one goes on. */
const LEARNING_WHEN_WARM = 4
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
const MAX_ITERATIONS = 40

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
    super('The rating was stopped before it converged.')
  }
}

/**
 * Joint maximum a posteriori of disc numbers, throwers' habits and every throw's own errors, by Gauss–Newton.
 *
 * Latents are eliminated throw by throw at their own current estimate, discs block by block, habits last.
 * Throws scatter like a Gaussian with the tails of a Student-t of 4 degrees of freedom, see `weightOf` in noise.ts; a noise scale per arm is
 * estimated with them. The posterior is the weighted information at the solution.
 *
 * A throw that cannot be weighed at all is left out, with its reason, and everything else is weighed without it.
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
  crew: Crew = onThisThread,
): Generator<number, FitState, void> {
  const leftOut: LeftOut[] = []
  for (;;)
    try {
      return { ...(yield* searching(without(evidence, leftOut), warm, crew)), leftOut }
    } catch (e) {
      if (!(e instanceof Indigestible)) throw e
      leftOut.push(...e.throws)
    }
}

/** The search itself. @throws Indigestible when throws cannot be weighed */
function* searching(
  evidence: Evidence,
  warm: FitState | undefined,
  crew: Crew,
): Generator<number, Omit<FitState, 'leftOut'>, void> {
  const { discs, arms } = evidence
  const terms = termsOf(evidence, warm)
  const numbers = discs.map((d) => startNumbers(d, warm))
  const lnFull = arms.map((a) => Math.log(a.fullSpeedMps ?? TYPICAL_FULL_SPEED))
  const { habits, scales } = startArms(evidence, warm)
  const outings = outingsOf(evidence)
  const aims = startAims(outings, warm)
  const noise = { arms: scales, cameras: startCameras(outings, warm) }
  const habitSds = arms.map(habitSdsOf)
  const kinship = kinshipOf(discs)
  const effects = kinship.effects.map((e) => startEffect(e, warm))
  const worn = wornOf(evidence)
  const paces = startPaces(worn, discs, warm)
  const believed: Believed = { discs, kinship, habitSds, worn }
  let spread: Spread = warm?.spread ?? SPREAD_BELIEVED
  let gust = warm?.gust ?? 1
  let unknowns = 0
  const counted = terms.filter((t) => t.evidence.counts)
  const layout = layoutOf(believed, counted, outings.length)
  const step = new Float64Array(BEARS_ON)

  let iterations = 0
  const first = warm ? 1 : FIRST_ROUNDS
  const learning = warm ? LEARNING_WHEN_WARM : LEARNING_ROUNDS
  let slack = 1
  /** The round in which the search first came to rest; from then on everything is looked at closely once more. */
  let nearSince = 0
  const place = (t: ThrowTerm) => {
    t.windVariance = t.windBelieved * gust
    t.scale = noise.arms[t.arm]!
    const then = numbersThen(numbers[t.disc]!, t.worn, paceOf({ worn, paces }, t.disc))
    placeTerm(t, then, lnFull[t.arm]!, habits[t.arm]!, aims[t.outing]!)
    // late in the search a few throws would swing between two flights for ever, and their discs with them
    const patience = 1 + Math.max(0, iterations - nearSince - FLOWN_CLOSELY) / 2
    return flyAnew(t, patience, Math.max(patience, slack))
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
    const odd = list.filter((t) => !eliminateLatents(t))
    if (odd.length > 0)
      throw new Indigestible(odd.map(({ evidence: t }) => ({ throw: t.id, why: oddity(t) })))
  }
  const standing = { numbers, habits, effects, aims, paces }
  const counts = { arms: arms.length, effects: effects.length, aims: aims.length }
  const solve = (purpose: Purpose): SolvedArrow =>
    solveEquations(layout, believed, standing, spread, counted, noise, purpose)

  let ease = 1
  let lastStep = new Float64Array(0)
  // a throw that does not count is placed and explained; it moves nothing
  const unmoved = warm?.converged === true && sameEvidence(evidence, warm.evidence) ? warm : undefined
  let converged = counted.length === 0 || unmoved !== undefined
  let solved: SolvedArrow | undefined
  const look = (stale?: number) => {
    // were all else known: what discs have in common is told by all their throws
    const open = discs.map((_, d) => solved!.ownInverse.slice(d * 9, d * 9 + 9))
    const shapes = shapesOf(noise, counted, freeShare(counted, unknowns))
    for (const t of counted) t.shape = shapes[t.arm]!
    for (const t of counted) pullOf(t, open[t.disc], stale)
  }
  while (iterations < MAX_ITERATIONS && !converged) {
    iterations++
    slack = warm ? EASE_WHEN_WARM : easeOf(lastStep)
    placeAll(counted)
    if (iterations === nearSince + 1 && nearSince > 0) look(PULL_FRESH)
    else if (
      iterations > first &&
      iterations - nearSince <= LAST_LOOK &&
      (iterations - first - nearSince) % LOOK_EVERY === 1
    )
      // a warm start has looked already
      look(warm ? PULL_WHEN_WARM : undefined)
    weigh(counted, noise)
    let moved = false
    if (iterations > 1) {
      // not for ever, so that the search can end
      if (iterations <= learning) {
        unknowns = effectiveUnknowns(believed, spread, aims.length, solved!)
        gust = gustier(gust, counted, scales)
        const before = spread
        spread = respread(believed, standing, spread, solved!)
        moved = !sameSpread(before, spread) && iterations < learning
      }
      rescale(noise, counted, unknowns)
    }
    weigh(counted, noise)
    solved = solve('step')
    const far = damp(solved, counts)
    const units = inUnits(solved, counts)
    ease = easedAfter(ease, units, lastStep)
    const share = ease * far.share
    lastStep = units.map((v) => v * share)
    // a search that took long has let its throws wander far from where they were last flown
    const rests = far.small && !moved && iterations > first
    converged = rests && (nearSince > 0 || iterations <= FLOWN_CLOSELY)
    if (rests && !converged) {
      nearSince = iterations
      unknowns = effectiveUnknowns(believed, spread, aims.length, solved)
    }
    for (let d = 0; d < discs.length; d++) {
      for (let k = 0; k < OF_DISC; k++) numbers[d]![k]! += share * solved.ownStep[d * OF_DISC + k]!
      clampNumbers(numbers[d]!)
    }
    for (let a = 0; a < arms.length; a++)
      for (let k = 0; k < OF_HABIT; k++) habits[a]![k]! += share * solved.sharedStep[a * OF_HABIT + k]!
    for (let e = 0; e < effects.length; e++)
      for (let k = 0; k < OF_DISC; k++)
        effects[e]![k]! += share * solved.sharedStep[effectColumn(arms.length, e) + k]!
    const aimAt = (outing: number) => aimColumn(arms.length, effects.length, outing)
    for (let o = 0; o < aims.length; o++) aims[o]! += share * solved.sharedStep[aimAt(o)]!
    const paceAt = (pace: number) => paceColumn(arms.length, effects.length, aims.length, pace)
    for (let p = 0; p < paces.length; p++) paces[p]! += share * solved.sharedStep[paceAt(p)]!
    for (const t of counted) {
      for (let k = 0; k < OF_DISC; k++) step[k] = share * solved.ownStep[t.disc * OF_DISC + k]!
      for (let k = 0; k < OF_HABIT; k++) step[OF_DISC + k] = share * solved.sharedStep[t.arm * OF_HABIT + k]!
      step[AIM] = share * solved.sharedStep[aimAt(t.outing)]!
      const pace = worn.paceOf.get(t.disc)
      if (pace !== undefined) {
        const lost = t.worn * share * solved.sharedStep[paceAt(pace)]!
        step[NUMBER.turn]! += WEAR_TURNS * lost
        step[NUMBER.fade]! += (1 - WEAR_TURNS) * lost
      }
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
  weigh(counted, noise)
  const posterior = unmoved?.posterior ?? solve('posterior')
  return {
    evidence,
    numbers,
    habits,
    outings,
    aims,
    worn,
    paces,
    kinship,
    effects,
    spread,
    gust,
    scales,
    cameras: noise.cameras,
    discrepancy: discrepancyOf(counted, scales),
    terms,
    posterior,
    iterations,
    converged,
  }
}
