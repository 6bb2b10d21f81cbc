import { OF_HABIT } from './places.ts'
import { normalCdf } from './normal.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import type { LeftOrRight } from '../flight/hand.ts'
import { labelScale, stabilityAt } from '../flight/side.ts'
import { sideIn } from './sides.ts'
import type { SideSlopes } from '../flight/side.ts'
import { aimColumn, paceColumn } from './beliefs.ts'
import { drawn } from './drawn.ts'
import { numbersCovariance, sidesCovariance } from './discrepancy.ts'
import { AIM_LINE_SD } from './evidence.ts'
import type { RatedDisc } from './evidence.ts'
import type { FitState } from './state.ts'

/** What throws say of one disc, however many. */
export interface DiscRating {
  readonly disc: string
  readonly published: FlightNumbers
  /** Posterior mean; speed is taken from the label. */
  readonly observed: FlightNumbers
  readonly sd: { readonly glide: number; readonly turn: number; readonly fade: number }
  /** Covariance of (glide, turn, fade), row by row. */
  readonly covariance: readonly number[]
  /** Where it flies, m to the fade side a 100 m of carry: its mean, and where it lands; see flight/side.ts. */
  readonly side: Estimate
  readonly finish: Estimate
  /** The side on the scale of turn + fade, which it equals at the label. */
  readonly stability: Estimate
}

/** The same with how many throws say it. */
export interface DiscOutcome extends DiscRating {
  readonly throws: number
  readonly leftOut: number
}

export interface Estimate {
  readonly value: number
  readonly sd: number
}

/** Which of two discs is more stable: which flies further to the fade side. */
export interface PairOutcome {
  readonly a: string
  readonly b: string
  /** Side of a less side of b, m a 100 m. */
  readonly difference: Estimate
  /** The same of where they land. */
  readonly finish: Estimate
  readonly pAMoreStable: number
}

export interface HabitOutcome {
  readonly arm: string
  readonly lnSpeed: Estimate
  readonly launchRad: Estimate
  readonly hyzerRad: Estimate
  readonly noseRad: Estimate
  readonly throws: number
  /** Noise of this arm against the usual, as a ratio of standard deviations. */
  readonly noise: number
}

/** The aim line of an outing. */
export interface AimOutcome {
  /** As throws name it; empty for those that name none. */
  readonly outing: string
  /** How far throws were aimed to the right of the line that landings are measured from, rad. */
  readonly rightRad: Estimate
  /** Whether it seems to have been paced out or marked wrong: further off than belief and chance explain. */
  readonly off: boolean
}

/** A disc that was worn between its throws. */
export interface WornOutcome {
  readonly disc: string
  /** What discs of its plastic usually lose by the wear that was noted between its first throw and its last, on the scale of turn + fade. */
  readonly usually: number
  /** What it has lost. */
  readonly lost: Estimate
}

/** One throw as the fit sees it, in the frame of the throw. */
export interface ThrowOutcome {
  readonly throw: string
  /** Weight: 1 for an ordinary throw, near 0 for one that fits nothing; 0 when left out. */
  readonly weight: number
  /** Where it would have landed with a release like this arm's usual one and the logged wind. */
  readonly expected: { readonly carryM: number; readonly veerM: number }
  /** Landing less expected, m. */
  readonly residual: { readonly carryM: number; readonly veerM: number }
}

/** From so many times on it is said: of sessions whose wind was logged right hardly any comes near it. */
export const GUSTY_FROM = 2

/** The posterior of a fit, in the words of the field. */
export interface Outcome {
  readonly discs: readonly DiscOutcome[]
  /** Discs that were worn between their throws; of each everything is said as it was last thrown. */
  readonly worn: readonly WornOutcome[]
  /** Every pair once, in the order of the discs. */
  readonly pairs: readonly PairOutcome[]
  readonly habits: readonly HabitOutcome[]
  readonly aims: readonly AimOutcome[]
  readonly throws: readonly ThrowOutcome[]
  /** Covariance of the discs' sides, m² a 100 m, discs × discs, row by row. */
  readonly sideCovariance: Float64Array
  readonly converged: boolean
  /** How many times as much as is usual the wind of the throws differed from what was logged of it, as standard deviations go. */
  readonly gusts: number
  /** The side all counted throws fade to, seen by their thrower; undefined where they do not agree. */
  readonly fadeSide: LeftOrRight | undefined
}

/** The normal distribution's cumulative probability, kept off 0 and 1: no finite number of throws is certain. */
export function probabilityAbove(mean: number, sd: number): number {
  if (sd === 0) return mean === 0 ? 0.5 : mean > 0 ? 1 : 0
  return Math.min(0.9999, Math.max(0.0001, normalCdf(mean / sd)))
}

/** The outcome of two discs, in whichever order they stand. */
export const pairOf = ({ pairs }: Pick<Outcome, 'pairs'>, a: string, b: string): PairOutcome =>
  pairs.find((p) => (p.a === a && p.b === b) || (p.a === b && p.b === a))!

/** Probability that a value lies within so much of zero. */
export const probabilityWithin = (value: number, sd: number, within: number): number =>
  probabilityAbove(within - value, sd) - probabilityAbove(-within - value, sd)

/** What a fit says of each disc by itself. */
export const discsOf = (state: FitState): DiscOutcome[] => flownOf(state).discs

/** Every disc, and how its side and finish follow its numbers. */
function flownOf(state: FitState) {
  const { evidence, numbers } = state
  const counts = new Map(evidence.discs.map((d) => [d.id, { throws: 0, leftOut: 0 }]))
  for (const t of evidence.throws) counts.get(t.disc)![t.counts ? 'throws' : 'leftOut']++
  const slopes = evidence.discs.map((_, i) => sideIn(state, i))
  const discs = evidence.discs.map((d, i) => ({
    ...ratingOf(d, numbers[i]!, numbersCovariance(state, i, i), slopes[i]!),
    ...counts.get(d.id)!,
  }))
  return { discs, slopes }
}

/**
 * A disc by its numbers.
 *
 * @param numbers glide, turn, fade
 * @param covariance theirs, 3 × 3, row by row, the model's own error included
 * @param flown where it flies by them
 */
export function ratingOf(
  { id, published }: RatedDisc,
  numbers: Float64Array,
  covariance: Float64Array,
  flown: SideSlopes,
): DiscRating {
  const [glide, turn, fade] = numbers as unknown as [number, number, number]
  const label = labelScale(published)
  const side = { value: flown.side, sd: spreadAlong(covariance, flown.sideBy) }
  const sd = (k: number) => Math.sqrt(covariance[k * 4]!)
  return {
    disc: id,
    published,
    observed: { speed: published.speed, glide, turn, fade },
    sd: { glide: sd(0), turn: sd(1), fade: sd(2) },
    covariance: [...covariance],
    side,
    finish: { value: flown.finish, sd: spreadAlong(covariance, flown.finishBy) },
    stability: { value: stabilityAt(label, flown.side), sd: side.sd / label.perNumber },
  }
}

/** Standard deviation of a weighted sum of a disc's numbers. */
function spreadAlong(covariance: Float64Array, weights: readonly [number, number, number]): number {
  let s = 0
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) s += weights[i]! * covariance[i * 3 + j]! * weights[j]!
  return Math.sqrt(Math.max(0, s))
}

/** Reads a fit: numbers, where discs fly, their orders, habits and throws. */
export function outcomeOf(state: FitState): Outcome {
  const { discs, slopes } = flownOf(state)
  const sideCovariance = sidesCovariance(
    state,
    slopes.map((s) => s.sideBy),
  )
  const finishCovariance = sidesCovariance(
    state,
    slopes.map((s) => s.finishBy),
  )
  const n = discs.length
  const apart = (covariance: Float64Array, a: number, b: number, value: number): Estimate => ({
    value,
    sd: Math.sqrt(Math.max(0, covariance[a * n + a]! + covariance[b * n + b]! - 2 * covariance[a * n + b]!)),
  })
  const pairs: PairOutcome[] = []
  for (let a = 0; a < n; a++)
    for (let b = a + 1; b < n; b++) {
      const [one, other] = [discs[a]!, discs[b]!]
      const difference = apart(sideCovariance, a, b, one.side.value - other.side.value)
      pairs.push({
        a: one.disc,
        b: other.disc,
        difference,
        finish: apart(finishCovariance, a, b, one.finish.value - other.finish.value),
        pAMoreStable: probabilityAbove(difference.value, difference.sd),
      })
    }
  return {
    discs,
    worn: wornIn(state),
    pairs,
    habits: habitsOf(state),
    aims: aimsOf(state),
    throws: throwsOf(state),
    sideCovariance,
    converged: state.converged,
    gusts: Math.sqrt(state.gust),
    fadeSide: fadeSideOf(state),
  }
}

function wornIn({ evidence, worn, paces, posterior, kinship, aims }: FitState): WornOutcome[] {
  return worn.discs.map((place, i) => {
    const disc = evidence.discs[place]!.id
    const usually = Math.max(
      ...evidence.throws.filter((t) => t.disc === disc && t.counts).map((t) => t.worn ?? 0),
    )
    const at = paceColumn(evidence.arms.length, kinship.effects.length, aims.length, i)
    const variance = posterior.nearCovariance[at * posterior.border + at]!
    return { disc, usually, lost: { value: usually * paces[i]!, sd: usually * Math.sqrt(variance) } }
  })
}

function fadeSideOf({ evidence }: FitState): LeftOrRight | undefined {
  const signs = new Set(evidence.throws.filter((t) => t.counts).map((t) => t.fadeSign))
  const [sign] = signs
  return signs.size === 1 && sign !== undefined ? (sign === 1 ? 'right' : 'left') : undefined
}

function habitsOf({ evidence, habits, posterior, scales }: FitState): HabitOutcome[] {
  return evidence.arms.map((arm, a) => {
    const of = (k: number): Estimate => {
      const at = a * OF_HABIT + k
      return { value: habits[a]![k]!, sd: Math.sqrt(posterior.sharedCovariance[at * posterior.border + at]!) }
    }
    const throws = evidence.throws.filter((t) => t.arm === arm.id && t.counts).length
    return {
      arm: arm.id,
      lnSpeed: of(0),
      launchRad: of(1),
      hyzerRad: of(2),
      noseRad: of(3),
      throws,
      noise: Math.sqrt(scales[a]!),
    }
  })
}

/**
 * A line further off than this is one that somebody should look at again: twice what a line paced out with usual care is off, and
 * twice what is not known of it.
 */
const OFF = { believedSds: 2, sds: 2 }

function aimsOf({ evidence, outings, aims, kinship, posterior }: FitState): AimOutcome[] {
  return outings.map((outing, o) => {
    const at = aimColumn(evidence.arms.length, kinship.effects.length, o)
    const sd = Math.sqrt(posterior.sharedCovariance[at * posterior.border + at]!)
    const value = aims[o]!
    const off = Math.abs(value) > Math.max(OFF.believedSds * AIM_LINE_SD, OFF.sds * sd)
    return { outing, rightRad: { value, sd }, off }
  })
}

function throwsOf(state: FitState): ThrowOutcome[] {
  return state.terms.map((t) => {
    // rows 0 and 1 are carry and veer; `open` is the residual with this throw's own errors taken back
    const residual = { carryM: t.open[0]!, veerM: t.open[1]! }
    return {
      throw: t.evidence.id,
      weight: t.weight,
      expected: { carryM: t.target[0]! - residual.carryM, veerM: t.target[1]! - residual.veerM },
      residual,
    }
  })
}

/** How likely a disc is to be the most stable, the second most, and so on. */
export interface DiscRanks {
  readonly disc: string
  /** Share of draws at each rank, the most stable first; they add up to 1. */
  readonly shares: readonly number[]
}

/**
 * Sides of some discs as they may well be, drawn from the posterior of all of them together, m a 100 m. Of the same discs they
 * are the same draws, in whichever order they are named, so that one thing has one number.
 *
 * @param draws how many
 * @returns per draw a value a disc, in the order of `discs`
 */
export function drawnSides(
  { discs: all, sideCovariance }: Pick<Outcome, 'discs' | 'sideCovariance'>,
  discs: readonly string[],
  draws?: number,
): Float64Array[] {
  const place = new Map(all.map((d, i) => [d.disc, i]))
  const side = (i: number) => all[i]!.side.value
  const at = discs.map((id) => place.get(id)!)
  const order = at.toSorted((a, b) => side(b) - side(a))
  const covariance = order.flatMap((a) => order.map((b) => sideCovariance[a * all.length + b]!))
  const from = at.map((i) => order.indexOf(i))
  return drawn(order.map(side), Float64Array.from(covariance), draws).map((sides) =>
    Float64Array.from(from, (i) => sides[i]!),
  )
}

/**
 * Distribution of each disc's rank by {@link drawnSides}.
 *
 * @param aside discs that take no rank, such as the control disc
 */
export function rankDistribution(
  outcome: Outcome,
  aside: ReadonlySet<string> = new Set(),
  draws?: number,
): DiscRanks[] {
  const ranked = outcome.discs.flatMap((d) => (aside.has(d.disc) ? [] : [d.disc]))
  const tally = ranked.map(() => new Array<number>(ranked.length).fill(0))
  const all = drawnSides(outcome, ranked, draws)
  for (const sides of all)
    [...sides.keys()]
      .sort((a, b) => sides[b]! - sides[a]!)
      .forEach((i, rank) => (tally[i]![rank]! += 1 / all.length))
  return ranked.map((disc, i) => ({ disc, shares: tally[i]! }))
}
