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

/**
 * Probability that a pair ends in the wrong order: the mean moves as throws come in while the spread shrinks, and the
 * truth lies on the other side of zero than the mean that comes out.
 *
 * Two normals of equal standardised mean disagree in sign with probability 2·T(h, a), Owen's T function at
 * h = |value|/√now, a = √(after/(now − after)); integrated over the angle atan a.
 */
function wrongOrder(value: number, now: number, after: number): number {
  if (after <= 0 || now <= 0) return 0
  const h = (value * value) / now / 2
  if (h > CERTAIN) return 0
  const half = Math.atan2(Math.sqrt(after), Math.sqrt(Math.max(0, now - after))) / 2
  let s = 0
  for (const [node, weight] of LEGENDRE)
    for (const x of [node, -node]) s += weight * Math.exp(-h / Math.cos(half * (1 + x)) ** 2)
  return (half * s) / Math.PI
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
}

const wrongOf = ({ contrasts, now }: Question, after: Float64Array) =>
  contrasts.reduce((s, c, i) => s + wrongOrder(c.value, now[i]!, after[i]!), 0) / contrasts.length

/** Place of the candidate that leaves the fewest pairs in the wrong order. */
function bestOf(question: Question, belief: Belief, infos: readonly Information[]) {
  const reach = reachOf(belief, question.contrasts)
  let best = 0
  let least = Number.POSITIVE_INFINITY
  infos.forEach((info, i) => {
    const wrong = wrongOf(question, variancesWith(belief, info, reach))
    if (wrong < least - 1e-12) [best, least] = [i, wrong]
  })
  return { best, wrong: least }
}

/** A set of throws by place among the candidates, and what it would leave. */
interface Chosen {
  readonly places: readonly number[]
  readonly belief: Belief
  readonly wrong: number
}

function greedy(question: Question, start: Belief, infos: readonly Information[], budget: number): Chosen {
  const places: number[] = []
  let belief = start
  let wrong = 1
  for (let i = 0; i < budget; i++) {
    const found = bestOf(question, belief, infos)
    places.push(found.best)
    belief = withThrow(belief, infos[found.best]!)
    wrong = found.wrong
  }
  return { places, belief, wrong }
}

function chosenOf(
  question: Question,
  start: Belief,
  infos: readonly Information[],
  places: readonly number[],
): Chosen {
  const belief = places.reduce((b, i) => withThrow(b, infos[i]!), start)
  return { places, belief, wrong: wrongOf(question, variancesOf(belief, question.contrasts)) }
}

/** Rounds of exchanges at most. */
const ROUNDS = 3

function exchanged(question: Question, infos: readonly Information[], from: Chosen): Chosen {
  const places = [...from.places]
  let { belief, wrong } = from
  for (let round = 0, helped = true; helped && round < ROUNDS; round++) {
    helped = false
    for (let i = 0; i < places.length; i++) {
      const without = withThrow(belief, infos[places[i]!]!, -1)
      const found = bestOf(question, without, infos)
      if (found.wrong >= wrong - 1e-9) continue
      places[i] = found.best
      belief = withThrow(without, infos[found.best]!)
      wrong = found.wrong
      helped = true
    }
  }
  return { places, belief, wrong }
}

const variancesOf = (belief: Belief, contrasts: readonly Contrast[]) =>
  Float64Array.from(contrasts, (c) => varianceOf(belief, c))

/**
 * The most telling throws for a budget: by expected wrong orders, from a greedy choice or the even plan, whichever is
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
  const contrasts = pairs.map(([a, b]) => contrastOf(state, start, a, b))
  const question: Question = { contrasts, now: variancesOf(start, contrasts) }
  const infos = candidates.map((c) => informationOf(state, start, c, arms))
  const wrongNow = contrasts.length === 0 ? 0 : wrongOf(question, question.now)
  let best: Chosen = { places: [], belief: start, wrong: wrongNow }
  if (candidates.length > 0 && contrasts.length > 0 && budget > 0) {
    const even = Array.from({ length: budget }, (_, i) => i % candidates.length)
    const starts = [greedy(question, start, infos, budget), chosenOf(question, start, infos, even)]
    best = exchanged(
      question,
      infos,
      starts.reduce((x, y) => (y.wrong < x.wrong ? y : x)),
    )
  }
  return {
    throws: best.places.map((i) => candidates[i]!),
    wrongNow,
    wrongAfter: best.wrong,
    pairs: pairsOf(question, variancesOf(best.belief, contrasts)),
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
  const contrasts = pairs.map(([a, b]) => contrastOf(state, start, a, b))
  const question: Question = { contrasts, now: variancesOf(start, contrasts) }
  const belief = throws.reduce((b, c) => withThrow(b, informationOf(state, start, c, arms)), start)
  const after = variancesOf(belief, contrasts)
  return {
    throws,
    wrongNow: wrongOf(question, question.now),
    wrongAfter: wrongOf(question, after),
    pairs: pairsOf(question, after),
  }
}
