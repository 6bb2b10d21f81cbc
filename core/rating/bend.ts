import { BEARS_ON, MOVES, OF_DISC, OF_THROW, POINT } from './places.ts'
import { backward, factorise, forward } from './cholesky.ts'
import { SEEN } from './linear.ts'
import { BANKS } from '../flight/glimpses.ts'
import { flyAt, wandered } from './flown.ts'
import { MAX_ROWS } from './observations.ts'
import { errorVariance } from './throwTerm.ts'
import type { ThrowTerm } from './throwTerm.ts'

/** How far a point may wander before the bend of its derivatives is looked at again; see the units of the term. */
const PULL_STALE = 0.7
/** The same at the end of a long search, and in one that begins where another has ended. */
export const PULL_FRESH = 0.2
export const PULL_WHEN_WARM = 1.5
/**
 * Second derivatives say little of a flight that folds over within its errors: what they foretell beyond so many standard deviations
 * of what is seen is held back.
 */
const HELD = { lean: 1.3, pull: 1 } as const
const share = (far2: number, held: number) => 1 / Math.sqrt(1 + far2 / held ** 2)
/** How far the slopes are followed to see how they bend, in the standard deviations of the latents. */
const BEND_AT = 0.4
const column = new Float64Array(MAX_ROWS)
const aside = new Float64Array(POINT)
const bend = new Float64Array(POINT)
/** What is free to be otherwise in a throw: its disc's numbers, then its own errors; they stand first in a point. */
const FREE = OF_DISC + OF_THROW
const along = new Float64Array(FREE)
/** How far a disc's numbers are followed to see how slopes bend, as the standard deviations of errors are. */
const NUMBER_REACH = 0.5
/** A coin tossed for a row of a throw: always the same, and of no other row’s or throw’s (an integer hash). */
function coin(row: number, { seed }: ThrowTerm): 1 | -1 {
  let h = Math.imul(row + 1, 0x9e3779b1) ^ Math.imul(seed + 1, 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d)
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39)
  return ((h ^ (h >>> 15)) & 1) === 0 ? 1 : -1
}
/** S⁻¹ times the slopes in the disc's numbers; what rows tell of a throw's errors; and of all that is free, with what is not known. */
const solved = new Float64Array(MAX_ROWS * OF_DISC)
const told = new Float64Array(MAX_ROWS * OF_THROW)
const weights = new Float64Array(MAX_ROWS * FREE)
let [seenAside, slopeAside] = [new Float64Array(0), new Float64Array(0)]

/**
 * Where flights bend more under the same errors, more is explained by errors alone: what was seen is then less of a
 * surprise for no merit of the numbers. The likelihood counts that (−½·ln|S|, S = R + B·Q·Bᵀ the covariance of what is
 * seen), and without it ten thousand throws drag every habit toward releases whose flights scatter most.
 *
 * Its slope in coordinate k of the point, g_k, is Σ over rows r and errors j of W_rj·∂²f_r/∂k∂j, W = S⁻¹·B·Q: one more
 * linearisation a row, a step along its row of W away, or one an error where there are more rows than errors, to either
 * side; of many throws to one side alone, by the toss of a coin. When an unknown moves, the throw's own errors give way by −Wᵀ·A·(its step), A the slopes in
 * the unknowns, so that the slope in the unknowns is g − Aᵀ·W·g of the errors. Worked out again once the throw has
 * wandered {@link PULL_STALE}.
 *
 * A disc's numbers are not known either: they are thrown with as they turn out, and where each disc has but a few throws, hundreds of
 * discs would drag the habits just so. With C what is not known of them, rows tell of them V = S⁻¹·A·C, and of the errors
 * W − V·Aᵀ·W: the same sum, over numbers and errors.
 *
 * And where landings do not scatter as believed (wind noted better than that, say), the misfit grows with S in another way than
 * ½·ln|S| does: with L·Lᵀ = S and M how whitened landings really scatter, W has L⁻ᵀ·M·L⁻¹·B·Q for its S⁻¹·B·Q.
 *
 * Where there are many throws their rows go together with signs tossed for each, so that what they say of each other
 * cancels (Hutchinson's estimate of a trace).
 *
 * @param open covariance of what is not known of its disc's glide, turn and fade, were all else known, 3 × 3
 */
export function pullOf(term: ThrowTerm, open: Float64Array = KNOWN, stale = PULL_STALE): void {
  const { rows, slope, kinds, pull, jacobian } = term
  if (term.pulled && !wandered(term.slopedAt, term.pulledAt, stale)) return
  term.pulled = true
  term.pulledAt.set(term.slopedAt)
  weighFree(term, open)
  if (seenAside.length !== term.seen.length) {
    seenAside = new Float64Array(term.seen.length)
    slopeAside = new Float64Array(jacobian.length)
  }
  leanOf(term, open)
  bend.fill(0)
  const sides = term.many ? [coin(-1, term)] : [1, -1]
  if (term.together === undefined)
    for (let j = open === KNOWN ? OF_DISC : 0; j < FREE; j++) {
      along.fill(0)
      along[j] = 1
      for (const side of sides) {
        const step = side * BEND_AT * reachOf(term, j)
        flyAside(term, step)
        for (let r = 0; r < rows; r++)
          if (kinds[r]! >= 0) addBend(term, r, weights[r * FREE + j]! / step / sides.length)
      }
    }
  else
    for (const group of term.together) {
      along.fill(0)
      for (const r of group)
        for (let j = 0; j < FREE; j++) along[j]! += coin(r, term) * weights[r * FREE + j]!
      let longest = 0
      for (let j = 0; j < FREE; j++) longest = Math.max(longest, Math.abs(along[j]!) / reachOf(term, j))
      if (!(longest > 0)) continue
      for (const side of sides) {
        const step = (side * BEND_AT) / longest
        flyAside(term, step)
        for (const r of group) addBend(term, r, coin(r, term) / step / sides.length)
      }
    }
  for (let k = 0; k < BEARS_ON; k++) {
    const moved = MOVES[k]!
    pull[k] = bend[moved]!
    for (let r = 0; r < rows; r++) {
      let back = 0
      for (let j = 0; j < OF_THROW; j++) back += told[r * OF_THROW + j]! * bend[OF_DISC + j]!
      pull[k]! -= back * slope[r * POINT + moved]!
    }
    pull[k]! *= term.reach[k]!
  }
  let steepest = 0
  for (let k = 0; k < BEARS_ON; k++) {
    let told2 = 0
    for (let r = 0; r < rows; r++) told2 += term.bearing[r * BEARS_ON + k]! ** 2
    if (told2 > 0) steepest = Math.max(steepest, pull[k]! ** 2 / told2)
  }
  const kept = share(steepest, HELD.pull)
  for (let k = 0; k < BEARS_ON; k++) pull[k]! *= kept
}

/** Nothing is left open of a disc's numbers. */
const KNOWN = new Float64Array(OF_DISC * OF_DISC)

const reachOf = (term: ThrowTerm, j: number) =>
  j < OF_DISC ? NUMBER_REACH : Math.sqrt(errorVariance(term, j - OF_DISC))

/** Leaves S⁻¹·A, W, and the weights of all that is free. Everything but `open` is in the noise of the arm. */
function weighFree(term: ThrowTerm, open: Float64Array): void {
  const { rows, slope, factor, scale, shape } = term
  for (let j = 0; j < OF_THROW; j++) {
    const variance = errorVariance(term, j)
    for (let r = 0; r < rows; r++) column[r] = slope[r * POINT + OF_DISC + j]!
    forward(factor, rows, column)
    const [down, off] = [column[0]!, column[1]!]
    backward(factor, rows, column)
    for (let r = 0; r < rows; r++) told[r * OF_THROW + j] = column[r]! * variance
    // the same by how landings really scatter: L⁻ᵀ·(M − 1)·L⁻¹·B·Q more
    column.fill(0, 0, rows)
    column[0] = (shape[0]! - 1) * down + shape[1]! * off
    column[1] = shape[2]! * down + (shape[3]! - 1) * off
    backward(factor, rows, column)
    for (let r = 0; r < rows; r++)
      weights[r * FREE + OF_DISC + j] = told[r * OF_THROW + j]! + column[r]! * variance
  }
  for (let i = 0; i < OF_DISC; i++) {
    for (let r = 0; r < rows; r++) column[r] = slope[r * POINT + i]!
    forward(factor, rows, column)
    backward(factor, rows, column)
    for (let r = 0; r < rows; r++) solved[r * OF_DISC + i] = column[r]!
  }
  for (let r = 0; r < rows; r++) {
    for (let i = 0; i < OF_DISC; i++) {
      let s = 0
      for (let k = 0; k < OF_DISC; k++) s += (solved[r * OF_DISC + k]! * open[k * OF_DISC + i]!) / scale
      weights[r * FREE + i] = s
    }
  }
  for (let j = 0; j < OF_THROW; j++)
    for (let i = 0; i < OF_DISC; i++) {
      let through = 0
      for (let q = 0; q < rows; q++) through += slope[q * POINT + i]! * told[q * OF_THROW + j]!
      for (let r = 0; r < rows; r++) weights[r * FREE + OF_DISC + j]! -= weights[r * FREE + i]! * through
    }
}

const loose = new Float64Array(OF_THROW * OF_THROW)
const openRoot = new Float64Array(OF_DISC * OF_DISC)
const bearingOfErrors = new Float64Array(MAX_ROWS * OF_THROW)

/**
 * What a throw's own errors may still be beside their best bends the flight to one side more than to the other: what is seen
 * lies, on average, off the flight at their best by m_r = ½·Σ over errors j and k of P_jk·∂²f_r/∂j∂k, with
 * P = Q − Q·Bᵀ·S⁻¹·B·Q what is not known of the errors once the throw has been seen; and with what is not known of the disc's
 * numbers, after which the errors go. It is the part of Laplace's approximation that the second derivatives of the flight have in
 * it, and is taken off what is seen.
 *
 * Two flights along each column of P's factor. Where there are many throws, two along the sum of the columns, each with a tossed
 * sign, so that what columns have to do with each other cancels from throw to throw (Hutchinson's estimate of a trace): what is
 * left of it is far below the scatter of throws. Of a few throws it would not be. Banks have corners and are left as they are.
 */
function leanOf(term: ThrowTerm, open: Float64Array): void {
  const { rows, slope, factor, lean, scale, many } = term
  for (let j = 0; j < OF_THROW; j++) {
    for (let r = 0; r < rows; r++) bearingOfErrors[r * OF_THROW + j] = slope[r * POINT + OF_DISC + j]!
    forward(factor, rows, bearingOfErrors, j, OF_THROW)
  }
  for (let j = 0; j < OF_THROW; j++)
    for (let k = 0; k <= j; k++) {
      let s = 0
      for (let r = 0; r < rows; r++)
        s += bearingOfErrors[r * OF_THROW + j]! * bearingOfErrors[r * OF_THROW + k]!
      const q = errorVariance(term, j)
      loose[j * OF_THROW + k] = (j === k ? q * (1 + 1e-9) : 0) - q * s * errorVariance(term, k)
    }
  factorise(loose, OF_THROW)
  const ofDisc = open === KNOWN ? 0 : OF_DISC
  if (ofDisc > 0) {
    for (let i = 0; i < open.length; i++) openRoot[i] = open[i]! / scale
    factorise(openRoot, OF_DISC)
  }
  lean.fill(0)
  along.fill(0)
  for (let c = 0; c < OF_THROW + ofDisc; c++) {
    const sign = many ? coin(-2 - c, term) : 1
    if (c < OF_THROW)
      for (let j = c; j < OF_THROW; j++) along[OF_DISC + j]! += sign * loose[j * OF_THROW + c]!
    else addOpenColumn(term, c - OF_THROW, sign)
    if (many) continue
    leanAlong(term)
    along.fill(0)
  }
  if (many) leanAlong(term)
  column.set(lean)
  forward(factor, rows, column)
  let far2 = 0
  for (let r = 0; r < rows; r++) far2 += column[r]! ** 2
  const kept = share(far2, HELD.lean)
  for (let r = 0; r < rows; r++) lean[r]! *= kept
}

/** Adds to `along` a column of what is not known of the disc's numbers, the errors giving way: −Wᵀ·A·(the numbers' step). */
function addOpenColumn({ rows, slope }: ThrowTerm, c: number, sign: number): void {
  for (let i = c; i < OF_DISC; i++) along[i]! += sign * openRoot[i * OF_DISC + c]!
  for (let r = 0; r < rows; r++) {
    let moved = 0
    for (let i = c; i < OF_DISC; i++) moved += slope[r * POINT + i]! * sign * openRoot[i * OF_DISC + c]!
    for (let j = 0; j < OF_THROW; j++) along[OF_DISC + j]! -= told[r * OF_THROW + j]! * moved
  }
}

/** Adds to what is seen how far it lies, half way between the two flights along, from the flight between them. */
function leanAlong(term: ThrowTerm): void {
  const { rows, kinds, lean, seen } = term
  for (const side of [1, -1]) {
    aside.set(term.flownAt)
    for (let j = 0; j < FREE; j++) aside[j]! += side * along[j]!
    flyAt(term, aside, seenAside)
    for (let r = 0; r < rows; r++) {
      const kind = kinds[r]!
      if (kind >= 0 && (kind < SEEN || kind >= SEEN + BANKS)) lean[r]! += (seenAside[kind]! - seen[kind]!) / 2
    }
  }
}

/** Flies a throw with its errors a step further along. */
function flyAside(term: ThrowTerm, step: number): void {
  aside.set(term.slopedAt)
  for (let j = 0; j < FREE; j++) aside[j]! += step * along[j]!
  flyAt(term, aside, seenAside, slopeAside)
}

/** Adds how much the slopes of a row have changed there. */
function addBend({ kinds, jacobian }: ThrowTerm, row: number, weight: number): void {
  for (let k = 0; k < POINT; k++) {
    const at = kinds[row]! * POINT + k
    bend[k]! += weight * (slopeAside[at]! - jacobian[at]!)
  }
}
