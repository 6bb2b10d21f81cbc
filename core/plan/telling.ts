import { normalCdf, sharesBetween, Z_SETTLED } from '../rating/normal.ts'
import type { Arm } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import {
  beliefOf,
  informationOf,
  contrastReachOf,
  contrastVariance,
  variancesWith,
  withThrow,
} from './information.ts'
import { contrastFor } from './contrasts.ts'
import { ORDER_BOUNDS } from './aims.ts'
import type { Aim } from './aims.ts'
import type { Belief, Candidate, Contrast, Information } from './information.ts'

/** What a set of throws would be worth to a question. */
export interface TellingPlan {
  /** Throws to make, the most telling first. */
  readonly throws: readonly Candidate[]
  /** Expected number of wrong answers an aim, one for each bound on whose wrong side it ends, before and after. */
  readonly wrongNow: number
  readonly wrongAfter: number
  /** Per aim: standard deviation of what it asks about, before and after, and the chance that it ends settled. */
  readonly aims: readonly {
    readonly aim: Aim
    readonly sdNow: number
    readonly sdAfter: number
    readonly chanceSettled: number
  }[]
}

/** Three-point Gauss–Legendre quadrature on [−1, 1]. */
const LEGENDRE: readonly (readonly [node: number, weight: number])[] = [
  [-Math.sqrt(0.6), 5 / 9],
  [0, 8 / 9],
  [Math.sqrt(0.6), 5 / 9],
]
/** Steps of the table of wrong orders between nothing left of a variance and all of it. */
const STEPS = 64
const STEP = Math.PI / 2 / STEPS

/**
 * Probability that a pair ends in the wrong order, for every share of its variance that may be left: the mean moves as
 * throws come in while the spread shrinks, and the truth lies on the other side of zero than the mean that comes out.
 *
 * Two normals of equal standardised mean disagree in sign with probability 2·T(h, tan θ), Owen's T function at
 * h = |value|/√now, sin² θ = after/now; that is 1/π · ∫₀^θ exp(−h²/(2·cos² φ)) dφ, tabulated in θ with its slope.
 *
 * Source: D. B. Owen, Tables for computing bivariate normal probabilities, 1956.
 */
interface WrongOrders {
  readonly values: Float64Array
  /** Change of the value over a step at each place of the table. */
  readonly slopes: Float64Array
}

function wrongOrdersOf(value: number, now: number): WrongOrders {
  const [values, slopes] = [new Float64Array(STEPS + 1), new Float64Array(STEPS + 1)]
  const fall = now > 0 ? (value * value) / now / 2 : Number.POSITIVE_INFINITY
  const density = (angle: number) => Math.exp(-fall / Math.cos(angle) ** 2) / Math.PI
  for (let i = 0; i <= STEPS; i++) {
    slopes[i] = density(i * STEP) * STEP
    if (i === 0) continue
    let s = 0
    for (const [node, weight] of LEGENDRE) s += weight * density((i - 0.5 + node / 2) * STEP)
    values[i] = values[i - 1]! + (s * STEP) / 2
  }
  return { values, slopes }
}

/** The table at a share of the variance, by the cubic that has its values and slopes. */
function wrongAt({ values, slopes }: WrongOrders, share: number): number {
  if (!(share > 0)) return 0
  if (share >= 1) return values[STEPS]!
  const at = Math.asin(Math.sqrt(share)) / STEP
  const i = Math.min(STEPS - 1, Math.floor(at))
  const [t, rise] = [at - i, values[i + 1]! - values[i]!]
  const [from, to] = [slopes[i]! - rise, rise - slopes[i + 1]!]
  return values[i]! + t * (rise + (1 - t) * (from * (1 - t) + to * t))
}

const shareLeft = (now: number, after: number) => (now > 0 ? after / now : 0)

/** Probability that a pair ends in the wrong order once throws have brought its variance from `now` to `after`. */
export const wrongOrder = (value: number, now: number, after: number): number =>
  wrongAt(wrongOrdersOf(value, now), shareLeft(now, after))

/** Halvings in the search for the place where a stretch between two bounds is as likely as a settled answer must be. */
const HALVINGS = 40
const SETTLED = normalCdf(Z_SETTLED)

/** How far the mean may lie from the middle of a stretch so that the stretch is settled; undefined where no mean settles it. */
function settledWithin(half: number, sd: number): number | undefined {
  const sure = (off: number) => sharesBetween(off, sd, [-half, half])[1]! >= SETTLED
  if (!sure(0)) return undefined
  let [low, high] = [0, half]
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2
    if (sure(middle)) low = middle
    else high = middle
  }
  return low
}

/**
 * Chance that throws which bring the variance from `now` to `after` settle on which side of its bounds a figure lies: the mean
 * that comes out is drawn about the one believed now.
 */
export function chanceSettled(
  value: number,
  now: number,
  after: number,
  bounds: readonly number[] = ORDER_BOUNDS,
): number {
  const drift = Math.max(1e-9, Math.sqrt(Math.max(0, now - after)))
  const sd = Math.sqrt(after)
  const below = (x: number) => normalCdf((x - value) / drift)
  let chance = below(bounds[0]! - Z_SETTLED * sd) + 1 - below(bounds.at(-1)! + Z_SETTLED * sd)
  for (let i = 1; i < bounds.length; i++) {
    const [middle, half] = [(bounds[i]! + bounds[i - 1]!) / 2, (bounds[i]! - bounds[i - 1]!) / 2]
    const within = settledWithin(half, sd)
    if (within !== undefined) chance += below(middle + within) - below(middle - within)
  }
  return chance
}

interface Question {
  readonly aims: readonly Aim[]
  readonly contrasts: readonly Contrast[]
  readonly now: Float64Array
  /** Per aim and bound: probability to end on its wrong side, by what is left of the variance. */
  readonly wrong: readonly (readonly WrongOrders[])[]
}

function questionOf(state: FitState, start: Belief, aims: readonly Aim[]): Question {
  const contrasts = aims.map((aim) => contrastFor(state, start, aim))
  const now = variancesOf(start, contrasts)
  return {
    aims,
    contrasts,
    now,
    wrong: contrasts.map((c, i) => c.bounds.map((bound) => wrongOrdersOf(c.value - bound, now[i]!))),
  }
}

/** Wrong answers expected, an aim. */
function wrongOf({ now, wrong }: Question, after: Float64Array): number {
  let sum = 0
  for (let i = 0; i < now.length; i++)
    for (const w of wrong[i]!) sum += wrongAt(w, shareLeft(now[i]!, after[i]!))
  return sum / now.length
}

/**
 * What narrowing a pair is worth beside settling it. One throw hardly ever turns an order round, so that the share of wrong
 * orders alone is level for small sets, and rounding would choose; what is left of each pair’s variance, weighed by how open
 * the pair is, tells the throws apart that lead there.
 */
const PATIENCE = 0.01

/** Wrong answers expected, and a little for what is left of the variance of open aims. */
function scoreOf({ now, wrong }: Question, after: Float64Array): number {
  let sum = 0
  for (let i = 0; i < now.length; i++) {
    const share = shareLeft(now[i]!, after[i]!)
    for (const w of wrong[i]!) sum += wrongAt(w, share) + PATIENCE * w.values[STEPS]! * share
  }
  return sum / now.length
}

/** Place of the candidate that is worth most. */
function bestOf(question: Question, belief: Belief, infos: readonly Information[]) {
  const reach = contrastReachOf(belief, question.contrasts)
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
  // throws that nothing bettered, since the last exchange: another of the same kind needs no second look
  const kept = new Set<number>()
  for (let round = 0, helped = true; helped && round < ROUNDS; round++) {
    helped = false
    for (let i = 0; i < places.length; i++) {
      if (kept.has(places[i]!)) continue
      const without = withThrow(belief, infos[places[i]!]!, -1)
      const found = bestOf(question, without, infos)
      if (found.score >= score - 1e-9) {
        kept.add(places[i]!)
        continue
      }
      kept.clear()
      places[i] = found.best
      belief = withThrow(without, infos[found.best]!)
      score = found.score
      helped = true
    }
  }
  return { places, belief, score }
}

const variancesOf = (belief: Belief, contrasts: readonly Contrast[]) =>
  Float64Array.from(contrasts, (c) => contrastVariance(belief, c))

/**
 * The most telling throws for a budget: by expected wrong answers and what is left of open aims, from a greedy choice or the even plan, whichever is
 * better, bettered by exchanges of single throws while one helps. Candidates may be thrown any number of times.
 *
 * @param aims what the throws are to tell
 * @param candidates every throw that could be made
 * @param budget how many throws
 * @param arms full speeds of arms that have not thrown yet
 */
export function tellingThrows(
  state: FitState,
  aims: readonly Aim[],
  candidates: readonly Candidate[],
  budget: number,
  arms: readonly Arm[] = [],
): TellingPlan {
  const start = beliefOf(state, arms)
  const question = questionOf(state, start, aims)
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
    aims: worthsOf(question, after),
  }
}

const worthsOf = ({ aims, contrasts, now }: Question, after: Float64Array): TellingPlan['aims'] =>
  contrasts.map((c, i) => ({
    aim: aims[i]!,
    sdNow: Math.sqrt(now[i]!),
    sdAfter: Math.sqrt(after[i]!),
    chanceSettled: chanceSettled(c.value, now[i]!, after[i]!, c.bounds),
  }))

/** What a given set of throws would be worth to the same question: the even plan beside the telling one. */
export function worthOf(
  state: FitState,
  aims: readonly Aim[],
  throws: readonly Candidate[],
  arms: readonly Arm[] = [],
): TellingPlan {
  const start = beliefOf(state, arms)
  const question = questionOf(state, start, aims)
  const belief = throws.reduce((b, c) => withThrow(b, informationOf(state, start, c, arms)), start)
  const after = variancesOf(belief, question.contrasts)
  return {
    throws,
    wrongNow: wrongOf(question, question.now),
    wrongAfter: wrongOf(question, after),
    aims: worthsOf(question, after),
  }
}
