import type { DrillReply, DrillQuestion, Truth } from './question.ts'
import { QUESTIONS } from './question.ts'

/** A range or a circle is meant to hold what is asked so often. */
export const HOLDS = 0.8

/**
 * Points of shares: 100 where all of them lie on what is true, 0 where they are even as of somebody who saw nothing, least where all
 * lie on something else. The quadratic rule (Brier, 1950), which is best served by saying what one believes.
 */
export function sharesPoints(shares: readonly number[], option: number): number {
  const off = shares.reduce((sum, p, i) => sum + (p - (i === option ? 1 : 0)) ** 2, 0)
  return 100 * (1 - off / (1 - 1 / shares.length))
}

/**
 * What a range costs: its width, and where it misses, by how much, ten times over (the interval score of Winkler, 1972, for a range
 * that holds four times in five). Best served by the range one believes holds so often.
 */
export function rangeCost(
  { low, high }: { readonly low: number; readonly high: number },
  value: number,
): number {
  const miss = Math.max(0, low - value, value - high)
  return high - low + (2 / (1 - HOLDS)) * miss
}

/** The same of a circle: its width, and how far beyond its rim the place lies, ten times over. */
export function circleCost(
  {
    at,
    radiusM,
  }: { readonly at: { readonly downM: number; readonly sideM: number }; readonly radiusM: number },
  place: { readonly downM: number; readonly sideM: number },
): number {
  const away = Math.hypot(place.downM - at.downM, place.sideM - at.sideM)
  return 2 * radiusM + (2 / (1 - HOLDS)) * Math.max(0, away - radiusM)
}

/**
 * Points of an answer: 100 at most, 0 for what somebody earns who saw nothing; sure and wrong costs most, and more than there was to
 * win.
 *
 * @throws RangeError where the answer is none to that question
 */
export function pointsOf({ kind, truth }: Pick<DrillQuestion, 'kind' | 'truth'>, answer: DrillReply): number {
  if (truth.kind === 'shares' && answer.kind === 'shares') return sharesPoints(answer.shares, truth.option)
  const asked = QUESTIONS[kind]
  const blind = 'blind' in asked ? asked.blind : 1
  if (truth.kind === 'range' && answer.kind === 'range')
    return 100 * (1 - rangeCost(answer, truth.value) / blind)
  if (truth.kind === 'circle' && answer.kind === 'circle')
    return 100 * (1 - circleCost(answer, truth.at) / blind)
  throw new RangeError(`“${QUESTIONS[kind].asks}” is not answered like that.`)
}

/** Whether an answer was right: what is true is what was held likeliest, or lies in the range or the circle. */
export function isRight(truth: Truth, answer: DrillReply): boolean {
  if (truth.kind === 'shares' && answer.kind === 'shares')
    return answer.shares.every((p, i) => i === truth.option || p < answer.shares[truth.option]!)
  if (truth.kind === 'range' && answer.kind === 'range')
    return answer.low <= truth.value && truth.value <= answer.high
  if (truth.kind === 'circle' && answer.kind === 'circle')
    return Math.hypot(truth.at.downM - answer.at.downM, truth.at.sideM - answer.at.sideM) <= answer.radiusM
  return false
}
