import { REFERENCE_LAUNCH } from '../flight/release.ts'
import { BANKS } from '../flight/glimpses.ts'
import { asMeasured, calledBanks } from './calls.ts'
import type { CalledBank } from './calls.ts'
import { factorise, forward } from './cholesky.ts'
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
export const MAX_ROWS = 38
/** Unknowns a throw bears on: its disc's numbers, then its arm's habit. */
export const BEARS_ON = OF_DISC + OF_HABIT

/** Of a throw's own errors, the last two are the wind's. */
const ALONG = 5
const RELEASE_VARIANCE = THROW_SD.slice(0, ALONG).map((sd) => sd * sd)
/** Variance of a throw’s own error. */
export const varianceOf = (term: ThrowTerm, j: number) =>
  j < ALONG ? RELEASE_VARIANCE[j]! : term.windVariance
/** How far a point may wander from where it was last flown before it is flown again, in the units below. */
const STALE = 0.06
/** And before its derivatives are taken again: they bend less, and cost ten times as much. */
const SLOPE_STALE = 1.5
/** And how far off they may be: as a share of the step they foretold, and of what is not known of a throw. */
const MISLED = { ofStep: 0.02, ofSd: 0.002 }
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
  /** Slope of ½·ln of the determinant of the marginal covariance in the unknowns, BEARS_ON values; see bend.ts. */
  readonly pull: Float64Array
  readonly pulledAt: Float64Array
  pulled: boolean
  /** How far the mean of what is seen lies from the flight at its own errors' best, a value a row; see bend.ts. */
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
 * @param many whether it is one of so many that what its rows say of each other may be left to cancel; see bend.ts
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
export function wandered(p: Float64Array, from: Float64Array, reach: number): boolean {
  for (let j = 0; j < POINT; j++) if (Math.abs(p[j]! - from[j]!) > reach * REACH[j]!) return true
  return false
}

/** Flies a throw at a point, clamped in place, with derivatives where a place for them is given; a recorded path's part is whitened. */
export function flyAt(
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

const column = new Float64Array(MAX_ROWS)
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
