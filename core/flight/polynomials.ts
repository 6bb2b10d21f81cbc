import { STALL } from './constants.ts'

/**
 * Two functions of y = sin²α that the inner loop needs, as polynomials: beyond y = {@link POLYNOMIAL_UP_TO} the exact forms
 * are taken. They are the Chebyshev series of the functions there, cut off after the fifth degree and written out in powers of
 * y; `test/core/flight/polynomials.test.ts` makes them again with {@link chebyshevPolynomial}.
 */
export const POLYNOMIAL_UP_TO = 0.25
const DEGREE = 5

/** 1/cos α. */
export const reciprocalCos = (y: number): number => 1 / Math.sqrt(1 - y)
/** STALL·tanh(α/STALL) over sin α·cos α. */
export function stallRatio(y: number): number {
  if (y === 0) return 1
  const sin = Math.sqrt(y)
  return (STALL * Math.tanh(Math.asin(sin) / STALL)) / (sin * Math.sqrt(1 - y))
}

/** Coefficients of 1/cos α in powers of y, the constant first. */
export const RECIPROCAL_COS = [
  0.999999937753882, 0.5000175266439402, 0.3742071718868438, 0.32542320022632115, 0.18098359225510646,
  0.5288907991530141,
] as const
/** Coefficients of the stall ratio in powers of y, the constant first. */
export const STALL_RATIO = [
  0.9999999201135598, -0.43523860856262125, 0.8874149427005082, -0.559442942275856, 0.7685195200198541,
  -0.11955144422972808,
] as const

/**
 * A function on an interval as a polynomial: its Chebyshev series, cut off, in powers of the variable, the constant first.
 *
 * Source: L. N. Trefethen, Approximation Theory and Approximation Practice, 2013, chapter 3.
 *
 * @param nodes at which the function is looked at; many more than the degree
 */
export function chebyshevPolynomial(
  f: (y: number) => number,
  [from, to]: readonly [number, number] = [0, POLYNOMIAL_UP_TO],
  degree = DEGREE,
  nodes = 400,
): number[] {
  const angles = Array.from({ length: nodes }, (_, k) => (Math.PI * (k + 0.5)) / nodes)
  const values = angles.map((a) => f((from + to + (to - from) * Math.cos(a)) / 2))
  const series = Array.from({ length: degree + 1 }, (_, j) => {
    const sum = values.reduce((s, v, k) => s + v * Math.cos(j * angles[k]!), 0)
    return ((j === 0 ? 1 : 2) * sum) / nodes
  })
  // T_j in powers of x, then x as a line in y
  const result = new Array<number>(degree + 1).fill(0)
  let [before, now] = [[1], [0, 1]]
  const inX = new Array<number>(degree + 1).fill(0)
  series.forEach((c, j) => {
    const t = j === 0 ? before : now
    t.forEach((v, i) => (inX[i]! += c * v))
    if (j === 0) return
    const next = [0, ...now.map((v) => 2 * v)]
    before.forEach((v, i) => (next[i]! -= v))
    ;[before, now] = [now, next]
  })
  const [slope, offset] = [2 / (to - from), -(from + to) / (to - from)]
  let power = [1]
  for (const c of inX) {
    power.forEach((v, i) => (result[i]! += c * v))
    const next = new Array<number>(power.length + 1).fill(0)
    power.forEach((v, i) => {
      next[i]! += v * offset
      next[i + 1]! += v * slope
    })
    power = next
  }
  return result
}
