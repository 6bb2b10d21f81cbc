import { BEARS_ON, MOVES, OF_DISC, OF_THROW, POINT } from './places.ts'
import { backward, factorise, forward } from './cholesky.ts'
import { SEEN } from './linear.ts'
import { BANKS } from '../flight/glimpses.ts'
import { flyAt, wandered } from './flown.ts'
import { MAX_ROWS } from './observations.ts'
import { varianceOf } from './throwTerm.ts'
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
const HELD = { lean: 0.8, pull: 0.5 } as const
const share = (far2: number, held: number) => 1 / Math.sqrt(1 + far2 / held ** 2)
/** How far the slopes are followed to see how they bend, in the standard deviations of the latents. */
const BEND_AT = 0.4
const column = new Float64Array(MAX_ROWS)
const aside = new Float64Array(POINT)
const bend = new Float64Array(POINT)
const along = new Float64Array(OF_THROW)
/** A coin tossed for a row of a throw: always the same, and of no other row’s or throw’s (an integer hash). */
function coin(row: number, index: number): 1 | -1 {
  let h = Math.imul(row + 1, 0x9e3779b1) ^ Math.imul(index + 1, 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d)
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39)
  return ((h ^ (h >>> 15)) & 1) === 0 ? 1 : -1
}
const told = new Float64Array(MAX_ROWS * OF_THROW)
let [seenAside, slopeAside] = [new Float64Array(0), new Float64Array(0)]

/**
 * Where flights bend more under the same errors, more is explained by errors alone: what was seen is then less of a
 * surprise for no merit of the numbers. The likelihood counts that (−½·ln|S|, S = R + B·Q·Bᵀ the covariance of what is
 * seen), and without it ten thousand throws drag every habit toward releases whose flights scatter most.
 *
 * Its slope in coordinate k of the point, g_k, is Σ over rows r and errors j of W_rj·∂²f_r/∂k∂j, W = S⁻¹·B·Q: one more
 * linearisation a row, a step along its row of W away, or one an error where there are more rows than errors, to either
 * side by the toss of a coin. When an unknown moves, the throw's own errors give way by −Wᵀ·A·(its step), A the slopes in
 * the unknowns, so that the slope in the unknowns is g − Aᵀ·W·g of the errors. Worked out again once the throw has
 * wandered {@link PULL_STALE}.
 *
 * Where there are many throws their rows go together with signs tossed for each, so that what they say of each other
 * cancels (Hutchinson's estimate of a trace).
 *
 * @param index which of the throws it is: decides signs and sides, so that the same throws give the same answer
 */
export function pullOf(term: ThrowTerm, index: number, stale = PULL_STALE): void {
  const { rows, slope, factor, kinds, pull, jacobian } = term
  if (term.pulled && !wandered(term.slopedAt, term.pulledAt, stale)) return
  term.pulled = true
  term.pulledAt.set(term.slopedAt)
  for (let j = 0; j < OF_THROW; j++) {
    for (let r = 0; r < rows; r++) column[r] = slope[r * POINT + OF_DISC + j]!
    forward(factor, rows, column)
    backward(factor, rows, column)
    for (let r = 0; r < rows; r++) told[r * OF_THROW + j] = column[r]! * varianceOf(term, j)
  }
  if (seenAside.length !== term.seen.length) {
    seenAside = new Float64Array(term.seen.length)
    slopeAside = new Float64Array(jacobian.length)
  }
  leanOf(term, index)
  bend.fill(0)
  const side = coin(-1, index)
  if (term.together === undefined)
    for (let j = 0; j < OF_THROW; j++) {
      along.fill(0)
      along[j] = 1
      const step = side * BEND_AT * Math.sqrt(varianceOf(term, j))
      flyAside(term, step)
      for (let r = 0; r < rows; r++) if (kinds[r]! >= 0) addBend(term, r, told[r * OF_THROW + j]! / step)
    }
  else
    for (const group of term.together) {
      along.fill(0)
      for (const r of group)
        for (let j = 0; j < OF_THROW; j++) along[j]! += coin(r, index) * told[r * OF_THROW + j]!
      let longest = 0
      for (let j = 0; j < OF_THROW; j++)
        longest = Math.max(longest, Math.abs(along[j]!) / Math.sqrt(varianceOf(term, j)))
      if (!(longest > 0)) continue
      const step = (side * BEND_AT) / longest
      flyAside(term, step)
      for (const r of group) addBend(term, r, coin(r, index) / step)
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

const loose = new Float64Array(OF_THROW * OF_THROW)
const bearingOfErrors = new Float64Array(MAX_ROWS * OF_THROW)

/**
 * What a throw's own errors may still be beside their best bends the flight to one side more than to the other: what is seen
 * lies, on average, off the flight at their best by m_r = ½·Σ over errors j and k of P_jk·∂²f_r/∂j∂k, with
 * P = Q − Q·Bᵀ·S⁻¹·B·Q what is not known of the errors once the throw has been seen. It is the part of Laplace's
 * approximation that the second derivatives of the flight have in it, and is taken off what is seen.
 *
 * Two flights along the sum of the columns of P's factor, each with a tossed sign, so that what columns have to do with
 * each other cancels from throw to throw (Hutchinson's estimate of a trace): what is left of it is far below the scatter of
 * throws. Banks have corners and are left as they are.
 */
function leanOf(term: ThrowTerm, index: number): void {
  const { rows, slope, factor, kinds, lean, seen } = term
  for (let j = 0; j < OF_THROW; j++) {
    for (let r = 0; r < rows; r++) bearingOfErrors[r * OF_THROW + j] = slope[r * POINT + OF_DISC + j]!
    forward(factor, rows, bearingOfErrors, j, OF_THROW)
  }
  for (let j = 0; j < OF_THROW; j++)
    for (let k = 0; k <= j; k++) {
      let s = 0
      for (let r = 0; r < rows; r++)
        s += bearingOfErrors[r * OF_THROW + j]! * bearingOfErrors[r * OF_THROW + k]!
      const q = varianceOf(term, j)
      loose[j * OF_THROW + k] = (j === k ? q * (1 + 1e-9) : 0) - q * s * varianceOf(term, k)
    }
  factorise(loose, OF_THROW)
  along.fill(0)
  for (let c = 0; c < OF_THROW; c++)
    for (let j = c; j < OF_THROW; j++) along[j]! += coin(-2 - c, index) * loose[j * OF_THROW + c]!
  lean.fill(0)
  for (const side of [1, -1]) {
    aside.set(term.flownAt)
    for (let j = 0; j < OF_THROW; j++) aside[OF_DISC + j]! += side * along[j]!
    flyAt(term, aside, seenAside)
    for (let r = 0; r < rows; r++) {
      const kind = kinds[r]!
      if (kind >= 0 && (kind < SEEN || kind >= SEEN + BANKS)) lean[r]! += (seenAside[kind]! - seen[kind]!) / 2
    }
  }
  column.set(lean)
  forward(factor, rows, column)
  let far2 = 0
  for (let r = 0; r < rows; r++) far2 += column[r]! ** 2
  const kept = share(far2, HELD.lean)
  for (let r = 0; r < rows; r++) lean[r]! *= kept
}

/** Flies a throw with its errors a step further along. */
function flyAside(term: ThrowTerm, step: number): void {
  aside.set(term.slopedAt)
  for (let j = 0; j < OF_THROW; j++) aside[OF_DISC + j]! += step * along[j]!
  flyAt(term, aside, seenAside, slopeAside)
}

/** Adds how much the slopes of a row have changed there. */
function addBend({ kinds, jacobian }: ThrowTerm, row: number, weight: number): void {
  for (let k = 0; k < POINT; k++) {
    const at = kinds[row]! * POINT + k
    bend[k]! += weight * (slopeAside[at]! - jacobian[at]!)
  }
}
