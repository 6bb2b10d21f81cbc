import { OF_DISC } from './places.ts'
import { factorise, inverse, solve } from './cholesky.ts'
import { factoriseSkyline, inverseSkyline, inverseWithin, skylineOf, solveSkyline } from './skyline.ts'

/**
 * Normal equations of the fit, in arrow form: a throw touches one disc and one habit, and a disc leans on the
 * effects it shares with its kin, so discs meet only through the border of habits and effects. Discs are
 * eliminated block by block, over the few border columns each of them touches; the border is eliminated in an order
 * that puts kin side by side and what touches everything last; the cost grows linearly with both.
 */
export interface Arrow {
  readonly border: number
  /** Per border column: when it is eliminated. */
  readonly turn: Int32Array
  /** Per disc: the border columns it touches. */
  readonly columns: readonly Int32Array[]
  /** A 3 × 3 block per disc. */
  readonly own: Float64Array
  /** Per disc, 3 × its columns: how it couples to the border. */
  readonly coupling: readonly Float64Array[]
  /** border × border. */
  readonly shared: Float64Array
  readonly ownSide: Float64Array
  readonly sharedSide: Float64Array
}

/** @param order border columns in the order in which they are eliminated; any will do, a good one is fast */
export function emptyArrow(columns: readonly Int32Array[], border: number, order?: readonly number[]): Arrow {
  const n = OF_DISC
  const turn = Int32Array.from({ length: border }, (_, i) => i)
  order?.forEach((column, i) => (turn[column] = i))
  return {
    border,
    turn,
    columns,
    own: new Float64Array(columns.length * n * n),
    coupling: columns.map((c) => new Float64Array(n * c.length)),
    shared: new Float64Array(border * border),
    ownSide: new Float64Array(columns.length * n),
    sharedSide: new Float64Array(border),
  }
}

/** An eliminated arrow: enough to solve, and to read any covariance. */
export interface SolvedArrow {
  readonly border: number
  readonly columns: readonly Int32Array[]
  /** Solution for the discs, 3 each. */
  readonly ownStep: Float64Array
  /** Solution for the border. */
  readonly sharedStep: Float64Array
  /** Inverse of each disc's own 3 × 3 block. */
  readonly ownInverse: Float64Array
  /** Per disc, own inverse times coupling, 3 × its columns. */
  readonly gain: readonly Float64Array[]
  /** ln of the determinant of the equations. */
  readonly lnDeterminant: number
  /** Covariance of the border, worked out when first asked for. */
  readonly sharedCovariance: Float64Array
  /** The same among columns that a disc touches together, which is worked out much sooner; elsewhere it may hold nothing. */
  readonly nearCovariance: Float64Array
}

/**
 * Solves the arrow by eliminating the discs (Schur complement on the border).
 *
 * @throws RangeError when the system is not positive definite (a prior of zero information)
 */
export function solveArrow(arrow: Arrow): SolvedArrow {
  const { border, columns, turn } = arrow
  const n = OF_DISC
  const discs = columns.length
  const ownInverse = new Float64Array(discs * n * n)
  // what is left of the border, in the order in which it is eliminated; the lower triangle alone
  const reduced = new Float64Array(border * border)
  const side = new Float64Array(border)
  for (let a = 0; a < border; a++) {
    side[turn[a]!] = arrow.sharedSide[a]!
    for (let b = 0; b < border; b++)
      if (turn[b]! <= turn[a]!) reduced[turn[a]! * border + turn[b]!] = arrow.shared[a * border + b]!
  }
  const block = new Float64Array(n * n)
  let lnDeterminant = 0
  const gain = columns.map((touched, d) => {
    const k = touched.length
    const coupling = arrow.coupling[d]!
    const g = coupling.slice()
    block.set(arrow.own.subarray(d * n * n, (d + 1) * n * n))
    factorise(block, n)
    for (let i = 0; i < n; i++) lnDeterminant += 2 * Math.log(block[i * n + i]!)
    ownInverse.set(inverse(block, n), d * n * n)
    for (let j = 0; j < k; j++) solve(block, n, g, j, k)
    for (let a = 0; a < k; a++) {
      const row = turn[touched[a]!]!
      for (let b = 0; b < k; b++) {
        const column = turn[touched[b]!]!
        if (column > row) continue
        let s = 0
        for (let i = 0; i < n; i++) s += coupling[i * k + a]! * g[i * k + b]!
        reduced[row * border + column]! -= s
      }
      let s = 0
      for (let i = 0; i < n; i++) s += g[i * k + a]! * arrow.ownSide[d * n + i]!
      side[row]! -= s
    }
    return g
  })
  const skyline = skylineOf(reduced, border)
  // whatever a disc touches together is within it, coupled or not
  for (const touched of columns) {
    const begins = touched.reduce((least, at) => Math.min(least, turn[at]!), border)
    for (const at of touched) skyline[turn[at]!] = Math.min(skyline[turn[at]!]!, begins)
  }
  factoriseSkyline(reduced, border, skyline)
  for (let i = 0; i < border; i++) lnDeterminant += 2 * Math.log(reduced[i * border + i]!)
  solveSkyline(reduced, border, skyline, side)
  const sharedStep = Float64Array.from(turn, (at) => side[at]!)
  const ownStep = new Float64Array(discs * n)
  columns.forEach((touched, d) => {
    const k = touched.length
    for (let i = 0; i < n; i++) {
      let s = 0
      for (let j = 0; j < n; j++) s += ownInverse[d * n * n + i * n + j]! * arrow.ownSide[d * n + j]!
      for (let a = 0; a < k; a++) s -= gain[d]![i * k + a]! * sharedStep[touched[a]!]!
      ownStep[d * n + i] = s
    }
  })
  let covariance: Float64Array | undefined
  let near: Float64Array | undefined
  return {
    border,
    columns,
    ownStep,
    sharedStep,
    ownInverse,
    gain,
    lnDeterminant,
    get sharedCovariance() {
      return (covariance ??= unordered(inverseSkyline(reduced, border, skyline), turn))
    },
    get nearCovariance() {
      return (near ??= covariance ?? unordered(inverseWithin(reduced, border, skyline), turn))
    },
  }
}

/** A symmetric matrix with rows and columns back where they stand in the border. */
function unordered(ordered: Float64Array, turn: Int32Array): Float64Array {
  const n = turn.length
  const result = new Float64Array(n * n)
  for (let a = 0; a < n; a++)
    for (let b = 0; b < n; b++) result[a * n + b] = ordered[turn[a]! * n + turn[b]!]!
  return result
}

/** Rows (`rows` × its columns) of a disc times the border's covariance, for all border columns: rows × border. */
function throughBorder({ border, columns, sharedCovariance }: SolvedArrow, disc: number, rows: Float64Array) {
  const touched = columns[disc]!
  const k = touched.length
  const count = k === 0 ? OF_DISC : rows.length / k
  const result = new Float64Array(count * border)
  for (let i = 0; i < count; i++)
    for (let a = 0; a < k; a++) {
      const c = rows[i * k + a]!
      if (c === 0) continue
      const row = touched[a]! * border
      for (let q = 0; q < border; q++) result[i * border + q]! += c * sharedCovariance[row + q]!
    }
  return result
}

/** Covariance of two discs' numbers: 3 × 3, row by row. */
export function discCovariance(solved: SolvedArrow, a: number, b: number): Float64Array {
  return spreadCovariance(solved, a, solved.gain[a]!, b, solved.gain[b]!)
}

/**
 * Covariance of two discs' numbers less something of the border: rows say how each leans on its own columns (the
 * gain itself for the numbers; gain plus weights for what is left of them once effects are taken out).
 */
export function spreadCovariance(
  solved: SolvedArrow,
  a: number,
  rowsA: Float64Array,
  b: number,
  rowsB: Float64Array,
): Float64Array {
  const n = OF_DISC
  const { border, columns, ownInverse } = solved
  const shared = a === b ? solved.nearCovariance : solved.sharedCovariance
  const [from, to] = [columns[a]!, columns[b]!]
  const [k, m] = [from.length, to.length]
  const result = new Float64Array(n * n)
  if (a === b) result.set(ownInverse.subarray(a * n * n, (a + 1) * n * n))
  for (let p = 0; p < k; p++)
    for (let j = 0; j < n; j++) {
      let s = 0
      for (let q = 0; q < m; q++) s += shared[from[p]! * border + to[q]!]! * rowsB[j * m + q]!
      for (let i = 0; i < n; i++) result[i * n + j]! += rowsA[i * k + p]! * s
    }
  return result
}

/** Covariance of a disc's numbers with every column of the border: 3 × border, row by row. */
export const discBorderCovariance = (solved: SolvedArrow, disc: number): Float64Array =>
  throughBorder(solved, disc, solved.gain[disc]!).map((v) => -v)

/**
 * Covariance of one weighted sum of each disc's numbers: discs × discs, row by row.
 *
 * @param weights of glide, turn and fade, per disc
 */
export function weightedCovariance(
  solved: SolvedArrow,
  weights: readonly (readonly [number, number, number])[],
): Float64Array {
  const { border, columns, gain, ownInverse } = solved
  const n = columns.length
  const lean = columns.map((touched, d) => {
    const k = touched.length
    const [g, t, f] = weights[d]!
    return Float64Array.from(
      touched,
      (_, a) => g * gain[d]![a]! + t * gain[d]![k + a]! + f * gain[d]![2 * k + a]!,
    )
  })
  const result = new Float64Array(n * n)
  for (let a = 0; a < n; a++) {
    const through = columns[a]!.length === 0 ? new Float64Array(border) : throughBorder(solved, a, lean[a]!)
    for (let b = 0; b <= a; b++) {
      let s = 0
      if (a === b)
        for (let i = 0; i < OF_DISC; i++)
          for (let j = 0; j < OF_DISC; j++)
            s += weights[a]![i]! * ownInverse[a * 9 + i * OF_DISC + j]! * weights[a]![j]!
      const touched = columns[b]!
      for (let c = 0; c < touched.length; c++) s += through[touched[c]!]! * lean[b]![c]!
      result[a * n + b] = result[b * n + a] = s
    }
  }
  return result
}
