import { factorise, inverse, solve } from './cholesky.ts'
import { OF_DISC } from './linear.ts'

/** Unknowns of an arm's habit: ln speed, launch, hyzer, nose. */
export const OF_HABIT = 4

/**
 * Normal equations of the fit, in arrow form: a throw touches one disc and one habit, so discs meet only
 * through the habits. Discs are eliminated block by block and the cost grows linearly with them.
 */
export interface Arrow {
  readonly discs: number
  /** Length of the border: OF_HABIT per arm. */
  readonly border: number
  /** A 3 × 3 block per disc. */
  readonly own: Float64Array
  /** 3 × border per disc: how it couples to the habits. */
  readonly coupling: Float64Array
  /** border × border. */
  readonly shared: Float64Array
  readonly ownSide: Float64Array
  readonly sharedSide: Float64Array
}

export function emptyArrow(discs: number, arms: number): Arrow {
  const border = arms * OF_HABIT
  return {
    discs,
    border,
    own: new Float64Array(discs * OF_DISC * OF_DISC),
    coupling: new Float64Array(discs * OF_DISC * border),
    shared: new Float64Array(border * border),
    ownSide: new Float64Array(discs * OF_DISC),
    sharedSide: new Float64Array(border),
  }
}

/** An eliminated arrow: enough to solve, and to read any covariance. */
export interface SolvedArrow {
  readonly discs: number
  readonly border: number
  /** Solution for the discs, 3 each. */
  readonly ownStep: Float64Array
  /** Solution for the border. */
  readonly sharedStep: Float64Array
  /** Inverse of each disc's own 3 × 3 block. */
  readonly ownInverse: Float64Array
  /** Own inverse times coupling, 3 × border per disc. */
  readonly gain: Float64Array
  /** Covariance of the border. */
  readonly sharedCovariance: Float64Array
}

/**
 * Solves the arrow by eliminating the discs (Schur complement on the border).
 *
 * @throws RangeError when the system is not positive definite (a prior of zero information)
 */
export function solveArrow(arrow: Arrow): SolvedArrow {
  const { discs, border } = arrow
  const n = OF_DISC
  const ownInverse = new Float64Array(discs * n * n)
  const gain = new Float64Array(discs * n * border)
  const reduced = arrow.shared.slice()
  const side = arrow.sharedSide.slice()
  const block = new Float64Array(n * n)
  for (let d = 0; d < discs; d++) {
    block.set(arrow.own.subarray(d * n * n, (d + 1) * n * n))
    factorise(block, n)
    ownInverse.set(inverse(block, n), d * n * n)
    const at = d * n * border
    for (let j = 0; j < border; j++) {
      let touched = false
      for (let i = 0; i < n; i++) {
        const c = arrow.coupling[at + i * border + j]!
        gain[at + i * border + j] = c
        touched ||= c !== 0
      }
      if (touched) solve(block, n, gain, at + j, border)
    }
    for (let i = 0; i < n; i++) {
      for (let a = 0; a < border; a++) {
        const c = arrow.coupling[at + i * border + a]!
        if (c === 0) continue
        for (let b = 0; b < border; b++) reduced[a * border + b]! -= c * gain[at + i * border + b]!
      }
    }
    for (let a = 0; a < border; a++) side[a]! -= gainSide(gain, at + a, border, arrow.ownSide, d)
  }
  factorise(reduced, border)
  const sharedStep = side
  solve(reduced, border, sharedStep)
  const ownStep = new Float64Array(discs * n)
  for (let d = 0; d < discs; d++) {
    for (let i = 0; i < n; i++) {
      let s = 0
      for (let k = 0; k < n; k++) s += ownInverse[d * n * n + i * n + k]! * arrow.ownSide[d * n + k]!
      for (let a = 0; a < border; a++) s -= gain[(d * n + i) * border + a]! * sharedStep[a]!
      ownStep[d * n + i] = s
    }
  }
  return { discs, border, ownStep, sharedStep, ownInverse, gain, sharedCovariance: inverse(reduced, border) }
}

/** One column of a disc's gain times its right-hand side. */
function gainSide(gain: Float64Array, from: number, gap: number, side: Float64Array, disc: number): number {
  let s = 0
  for (let i = 0; i < OF_DISC; i++) s += gain[from + i * gap]! * side[disc * OF_DISC + i]!
  return s
}

/** Covariance of two discs' numbers: 3 × 3, row by row. */
export function discCovariance(solved: SolvedArrow, a: number, b: number): Float64Array {
  const n = OF_DISC
  const { border, gain, sharedCovariance } = solved
  const result = new Float64Array(n * n)
  const through = new Float64Array(n * border)
  for (let i = 0; i < n; i++)
    for (let q = 0; q < border; q++) {
      let s = 0
      for (let p = 0; p < border; p++)
        s += gain[(a * n + i) * border + p]! * sharedCovariance[p * border + q]!
      through[i * border + q] = s
    }
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      let s = a === b ? solved.ownInverse[a * n * n + i * n + j]! : 0
      for (let q = 0; q < border; q++) s += through[i * border + q]! * gain[(b * n + j) * border + q]!
      result[i * n + j] = s
    }
  return result
}

/** Covariance of a disc's numbers with one arm's habit: 3 × 4, row by row. */
export function discHabitCovariance(solved: SolvedArrow, disc: number, arm: number): Float64Array {
  const { border, gain, sharedCovariance } = solved
  const result = new Float64Array(OF_DISC * OF_HABIT)
  for (let i = 0; i < OF_DISC; i++)
    for (let j = 0; j < OF_HABIT; j++) {
      let s = 0
      for (let p = 0; p < border; p++)
        s -= gain[(disc * OF_DISC + i) * border + p]! * sharedCovariance[p * border + arm * OF_HABIT + j]!
      result[i * OF_HABIT + j] = s
    }
  return result
}
