import { deviation, mean } from 'd3'
import jstat from 'jstat'

/** A figure with the interval that holds it nine times in ten. */
export interface Interval {
  readonly value: number
  readonly low: number
  readonly high: number
  /** How many observations stand behind it. */
  readonly n: number
}

const P90 = 0.95
/** Nobody's throws are less scattered than they are measured. */
const LEAST_SD = 0.25

/** Variance of a mean, never below what measuring leaves, and its degrees of freedom. */
function ofMean(values: readonly number[], leastSd: number) {
  const n = values.length
  const sd = Math.max(leastSd, n > 1 ? deviation(values)! : leastSd)
  return { variance: sd ** 2 / n, dof: n - 1 }
}

/**
 * Mean of a few observations with its 90 % interval, by Student's t.
 *
 * @param leastSd what measuring alone scatters, in the unit of the values
 * @returns undefined for fewer than two observations
 */
export function meanInterval(values: readonly number[], leastSd = LEAST_SD): Interval | undefined {
  if (values.length < 2) return undefined
  const { variance, dof } = ofMean(values, leastSd)
  const half = jstat.studentt.inv(P90, dof) * Math.sqrt(variance)
  const value = mean(values)!
  return { value, low: value - half, high: value + half, n: values.length }
}

/** A difference of two means, its 90 % interval and the probability that the first is larger. */
export interface Difference extends Interval {
  readonly pLarger: number
}

/**
 * Difference of the means of two sets of observations whose scatter may differ: Welch's t with Satterthwaite's degrees of
 * freedom; the probability is the t distribution's, which is the posterior under a flat prior.
 *
 * Source: B. L. Welch, The generalization of “Student’s” problem when several different population variances are involved, 1947.
 *
 * @returns undefined where either has fewer than two observations
 */
export function differenceOf(
  a: readonly number[],
  b: readonly number[],
  leastSd = LEAST_SD,
): Difference | undefined {
  if (a.length < 2 || b.length < 2) return undefined
  const [x, y] = [ofMean(a, leastSd), ofMean(b, leastSd)]
  const variance = x.variance + y.variance
  const dof = variance ** 2 / (x.variance ** 2 / x.dof + y.variance ** 2 / y.dof)
  return difference(mean(a)! - mean(b)!, Math.sqrt(variance), dof, a.length + b.length)
}

/**
 * The same for pairs: what one has more of than the other, hole by hole.
 *
 * @returns undefined for fewer than two pairs
 */
export function pairedDifference(
  pairs: readonly (readonly [number, number])[],
  leastSd = LEAST_SD,
): Difference | undefined {
  if (pairs.length < 2) return undefined
  const gaps = pairs.map(([a, b]) => a - b)
  const { variance, dof } = ofMean(gaps, leastSd)
  return difference(mean(gaps)!, Math.sqrt(variance), dof, pairs.length)
}

function difference(value: number, sd: number, dof: number, n: number): Difference {
  const half = jstat.studentt.inv(P90, dof) * sd
  const pLarger = Math.min(0.9999, Math.max(0.0001, jstat.studentt.cdf(value / sd, dof)))
  return { value, low: value - half, high: value + half, n, pLarger }
}

/** Share made, with its 90 % interval: Beta posterior under Jeffreys' prior. */
export function shareMade(made: number, tried: number): Interval | undefined {
  if (tried === 0) return undefined
  const [a, b] = [made + 0.5, tried - made + 0.5]
  return {
    value: made / tried,
    low: made === 0 ? 0 : jstat.beta.inv(1 - P90, a, b),
    high: made === tried ? 1 : jstat.beta.inv(P90, a, b),
    n: tried,
  }
}

/** Bands of distance that putts are counted in, m. */
export const PUTT_BANDS = [
  [0, 5],
  [5, 8],
  [8, 11],
  [11, 15],
  [15, 200],
] as const
