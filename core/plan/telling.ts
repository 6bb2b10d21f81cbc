import { normalCdf, Z_SETTLED } from '../rating/normal.ts'
import type { Arm } from '../rating/evidence.ts'
import type { FitState } from '../rating/fit.ts'
import {
  beliefOf,
  contrastOf,
  informationOf,
  reachOf,
  varianceOf,
  variancesWith,
  withThrow,
} from './information.ts'
import type { Belief, Candidate, Contrast, Information } from './information.ts'

/** What a set of throws would be worth to a question: pairs of discs to be put in order. */
export interface TellingPlan {
  /** Throws to make, the most telling first. */
  readonly throws: readonly Candidate[]
  /** Expected share of the pairs that end in the wrong order, before and after. */
  readonly wrongNow: number
  readonly wrongAfter: number
  /** Per pair: standard deviation of the difference, before and after, and the chance that it ends settled. */
  readonly pairs: readonly {
    readonly a: string
    readonly b: string
    readonly sdNow: number
    readonly sdAfter: number
    readonly chanceSettled: number
  }[]
}

/** Twelve-point Gauss–Legendre quadrature on [−1, 1]: half of its symmetric nodes and weights. */
const LEGENDRE: readonly (readonly [node: number, weight: number])[] = [
  [0.125233408511469, 0.249147045813403],
  [0.36783149899818, 0.233492536538355],
  [0.587317954286617, 0.203167426723066],
  [0.769902674194305, 0.160078328543346],
  [0.904117256370475, 0.106939325995318],
  [0.981560634246719, 0.0471753363865118],
]
/** Beyond this half square of its standardised difference a pair is in order for certain. */
const CERTAIN = 12

/** Owen's T function for h ≥ 0 and 0 ≤ a ≤ 1, times 2π. */
function owen(h: number, a: number): number {
  const half = a / 2
  const by = (-h * h) / 2
  let s = 0
  for (const [node, weight] of LEGENDRE) {
    const [low, high] = [1 + (half * (1 - node)) ** 2, 1 + (half * (1 + node)) ** 2]
    s += weight * (Math.exp(by * low) / low + Math.exp(by * high) / high)
  }
  return half * s
}

/**
 * Probability that a pair ends in the wrong order: the mean moves as throws come in while the spread shrinks, and the
 * truth lies on the other side of zero than the mean that comes out.
 *
 * Two normals of equal standardised mean disagree in sign with probability 2·T(h, a), Owen's T function at
 * h = |value|/√now, a = √(after/(now − after)); beyond a = 1 by T(h, a) = ½(Φ(h) + Φ(ah)) − Φ(h)·Φ(ah) − T(ah, 1/a).
 *
 * Source: D. B. Owen, Tables for computing bivariate normal probabilities, 1956.
 */
function wrongOrder(value: number, now: number, after: number): number {
  if (after <= 0 || now <= 0) return 0
  const h = Math.abs(value) / Math.sqrt(now)
  if ((h * h) / 2 > CERTAIN) return 0
  const left = now - after
  if (left >= after) return owen(h, Math.sqrt(after / left)) / Math.PI
  const below = normalCdf(-h)
  // nothing moves any more: the order that is likelier now is the one that comes out
  if (left <= 0) return below
  const a = Math.sqrt(after / left)
  const further = normalCdf(-a * h)
  return below + further - 2 * below * further - owen(a * h, 1 / a) / Math.PI
}

/** Chance that throws which bring the variance from `now` to `after` settle the order of a pair. */
export function chanceSettled(value: number, now: number, after: number): number {
  const drift = Math.sqrt(Math.max(0, now - after))
  const bound = Z_SETTLED * Math.sqrt(after)
  if (drift < 1e-9) return Math.abs(value) >= bound ? 1 : 0
  return normalCdf((value - bound) / drift) + normalCdf((-value - bound) / drift)
}

interface Question {
  readonly contrasts: readonly Contrast[]
  readonly now: Float64Array
  /** Probability that each pair is in the wrong order as things stand. */
  readonly open: readonly number[]
}

function questionOf(state: FitState, start: Belief, pairs: readonly (readonly [string, string])[]): Question {
  const contrasts = pairs.map(([a, b]) => contrastOf(state, start, a, b))
  const now = variancesOf(start, contrasts)
  return { contrasts, now, open: contrasts.map((c, i) => wrongOrder(c.value, now[i]!, now[i]!)) }
}

/** Expected share of pairs in the wrong order. */
const wrongOf = ({ contrasts, now }: Question, after: Float64Array) =>
  contrasts.reduce((s, c, i) => s + wrongOrder(c.value, now[i]!, after[i]!), 0) / contrasts.length

/**
 * What narrowing a pair is worth beside settling it. One throw hardly ever turns an order round, so that the share of wrong
 * orders alone is level for small sets, and rounding would choose; what is left of each pair’s variance, weighed by how open
 * the pair is, tells the throws apart that lead there.
 */
const PATIENCE = 0.01

/** Wrong orders expected, and a little for what is left of the variance of open pairs. */
const scoreOf = (question: Question, after: Float64Array) =>
  wrongOf(question, after) +
  (PATIENCE / question.contrasts.length) *
    question.open.reduce(
      (s, open, i) => s + (question.now[i]! > 0 ? (open * after[i]!) / question.now[i]! : 0),
      0,
    )

/** Place of the candidate that is worth most. */
function bestOf(question: Question, belief: Belief, infos: readonly Information[]) {
  const reach = reachOf(belief, question.contrasts)
  let best = 0
  let least = Number.POSITIVE_INFINITY
  infos.forEach((info, i) => {
    const score = scoreOf(question, variancesWith(belief, info, reach))
    if (score < least - 1e-12) [best, least] = [i, score]
  })
  return { best, score: least }
}

/** A set of throws by place among the candidates, and what it would leave. */
interface Chosen {
  readonly places: readonly number[]
  readonly belief: Belief
  readonly score: number
}

function greedy(question: Question, start: Belief, infos: readonly Information[], budget: number): Chosen {
  const places: number[] = []
  let belief = start
  let score = Number.POSITIVE_INFINITY
  for (let i = 0; i < budget; i++) {
    const found = bestOf(question, belief, infos)
    places.push(found.best)
    belief = withThrow(belief, infos[found.best]!)
    score = found.score
  }
  return { places, belief, score }
}

function chosenOf(
  question: Question,
  start: Belief,
  infos: readonly Information[],
  places: readonly number[],
): Chosen {
  const belief = places.reduce((b, i) => withThrow(b, infos[i]!), start)
  return { places, belief, score: scoreOf(question, variancesOf(belief, question.contrasts)) }
}

/** Rounds of exchanges at most. */
const ROUNDS = 3

function exchanged(question: Question, infos: readonly Information[], from: Chosen): Chosen {
  const places = [...from.places]
  let { belief, score } = from
  for (let round = 0, helped = true; helped && round < ROUNDS; round++) {
    helped = false
    for (let i = 0; i < places.length; i++) {
      const without = withThrow(belief, infos[places[i]!]!, -1)
      const found = bestOf(question, without, infos)
      if (found.score >= score - 1e-9) continue
      places[i] = found.best
      belief = withThrow(without, infos[found.best]!)
      score = found.score
      helped = true
    }
  }
  return { places, belief, score }
}

const variancesOf = (belief: Belief, contrasts: readonly Contrast[]) =>
  Float64Array.from(contrasts, (c) => varianceOf(belief, c))

/**
 * The most telling throws for a budget: by expected wrong orders and what is left of open pairs, from a greedy choice or the even plan, whichever is
 * better, bettered by exchanges of single throws while one helps. Candidates may be thrown any number of times.
 *
 * @param pairs the pairs of discs the question is about
 * @param candidates every throw that could be made
 * @param budget how many throws
 * @param arms full speeds of arms that have not thrown yet
 */
export function tellingThrows(
  state: FitState,
  pairs: readonly (readonly [string, string])[],
  candidates: readonly Candidate[],
  budget: number,
  arms: readonly Arm[] = [],
): TellingPlan {
  const start = beliefOf(state, arms)
  const question = questionOf(state, start, pairs)
  const { contrasts } = question
  const infos = candidates.map((c) => informationOf(state, start, c, arms))
  const wrongNow = contrasts.length === 0 ? 0 : wrongOf(question, question.now)
  let best: Chosen = { places: [], belief: start, score: Number.POSITIVE_INFINITY }
  if (candidates.length > 0 && contrasts.length > 0 && budget > 0) {
    const even = Array.from({ length: budget }, (_, i) => i % candidates.length)
    const starts = [greedy(question, start, infos, budget), chosenOf(question, start, infos, even)]
    best = exchanged(
      question,
      infos,
      starts.reduce((x, y) => (y.score < x.score ? y : x)),
    )
  }
  const after = variancesOf(best.belief, contrasts)
  return {
    throws: best.places.map((i) => candidates[i]!),
    wrongNow,
    wrongAfter: contrasts.length === 0 ? wrongNow : wrongOf(question, after),
    pairs: pairsOf(question, after),
  }
}

const pairsOf = ({ contrasts, now }: Question, after: Float64Array): TellingPlan['pairs'] =>
  contrasts.map((c, i) => ({
    a: c.a,
    b: c.b,
    sdNow: Math.sqrt(now[i]!),
    sdAfter: Math.sqrt(after[i]!),
    chanceSettled: chanceSettled(c.value, now[i]!, after[i]!),
  }))

/** What a given set of throws would be worth to the same question: the even plan beside the telling one. */
export function worthOf(
  state: FitState,
  pairs: readonly (readonly [string, string])[],
  throws: readonly Candidate[],
  arms: readonly Arm[] = [],
): TellingPlan {
  const start = beliefOf(state, arms)
  const question = questionOf(state, start, pairs)
  const belief = throws.reduce((b, c) => withThrow(b, informationOf(state, start, c, arms)), start)
  const after = variancesOf(belief, question.contrasts)
  return {
    throws,
    wrongNow: wrongOf(question, question.now),
    wrongAfter: wrongOf(question, after),
    pairs: pairsOf(question, after),
  }
}
