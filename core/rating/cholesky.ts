/**
 * Cholesky factor of a small symmetric positive definite matrix, in place in the lower triangle.
 *
 * Small and dense, row by row, without allocation: it runs once a throw and iteration in the fit's inner loop.
 *
 * @param a n × n values, row by row, with row length `stride`
 * @throws RangeError when the matrix is not positive definite
 */
export function factorise(a: Float64Array, n: number, stride = n): void {
  const stuck = factorising(a, n, stride)
  if (stuck >= 0) throw new RangeError(`not positive definite at ${stuck}: ${a[stuck * stride + stuck]}`)
}

/** The same; whether there is a factor is answered, not thrown. */
export const factorises = (a: Float64Array, n: number, stride = n): boolean => factorising(a, n, stride) < 0

/** Factorises in place; where it is stuck, −1 when it is done. */
function factorising(a: Float64Array, n: number, stride: number): number {
  for (let j = 0; j < n; j++) {
    let d = a[j * stride + j]!
    for (let k = 0; k < j; k++) d -= a[j * stride + k]! ** 2
    if (!(d > 0)) return j
    const root = Math.sqrt(d)
    a[j * stride + j] = root
    for (let i = j + 1; i < n; i++) {
      let s = a[i * stride + j]!
      for (let k = 0; k < j; k++) s -= a[i * stride + k]! * a[j * stride + k]!
      a[i * stride + j] = s / root
    }
  }
  return -1
}

/** Solves L·x = b in place; `l` from {@link factorise}; b starts at `from` with a stride of its own. */
export function forward(l: Float64Array, n: number, b: Float64Array, from = 0, gap = 1, stride = n): void {
  for (let i = 0; i < n; i++) {
    let s = b[from + i * gap]!
    for (let k = 0; k < i; k++) s -= l[i * stride + k]! * b[from + k * gap]!
    b[from + i * gap] = s / l[i * stride + i]!
  }
}

/** Solves Lᵀ·x = b in place. */
export function backward(l: Float64Array, n: number, b: Float64Array, from = 0, gap = 1, stride = n): void {
  for (let i = n - 1; i >= 0; i--) {
    let s = b[from + i * gap]!
    for (let k = i + 1; k < n; k++) s -= l[k * stride + i]! * b[from + k * gap]!
    b[from + i * gap] = s / l[i * stride + i]!
  }
}

/** Solves A·x = b in place, given the factor of A. */
export function solve(l: Float64Array, n: number, b: Float64Array, from = 0, gap = 1): void {
  forward(l, n, b, from, gap)
  backward(l, n, b, from, gap)
}

/**
 * Inverse of A from its factor, as a full n × n matrix: L inverted row by row, then L⁻ᵀ·L⁻¹, both along rows so that
 * large borders stay in the cache.
 */
export function inverse(l: Float64Array, n: number): Float64Array {
  const m = new Float64Array(n * n)
  for (let i = 0; i < n; i++) {
    const row = i * n
    for (let k = 0; k < i; k++) {
      const f = l[row + k]!
      if (f === 0) continue
      for (let j = 0; j <= k; j++) m[row + j]! -= f * m[k * n + j]!
    }
    m[row + i] = 1
    const d = 1 / l[row + i]!
    for (let j = 0; j <= i; j++) m[row + j]! *= d
  }
  const result = new Float64Array(n * n)
  for (let k = 0; k < n; k++)
    for (let i = 0; i <= k; i++) {
      const f = m[k * n + i]!
      if (f === 0) continue
      for (let j = 0; j <= i; j++) result[i * n + j]! += f * m[k * n + j]!
    }
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) result[j * n + i] = result[i * n + j]!
  return result
}

/** Lower-triangular root of a covariance that may be singular: a direction without variance gets none. */
export function semidefiniteFactor(a: Float64Array, n: number): Float64Array {
  const l = new Float64Array(n * n)
  for (let j = 0; j < n; j++) {
    let d = a[j * n + j]!
    for (let k = 0; k < j; k++) d -= l[j * n + k]! ** 2
    if (d <= 1e-14) continue
    const root = Math.sqrt(d)
    l[j * n + j] = root
    for (let i = j + 1; i < n; i++) {
      let s = a[i * n + j]!
      for (let k = 0; k < j; k++) s -= l[i * n + k]! * l[j * n + k]!
      l[i * n + j] = s / root
    }
  }
  return l
}
