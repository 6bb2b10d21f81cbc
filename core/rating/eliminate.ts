import { asMeasured } from './calls.ts'
import { factorises, forward } from './cholesky.ts'
import { onThisThread } from './crew.ts'
import { Indigestible, oddity } from './digest.ts'
import { flyAnew, takeSlopes } from './flown.ts'
import { handPlace, MAX_ROWS } from './observations.ts'
import { BEARS_ON, ERROR, MOVES, OF_DISC, OF_THROW, POINT } from './places.ts'
import { errorVariance } from './throwTerm.ts'
import type { ThrowTerm } from './throwTerm.ts'

/**
 * A throw's own errors, eliminated at their current estimate: what is left of the throw bears on its disc and its arm alone.
 */

const marginal = new Float64Array(MAX_ROWS * MAX_ROWS)

/** Cholesky factor of R + B·Q·Bᵀ, left in `marginal`; false where there is none. */
function factoriseMarginal(term: ThrowTerm): boolean {
  const { rows, slope } = term
  for (let r = 0; r < rows; r++)
    for (let c = 0; c <= r; c++) {
      let s = r === c ? term.variance[r]! : 0
      for (let j = 0; j < OF_THROW; j++)
        s += slope[r * POINT + OF_DISC + j]! * errorVariance(term, j) * slope[c * POINT + OF_DISC + j]!
      marginal[r * rows + c] = s
    }
  return factorises(marginal, rows)
}

/** Makes of every call the measurement it amounts to where the flight stands now. */
function hearCalls(term: ThrowTerm): void {
  term.count = term.seenRows
  for (const { row, bank } of term.called) {
    let x = term.seen[term.kinds[row]!]!
    for (let j = 0; j < POINT; j++) x += term.slope[row * POINT + j]! * (term.point[j]! - term.flownAt[j]!)
    const { gap, variance, told } = asMeasured(bank, x)
    term.target[row] = x + gap
    term.variance[row] = variance
    term.count -= 1 - told
  }
}

/**
 * Flies one throw again where it has wandered too far, and eliminates its latents; see {@link eliminateLatents}.
 *
 * @throws Indigestible when it cannot be weighed
 */
export function eliminate(term: ThrowTerm, patience = 1, ease = 1): void {
  const job = flyAnew(term, patience, ease)
  if (job) {
    onThisThread([job])
    takeSlopes(term)
  }
  if (!eliminateLatents(term))
    throw new Indigestible([{ throw: term.evidence.id, why: oddity(term.evidence) }])
}

/**
 * Eliminates a throw's latents at their current estimate: leaves the whitened residual and bearing, and the robust
 * distance, in the term.
 *
 * Marginal covariance of what was seen: R + B·Q·Bᵀ, with B the slopes in the latents (Schur complement).
 *
 * @returns whether it could be done; false for a throw that no arithmetic holds
 */
export function eliminateLatents(term: ThrowTerm): boolean {
  const { point: p, rows, slope, open, kinds } = term
  hearCalls(term)
  for (let r = 0; r < rows; r++) {
    const kind = kinds[r]!
    let residual = term.target[r]! - (kind >= 0 ? term.seen[kind]! : p[handPlace(kind)]!)
    if (kind >= 0)
      for (let j = 0; j < POINT; j++) residual -= slope[r * POINT + j]! * (p[j]! - term.flownAt[j]!)
    for (let j = 0; j < OF_THROW; j++) residual += slope[r * POINT + OF_DISC + j]! * term.latent[j]!
    open[r] = residual
  }
  if (!factoriseMarginal(term)) return false
  term.factor.set(marginal.subarray(0, rows * rows))
  for (let r = 0; r < rows; r++) term.white[r] = open[r]! - term.scale * term.lean[r]!
  forward(term.factor, rows, term.white)
  for (let r = 0; r < rows; r++)
    for (let j = 0; j < BEARS_ON; j++)
      term.bearing[r * BEARS_ON + j] = term.reach[j]! * slope[r * POINT + MOVES[j]!]!
  for (let j = 0; j < BEARS_ON; j++) forward(term.factor, rows, term.bearing, j, BEARS_ON)
  term.distance = 0
  term.pathDistance = 0
  for (let r = 0; r < rows; r++)
    if (r < term.seenRows) term.distance += term.white[r]! ** 2
    else term.pathDistance += term.white[r]! ** 2
  return Number.isFinite(term.distance + term.pathDistance)
}

const rest = new Float64Array(MAX_ROWS)
const change = new Float64Array(OF_THROW)

/** New latents after the unknowns moved by `step` (BEARS_ON values): Q·Bᵀ·S⁻¹·(what is still open), kept within four sd. */
export function updateLatents(term: ThrowTerm, step: Float64Array): void {
  const { rows, slope, factor } = term
  for (let r = 0; r < rows; r++) {
    let s = term.white[r]!
    for (let j = 0; j < BEARS_ON; j++) s -= term.bearing[r * BEARS_ON + j]! * step[j]!
    rest[r] = s
  }
  // backward substitution only: the whitened rest is already L⁻¹·open
  for (let i = rows - 1; i >= 0; i--) {
    let s = rest[i]!
    for (let k = i + 1; k < rows; k++) s -= factor[k * rows + i]! * rest[k]!
    rest[i] = s / factor[i * rows + i]!
  }
  let turned = 0
  let before = 0
  for (let j = 0; j < OF_THROW; j++) {
    let s = 0
    for (let r = 0; r < rows; r++) s += slope[r * POINT + OF_DISC + j]! * rest[r]!
    const variance = errorVariance(term, j)
    const bound = 4 * Math.sqrt(variance)
    change[j] = Math.max(-bound, Math.min(bound, s * variance)) - term.latent[j]!
    turned += (change[j]! * term.lastChange[j]!) / variance
    before += term.lastChange[j]! ** 2 / variance
  }
  if (turned < -0.25 * before) term.ease = Math.max(0.15, term.ease * 0.6)
  else term.ease = Math.min(1, term.ease * 1.15)
  for (let j = 0; j < OF_THROW; j++) {
    term.latent[j]! += term.ease * change[j]!
    term.lastChange[j] = change[j]!
  }
}

/** Rounds in which a single throw's own errors settle. */
const ROUNDS = 6
const STILL = new Float64Array(BEARS_ON)

/**
 * Has a single throw's own errors settle where they are most believable, everything else as it is.
 *
 * @param place puts the throw where it stands with its errors as they are; see placeTerm in throwTerm.ts
 * @throws Indigestible when it cannot be weighed
 */
export function settleAlone(term: ThrowTerm, place: () => void): void {
  for (let i = 0; i < ROUNDS; i++) {
    place()
    eliminate(term)
    updateLatents(term, STILL)
  }
  place()
}

const column = new Float64Array(MAX_ROWS)

/**
 * How strong the wind's difference from the log must have been at this throw: its estimate squared plus what is not known of
 * it, over its variance, along and across together. 2 where the throw says nothing of the wind.
 *
 * @param scale noise scale of the arm
 */
export function measureGust(term: ThrowTerm, scale: number): void {
  const { rows, slope, factor, windVariance: q } = term
  let sum = 0
  for (const j of [ERROR.along, ERROR.toFade]) {
    for (let r = 0; r < rows; r++) column[r] = slope[r * POINT + OF_DISC + j]!
    forward(factor, rows, column)
    let told = 0
    for (let r = 0; r < rows; r++) told += column[r]! ** 2
    sum += term.latent[j]! ** 2 / (q * scale) + Math.max(0, 1 - q * told)
  }
  term.gustiness = sum
}
