import { REFERENCE_LAUNCH } from '../flight/release.ts'
import { BANKS } from '../flight/glimpses.ts'
import { asMeasured, calledBanks } from './calls.ts'
import type { CalledBank } from './calls.ts'
import { backward, factorise, forward } from './cholesky.ts'
import { alone } from './crew.ts'
import type { FlightJob } from './crew.ts'
import { CALLED_SD, landingSd, SEEN_SD, THROW_SD } from './evidence.ts'
import type { RatedDisc, ThrowEvidence } from './evidence.ts'
import { flyPoint, linearise, OF_DISC, OF_THROW, POINT, SEEN, SEEN_ROWS, shownWith } from './linear.ts'
import { condense } from './recorded.ts'
import type { PathEvidence } from './recorded.ts'
import { OF_HABIT } from './arrow.ts'

/**
 * At most: five things seen of the flight, four called or measured out of the hand, two banks called, and a path's side,
 * height and time at six marks.
 */
const MAX_ROWS = 38
/** Unknowns a throw bears on: its disc's numbers, then its arm's habit. */
export const BEARS_ON = OF_DISC + OF_HABIT

/** Of a throw's own errors, the last two are the wind's. */
const ALONG = 5
const RELEASE_VARIANCE = THROW_SD.slice(0, ALONG).map((sd) => sd * sd)
const varianceOf = (term: ThrowTerm, j: number) => (j < ALONG ? RELEASE_VARIANCE[j]! : term.windVariance)
/** How far a point may wander from where it was last flown before it is flown again, in the units below. */
const STALE = 0.06
/** And before its derivatives are taken again: they bend less, and cost ten times as much. */
const SLOPE_STALE = 1.5
/** And how far off they may be: as a share of the step they foretold, and of what is not known of a throw. */
const MISLED = { ofStep: 0.02, ofSd: 0.002 }
/** And before the bend of its derivatives is looked at again. */
const PULL_STALE = 0.7
const REACH = [0.5, 0.5, 0.5, ...THROW_SD]

/**
 * One throw in the fit: what was seen of it, its own errors (latents) at their current estimate, and the last
 * linearisation of its flight. Mutable and reused from iteration to iteration; private to the fit.
 */
export interface ThrowTerm {
  readonly evidence: ThrowEvidence
  readonly key: string
  readonly disc: number
  readonly arm: number
  /** Where its arm's habit stands among the border columns of its disc. */
  slot: number
  readonly rows: number
  /** Observations the rows are worth: a call counts as much as it tells. */
  count: number
  /** Banks called, each with the row it has. */
  readonly called: readonly { readonly row: number; readonly bank: CalledBank }[]
  readonly path: PathEvidence | undefined
  /**
   * Rows whose bends are looked at together; those called out of the hand bend nowhere and are in none. Undefined where
   * bends are looked at error by error instead, all rows at once.
   */
  readonly together: readonly (readonly number[])[] | undefined
  /** Distances at which the flight is wanted; absent where its landing is enough. */
  readonly marks: Float64Array | undefined
  /** Per row: index of what the flight shows, or −1 − index of the point's own value for a called row. */
  readonly kinds: Int8Array
  readonly target: Float64Array
  readonly variance: Float64Array
  /** Variance of the wind's difference from what was logged, along and across each: as believed, and as it stands. */
  readonly windBelieved: number
  windVariance: number
  /** Squared wind error expected now, along and across together, over its variance: what gusts are estimated from. */
  gustiness: number
  /** Errors of release and wind, OF_THROW values. */
  readonly latent: Float64Array
  readonly point: Float64Array
  /** Where it was last flown, and what was seen there; a recorded path's part is whitened. */
  readonly flownAt: Float64Array
  readonly seen: Float64Array
  /** Where its derivatives were last taken. */
  readonly slopedAt: Float64Array
  readonly jacobian: Float64Array
  flown: boolean
  /** Slope of ½·ln of the determinant of the marginal covariance in the unknowns, BEARS_ON values; see {@link pullOf}. */
  readonly pull: Float64Array
  readonly pulledAt: Float64Array
  pulled: boolean
  /** How far the mean of what is seen lies from the flight at its own errors' best, a value a row; see {@link leanOf}. */
  readonly lean: Float64Array
  /** Rows × POINT of the rows in use. */
  readonly slope: Float64Array
  /** Residual with the latents taken back to zero. */
  readonly open: Float64Array
  /** Cholesky factor of the marginal covariance of the rows. */
  readonly factor: Float64Array
  /** Whitened bearing on the unknowns, rows × BEARS_ON, and whitened residual. */
  readonly bearing: Float64Array
  readonly white: Float64Array
  /** Squared length of the whitened residual. */
  distance: number
  weight: number
  /** How much of a proposed change of the latents is taken; shrinks when they swing to and fro. */
  ease: number
  readonly lastChange: Float64Array
}

/** Two pieces of evidence with the same key are the same evidence. */
export const evidenceKey = (t: ThrowEvidence, disc: RatedDisc): string =>
  JSON.stringify([t, disc.body, disc.published.speed])

/**
 * @param disc place of its disc, `arm` of its arm
 * @param many whether it is one of so many that what its rows say of each other may be left to cancel; see {@link pullOf}
 */
export function makeTerm(t: ThrowEvidence, disc: number, arm: number, key: string, many = false): ThrowTerm {
  const kinds: number[] = [SEEN_ROWS.carry, SEEN_ROWS.veer]
  const [sdCarry, sdVeer] = landingSd(t.method, t.carryM, t.veerM)
  const target = [t.carryM, t.veerM]
  const sds: number[] = [sdCarry, sdVeer]
  const see = (kind: number, value: number | undefined, sd: number) => {
    if (value === undefined) return
    kinds.push(kind)
    target.push(value)
    sds.push(sd)
  }
  see(SEEN_ROWS.hang, t.hangS, SEEN_SD.hangS)
  see(SEEN_ROWS.mid, t.mid?.veerM, SEEN_SD.midM)
  see(SEEN_ROWS.apex, t.apexM, SEEN_SD.apexM)
  see(-1 - 3, t.releaseSpeedMps === undefined ? undefined : Math.log(t.releaseSpeedMps), CALLED_SD.lnSpeed)
  see(-1 - 4, t.launchCalledRad, CALLED_SD.launch)
  see(-1 - 5, t.hyzerCalledRad, CALLED_SD.hyzer)
  see(-1 - 6, t.noseCalledRad, CALLED_SD.nose)
  const called = calledBanks(t.calls ?? [], t.hyzerRad).map((bank) => {
    see(SEEN + bank.bank, 0, 1)
    return { row: kinds.length - 1, bank }
  })
  const path = t.path && condense(t.path)
  const flown = kinds.flatMap((kind, r) => (kind < 0 ? [] : [r]))
  const groups = many ? [flown] : flown.map((r) => [r])
  path?.channels.forEach(({ channel, white }) => {
    const first = kinds.length
    white.forEach((value, k) => see(SEEN + BANKS + channel * path.marks.length + k, value, 1))
    groups.push(Array.from(white, (_, k) => first + k))
  })
  const together = many || path === undefined ? groups : undefined
  const marks = path?.marks ?? (called.length > 0 ? new Float64Array(0) : undefined)
  const shown = shownWith(marks)
  const rows = kinds.length
  const windBelieved = (t.windSdMps ?? THROW_SD[ALONG]!) ** 2
  return {
    evidence: t,
    key,
    disc,
    arm,
    slot: 0,
    rows,
    count: rows,
    called,
    path,
    together,
    marks,
    kinds: Int8Array.from(kinds),
    target: Float64Array.from(target),
    variance: Float64Array.from(sds, (sd) => sd * sd),
    windBelieved,
    windVariance: windBelieved,
    gustiness: 2,
    latent: new Float64Array(OF_THROW),
    point: new Float64Array(POINT),
    flownAt: new Float64Array(POINT),
    seen: new Float64Array(shown),
    slopedAt: new Float64Array(POINT),
    jacobian: new Float64Array(shown * POINT),
    flown: false,
    pull: new Float64Array(BEARS_ON),
    pulledAt: new Float64Array(POINT),
    pulled: false,
    lean: new Float64Array(rows),
    slope: new Float64Array(rows * POINT),
    open: new Float64Array(rows),
    factor: new Float64Array(rows * rows),
    bearing: new Float64Array(rows * BEARS_ON),
    white: new Float64Array(rows),
    distance: 0,
    weight: 1,
    ease: 1,
    lastChange: new Float64Array(OF_THROW),
  }
}

/**
 * Where a throw stands with the current numbers, habit and latents.
 *
 * @param numbers the disc's glide, turn, fade
 * @param lnFull ln of the arm's full speed before its habit
 * @param habit the arm's ln speed, launch, hyzer, nose
 */
export function placeTerm(term: ThrowTerm, numbers: Float64Array, lnFull: number, habit: Float64Array): void {
  const { point: p, latent: e, evidence: t } = term
  for (let i = 0; i < OF_DISC; i++) p[i] = numbers[i]!
  p[3] = lnFull + Math.log(t.power) + habit[0]! + e[0]!
  p[4] = REFERENCE_LAUNCH + habit[1]! + e[1]!
  p[5] = t.hyzerRad + habit[2]! + e[2]!
  p[6] = habit[3]! + e[3]!
  p[7] = e[4]!
  p[8] = t.air.windAlongMps + e[5]!
  p[9] = t.air.windTowardFadeMps + e[6]!
}

const marginal = new Float64Array(MAX_ROWS * MAX_ROWS)

/** Cholesky factor of R + B·Q·Bᵀ, left in `marginal`. */
function factoriseMarginal(term: ThrowTerm): void {
  const { rows, slope } = term
  for (let r = 0; r < rows; r++)
    for (let c = 0; c <= r; c++) {
      let s = r === c ? term.variance[r]! : 0
      for (let j = 0; j < OF_THROW; j++)
        s += slope[r * POINT + OF_DISC + j]! * varianceOf(term, j) * slope[c * POINT + OF_DISC + j]!
      marginal[r * rows + c] = s
    }
  factorise(marginal, rows)
}

/** Whether a point has wandered from another by more than `reach` in anything. */
function wandered(p: Float64Array, from: Float64Array, reach: number): boolean {
  for (let j = 0; j < POINT; j++) if (Math.abs(p[j]! - from[j]!) > reach * REACH[j]!) return true
  return false
}

/** Flies a throw at a point, clamped in place, with derivatives where a place for them is given; a recorded path's part is whitened. */
function flyAt(
  { evidence, marks, path }: ThrowTerm,
  disc: RatedDisc,
  at: Float64Array,
  seen: Float64Array,
  jacobian?: Float64Array,
): void {
  const { speed } = disc.published
  const density = evidence.air.densityKgM3
  const midX = evidence.mid?.downM ?? 0
  if (jacobian) linearise(speed, disc.body, density, at, midX, seen, jacobian, marks)
  else flyPoint(speed, disc.body, density, at, midX, seen, marks)
  if (!path) return
  const m = path.marks.length
  for (const { channel, factor } of path.channels) {
    const from = SEEN + BANKS + channel * m
    forward(factor, m, seen, from)
    if (jacobian) for (let j = 0; j < POINT; j++) forward(factor, m, jacobian, from * POINT + j, POINT)
  }
}

/**
 * Flies a throw again where it has wandered too far. Its derivatives are kept as long as they foretold what is now seen;
 * they cost ten times as much as the flight.
 *
 * @param patience how many times further than usual it may wander before it is flown again
 * @param ease how many times further off than usual its derivatives may be before they are taken again
 * @returns the flight to be flown with derivatives, and handed on to {@link takeSlopes}; undefined where none is needed
 */
export function flyAnew(
  term: ThrowTerm,
  disc: RatedDisc,
  patience: number,
  ease: number,
): FlightJob | undefined {
  const { point: p, kinds, rows, slope, seen, jacobian, evidence } = term
  if (term.flown && !wandered(p, term.flownAt, patience * STALE)) return undefined
  if (term.flown && !wandered(p, term.slopedAt, patience * SLOPE_STALE)) {
    for (let r = 0; r < rows; r++) {
      const kind = kinds[r]!
      let step = 0
      if (kind >= 0)
        for (let j = 0; j < POINT; j++) step += slope[r * POINT + j]! * (p[j]! - term.flownAt[j]!)
      foretold[r] = kind >= 0 ? seen[kind]! + step : 0
      strode[r] = Math.abs(step)
    }
    term.flownAt.set(p)
    flyAt(term, disc, term.flownAt, seen)
    if (!misled(term, ease)) return undefined
  }
  term.flownAt.set(p)
  if (term.marks === undefined)
    return {
      speed: disc.published.speed,
      body: disc.body,
      densityKgM3: evidence.air.densityKgM3,
      midX: evidence.mid?.downM ?? 0,
      at: term.flownAt,
      seen,
      jacobian,
    }
  flyAt(term, disc, term.flownAt, seen, jacobian)
  takeSlopes(term)
  return undefined
}

/** Takes over the derivatives of a flight just flown. */
export function takeSlopes(term: ThrowTerm): void {
  const { kinds, rows, jacobian, slope } = term
  term.slopedAt.set(term.flownAt)
  term.flown = true
  for (let r = 0; r < rows; r++) {
    const kind = kinds[r]!
    for (let j = 0; j < POINT; j++)
      slope[r * POINT + j] = kind >= 0 ? jacobian[kind * POINT + j]! : j === -1 - kind ? 1 : 0
  }
}

const foretold = new Float64Array(MAX_ROWS)
const strode = new Float64Array(MAX_ROWS)

/** Whether the derivatives were off, against the step they foretold and against how surely anything is seen at all. */
function misled({ rows, kinds, factor, seen }: ThrowTerm, ease: number): boolean {
  for (let r = 0; r < rows; r++) {
    if (kinds[r]! < 0) continue
    let variance = 0
    for (let k = 0; k <= r; k++) variance += factor[r * rows + k]! ** 2
    const off = Math.abs(seen[kinds[r]!]! - foretold[r]!)
    if (off > ease * (MISLED.ofStep * strode[r]! + MISLED.ofSd * Math.sqrt(variance))) return true
  }
  return false
}

/** Makes of every call the measurement it amounts to where the flight stands now. */
function hearCalls(term: ThrowTerm): void {
  term.count = term.rows
  for (const { row, bank } of term.called) {
    let x = term.seen[term.kinds[row]!]!
    for (let j = 0; j < POINT; j++) x += term.slope[row * POINT + j]! * (term.point[j]! - term.flownAt[j]!)
    const { gap, variance, told } = asMeasured(bank, x)
    term.target[row] = x + gap
    term.variance[row] = variance
    term.count -= 1 - told
  }
}

/** Flies one throw again where it has wandered too far, and eliminates its latents; see {@link eliminateLatents}. */
export function eliminate(term: ThrowTerm, disc: RatedDisc, patience = 1, ease = 1): void {
  const job = flyAnew(term, disc, patience, ease)
  if (job) {
    alone([job])
    takeSlopes(term)
  }
  eliminateLatents(term)
}

/**
 * Eliminates a throw's latents at their current estimate: leaves the whitened residual and bearing, and the robust
 * distance, in the term.
 *
 * Marginal covariance of what was seen: R + B·Q·Bᵀ, with B the slopes in the latents (Schur complement).
 */
export function eliminateLatents(term: ThrowTerm): void {
  const { point: p, rows, slope, open, kinds } = term
  hearCalls(term)
  for (let r = 0; r < rows; r++) {
    const kind = kinds[r]!
    let residual = term.target[r]! - (kind >= 0 ? term.seen[kind]! : p[-1 - kind]!)
    if (kind >= 0)
      for (let j = 0; j < POINT; j++) residual -= slope[r * POINT + j]! * (p[j]! - term.flownAt[j]!)
    for (let j = 0; j < OF_THROW; j++) residual += slope[r * POINT + OF_DISC + j]! * term.latent[j]!
    open[r] = residual
  }
  factoriseMarginal(term)
  term.factor.set(marginal.subarray(0, rows * rows))
  for (let r = 0; r < rows; r++) term.white[r] = open[r]! - term.lean[r]!
  forward(term.factor, rows, term.white)
  for (let r = 0; r < rows; r++)
    for (let j = 0; j < BEARS_ON; j++) term.bearing[r * BEARS_ON + j] = slope[r * POINT + j]!
  for (let j = 0; j < BEARS_ON; j++) forward(term.factor, rows, term.bearing, j, BEARS_ON)
  let distance = 0
  for (let r = 0; r < rows; r++) distance += term.white[r]! ** 2
  term.distance = distance
}

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
export function pullOf(term: ThrowTerm, disc: RatedDisc, index: number): void {
  const { rows, slope, factor, kinds, pull, jacobian } = term
  if (term.pulled && !wandered(term.slopedAt, term.pulledAt, PULL_STALE)) return
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
  leanOf(term, disc, index)
  bend.fill(0)
  const side = coin(-1, index)
  if (term.together === undefined)
    for (let j = 0; j < OF_THROW; j++) {
      along.fill(0)
      along[j] = 1
      const step = side * BEND_AT * Math.sqrt(varianceOf(term, j))
      flyAside(term, disc, step)
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
      flyAside(term, disc, step)
      for (const r of group) addBend(term, r, coin(r, index) / step)
    }
  for (let k = 0; k < BEARS_ON; k++) {
    pull[k] = bend[k]!
    for (let r = 0; r < rows; r++) {
      let back = 0
      for (let j = 0; j < OF_THROW; j++) back += told[r * OF_THROW + j]! * bend[OF_DISC + j]!
      pull[k]! -= back * slope[r * POINT + k]!
    }
  }
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
function leanOf(term: ThrowTerm, disc: RatedDisc, index: number): void {
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
    flyAt(term, disc, aside, seenAside)
    for (let r = 0; r < rows; r++) {
      const kind = kinds[r]!
      if (kind >= 0 && (kind < SEEN || kind >= SEEN + BANKS)) lean[r]! += (seenAside[kind]! - seen[kind]!) / 2
    }
  }
}

/** Flies a throw with its errors a step further along. */
function flyAside(term: ThrowTerm, disc: RatedDisc, step: number): void {
  aside.set(term.slopedAt)
  for (let j = 0; j < OF_THROW; j++) aside[OF_DISC + j]! += step * along[j]!
  flyAt(term, disc, aside, seenAside, slopeAside)
}

/** Adds how much the slopes of a row have changed there. */
function addBend({ kinds, jacobian }: ThrowTerm, row: number, weight: number): void {
  for (let k = 0; k < POINT; k++) {
    const at = kinds[row]! * POINT + k
    bend[k]! += weight * (slopeAside[at]! - jacobian[at]!)
  }
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
    const variance = varianceOf(term, j)
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

/**
 * How strong the wind's difference from the log must have been at this throw: its estimate squared plus what is not known of
 * it, over its variance, along and across together. 2 where the throw says nothing of the wind.
 *
 * @param scale noise scale of the arm
 */
export function measureGust(term: ThrowTerm, scale: number): void {
  const { rows, slope, factor, windVariance: q } = term
  let sum = 0
  for (const j of [ALONG, ALONG + 1]) {
    for (let r = 0; r < rows; r++) column[r] = slope[r * POINT + OF_DISC + j]!
    forward(factor, rows, column)
    let told = 0
    for (let r = 0; r < rows; r++) told += column[r]! ** 2
    sum += term.latent[j]! ** 2 / (q * scale) + Math.max(0, 1 - q * told)
  }
  term.gustiness = sum
}
