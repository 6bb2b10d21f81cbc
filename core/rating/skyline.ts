/**
 * Cholesky of a large symmetric positive definite matrix most of whose rows are empty far from the diagonal: row i
 * holds nothing before column `first[i]`, and neither does its factor (the envelope of a matrix fills only within
 * itself). With unknowns ordered kin by kin and the few that touch everything last, work grows with the envelope
 * rather than with the cube of the size. Matrices are n × n, row by row; only the lower triangle is read.
 */

/** Where each row begins to hold anything: its first column that is not zero, at most its own. */
export function skylineOf(a: Float64Array, n: number): Int32Array {
  return Int32Array.from({ length: n }, (_, i) => {
    let j = 0
    while (j < i && a[i * n + j] === 0) j++
    return j
  })
}

/**
 * Factor in place in the lower triangle.
 *
 * @throws RangeError when the matrix is not positive definite
 */
export function factoriseSkyline(a: Float64Array, n: number, first: Int32Array): void {
  for (let i = 0; i < n; i++) {
    const row = i * n
    for (let j = first[i]!; j < i; j++) {
      const other = j * n
      let s = a[row + j]!
      for (let k = Math.max(first[i]!, first[j]!); k < j; k++) s -= a[row + k]! * a[other + k]!
      a[row + j] = s / a[other + j]!
    }
    let d = a[row + i]!
    for (let k = first[i]!; k < i; k++) d -= a[row + k]! ** 2
    if (!(d > 0)) throw new RangeError(`not positive definite at ${i}: ${d}`)
    a[row + i] = Math.sqrt(d)
  }
}

/** Solves A·x = b in place, given the factor of A. */
export function solveSkyline(l: Float64Array, n: number, first: Int32Array, b: Float64Array): void {
  for (let i = 0; i < n; i++) {
    let s = b[i]!
    for (let k = first[i]!; k < i; k++) s -= l[i * n + k]! * b[k]!
    b[i] = s / l[i * n + i]!
  }
  for (let i = n - 1; i >= 0; i--) {
    const x = (b[i] = b[i]! / l[i * n + i]!)
    for (let k = first[i]!; k < i; k++) b[k]! -= l[i * n + k]! * x
  }
}

/** Inverse of A from its factor, as a full n × n matrix: L⁻¹ within the same envelope, then L⁻ᵀ·L⁻¹. */
export function inverseSkyline(l: Float64Array, n: number, first: Int32Array): Float64Array {
  const m = new Float64Array(n * n)
  // rows of L⁻¹ begin where the rows they are made of begin
  const begin = first.slice()
  for (let i = 0; i < n; i++) {
    const row = i * n
    for (let k = first[i]!; k < i; k++) {
      const f = l[row + k]!
      if (f === 0) continue
      begin[i] = Math.min(begin[i]!, begin[k]!)
      for (let j = begin[k]!; j <= k; j++) m[row + j]! -= f * m[k * n + j]!
    }
    m[row + i] = 1
    const d = 1 / l[row + i]!
    for (let j = begin[i]!; j <= i; j++) m[row + j]! *= d
  }
  const result = new Float64Array(n * n)
  for (let k = 0; k < n; k++)
    for (let i = begin[k]!; i <= k; i++) {
      const f = m[k * n + i]!
      if (f === 0) continue
      for (let j = begin[k]!; j <= i; j++) result[i * n + j]! += f * m[k * n + j]!
    }
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) result[j * n + i] = result[i * n + j]!
  return result
}

/**
 * The inverse of A from its factor where A itself may hold anything; zero elsewhere. It costs as much as the factor, not as much as
 * the whole inverse.
 *
 * Source: K. Takahashi, J. Fagan and M.-S. Chin, Formation of a sparse bus impedance matrix and its application to short circuit
 * study, 1973.
 */
export function inverseWithin(l: Float64Array, n: number, first: Int32Array): Float64Array {
  const z = new Float64Array(n * n)
  const column = new Float64Array(n)
  const sums = new Float64Array(n)
  const rows = new Int32Array(n)
  for (let j = n - 1; j >= 0; j--) {
    // rows that reach this column, from the top
    let count = 0
    for (let k = j + 1; k < n; k++) {
      if (first[k]! > j) continue
      rows[count++] = k
      column[k] = l[k * n + j]!
      sums[k] = 0
    }
    for (let a = 0; a < count; a++) {
      const k = rows[a]!
      const weight = column[k]!
      let s = 0
      for (let b = 0; b < a; b++) {
        const i = rows[b]!
        const v = z[k * n + i]!
        sums[i]! += weight * v
        s += column[i]! * v
      }
      sums[k]! += s + weight * z[k * n + k]!
    }
    const d = 1 / l[j * n + j]!
    let own = d
    for (let a = 0; a < count; a++) {
      const k = rows[a]!
      const v = -d * sums[k]!
      z[k * n + j] = z[j * n + k] = v
      own -= column[k]! * v
    }
    z[j * n + j] = d * own
  }
  return z
}
