import { errorFunction, probit } from 'simple-statistics'

/** Half the width of an interval that holds 90 %, in standard deviations. */
export const Z90 = 1.6448536269514722
/** From here on, in standard deviations, the order of a pair is settled: right nine times in ten. */
export const Z_SETTLED = 1.2815515655446004

/** Cumulative probability of the standard normal distribution, to about 1e-7. */
export const normalCdf = (z: number): number => (z === 0 ? 0.5 : 0.5 * (1 + errorFunction(z / Math.SQRT2)))

/** Probability of each stretch between ascending bounds, from below the first to above the last. */
export function sharesBetween(mean: number, sd: number, bounds: readonly number[]): number[] {
  const below = [...bounds.map((b) => normalCdf(sd > 0 ? (b - mean) / sd : Math.sign(b - mean) * 9)), 1]
  return below.map((p, i) => p - (i === 0 ? 0 : below[i - 1]!))
}

/** Quantile of the standard normal distribution, to about 5e-4. */
export const normalQuantile = (p: number): number => probit(p)
