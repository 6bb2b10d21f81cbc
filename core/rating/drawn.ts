import { randomLcg, randomNormal } from 'd3'
import { semidefiniteFactor } from './cholesky.ts'

/** Draws of everything that is only looked up. */
const DRAWS = 2000

/**
 * Draws from a normal distribution, always the same, so that a percentage moves only when a throw moves it.
 *
 * @param mean n values
 * @param covariance theirs, n × n, row by row; it may be singular
 * @param from where the draws begin: two of different beginnings have nothing to do with each other
 * @returns per draw n values
 */
export function drawn(
  mean: ArrayLike<number>,
  covariance: Float64Array,
  draws = DRAWS,
  from = 0.5,
): Float64Array[] {
  const n = mean.length
  const factor = semidefiniteFactor(covariance, n)
  const normal = randomNormal.source(randomLcg(from))()
  const z = new Float64Array(n)
  return Array.from({ length: draws }, () => {
    for (let i = 0; i < n; i++) z[i] = normal()
    return Float64Array.from({ length: n }, (_, i) => {
      let s = mean[i]!
      for (let j = 0; j <= i; j++) s += factor[i * n + j]! * z[j]!
      return s
    })
  })
}
