import { ARM_SPEED_NUMBER, lnOfClass } from '../flight/arm.ts'
import { REFERENCE_LAUNCH } from '../flight/release.ts'
import { STEADIEST_WIND_SD, THROW_SD } from './evidence.ts'
import type { RatedDisc, ThrowEvidence } from './evidence.ts'
import { shownWith } from './linear.ts'
import type { Circumstances } from './linear.ts'
import { observationsOf } from './observations.ts'
import type { Observations } from './observations.ts'
import { AIM, AT, BEARS_ON, ERROR, HABIT, OF_DISC, OF_THROW, POINT } from './places.ts'

/**
 * One throw in the fit: what was seen of it, its own errors (latents) at their current estimate, and the last
 * linearisation of its flight. Mutable and reused from iteration to iteration; private to the fit.
 */
export interface ThrowTerm {
  readonly evidence: ThrowEvidence
  /** What its flight depends on besides the point. */
  readonly circumstances: Circumstances
  readonly key: string
  /** Decides the tosses of bend.ts: by what was seen alone, whatever the throw is called and wherever it stands among others. */
  readonly seed: number
  /** Whether it is one of so many that tosses may be left to cancel. */
  readonly many: boolean
  readonly disc: number
  readonly arm: number
  /** Place of its outing. */
  readonly outing: number
  /** How far each unknown it bears on moves the coordinate of {@link MOVES}. */
  readonly reach: Float64Array
  /** Where its arm's habit, and its outing's aim line, stand among the border columns of its disc. */
  slot: number
  aimSlot: number
  /** Where the pace of its disc stands among them; −1 where it is not asked for. */
  wornSlot: number
  /** See {@link ThrowEvidence.worn}. */
  readonly worn: number
  readonly rows: number
  /** Rows before those of a recorded path, which come last. */
  readonly seenRows: number
  /** Observations those rows are worth: a call counts as much as it tells. */
  count: number
  /** Banks called, each with the row it has. */
  readonly called: Observations['called']
  readonly path: Observations['path']
  /**
   * Rows whose bends are looked at together; those called out of the hand bend nowhere and are in none. Undefined where
   * bends are looked at error by error instead, all rows at once.
   */
  readonly together: readonly (readonly number[])[] | undefined
  /** Distances at which the flight is wanted; absent where its landing is enough. */
  readonly marks: Float64Array | undefined
  /** Per row: see {@link Observations}. */
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
  /** Noise scale of its arm, which its own errors scatter by: what is seen leans as much more or less. */
  scale: number
  /** How whitened landings of its arm really scatter together, 2 × 2; see noise.ts. */
  shape: Float64Array
  /** Rows × POINT of the rows in use. */
  readonly slope: Float64Array
  /** Residual with the latents taken back to zero. */
  readonly open: Float64Array
  /** Cholesky factor of the marginal covariance of the rows. */
  readonly factor: Float64Array
  /** Whitened bearing on the unknowns, rows × BEARS_ON, and whitened residual. */
  readonly bearing: Float64Array
  readonly white: Float64Array
  /** Squared length of the whitened residual, without a recorded path; and what the path adds, given the rest. */
  distance: number
  pathDistance: number
  /** Weight of what was seen, 0 … 1, and of the recorded path by itself. */
  weight: number
  pathWeight: number
  /** How much of a proposed change of the latents is taken; shrinks when they swing to and fro. */
  ease: number
  readonly lastChange: Float64Array
}

/** Whitened landings as they scatter where everything is as believed. */
export const ROUND = Float64Array.of(1, 0, 0, 1)

/** Two pieces of evidence with the same key are the same evidence. */
export const evidenceKey = (t: ThrowEvidence, disc: RatedDisc): string =>
  JSON.stringify([t, disc.body, disc.published.speed])

/** The same object with its keys in one order, whoever made it. */
const inOrder = (_key: string, value: unknown): unknown =>
  value !== null && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value

/** An integer of what was seen of a throw and what was thrown: names and places have no part in it (FNV-1a). */
function seedOf(t: ThrowEvidence, { body, published }: RatedDisc): number {
  const { id: _, disc: _d, arm: _a, outing: _o, fadeSign: _f, leg: _l, ...seen } = t
  const text = JSON.stringify([seen, body, published], inOrder)
  let h = 0x811c9dc5
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193)
  return h
}

/** What the flight of a throw depends on besides the point. */
const circumstancesOf = (t: ThrowEvidence, { published, body }: RatedDisc): Circumstances => ({
  speed: published.speed,
  body,
  densityKgM3: t.air.densityKgM3,
  midX: t.mid?.downM ?? 0,
  spinRadps: t.spinRadps ?? 0,
})

/** How far the unknowns of a throw move its point: all as they are but growth with the class and the aim. */
export function throwReach(
  t: Pick<ThrowEvidence, 'fadeSign'>,
  { published }: Pick<RatedDisc, 'published'>,
): Float64Array {
  const reach = new Float64Array(BEARS_ON).fill(1)
  reach[OF_DISC + HABIT.byClass] = published.speed - ARM_SPEED_NUMBER
  reach[OF_DISC + HABIT.hyzerByClass] = published.speed - ARM_SPEED_NUMBER
  reach[AIM] = t.fadeSign ?? 1
  return reach
}

/**
 * A throw on its way into a fit, flown nowhere yet.
 *
 * @param rated its disc; `disc` that disc's place, `arm` that of its arm, `outing` that of its outing
 * @param many whether it is one of so many that what its rows say of each other may be left to cancel; see bend.ts
 */
export function makeTerm(
  t: ThrowEvidence,
  rated: RatedDisc,
  disc: number,
  arm: number,
  outing: number,
  key: string,
  many = false,
): ThrowTerm {
  const { kinds, target, sds, called, path, pathRows } = observationsOf(t)
  const flown = kinds.flatMap((kind, r) => (kind < 0 || pathRows.some((own) => own.includes(r)) ? [] : [r]))
  const groups = many ? [flown, ...pathRows] : [...flown.map((r) => [r]), ...pathRows]
  const together = many || path === undefined ? groups : undefined
  const marks = path?.marks ?? (called.length > 0 ? new Float64Array(0) : undefined)
  const shown = shownWith(marks)
  const rows = kinds.length
  const windBelieved = Math.max(STEADIEST_WIND_SD, t.windSdMps ?? THROW_SD[ERROR.along]!) ** 2
  return {
    evidence: t,
    circumstances: circumstancesOf(t, rated),
    key,
    seed: seedOf(t, rated),
    many,
    disc,
    arm,
    outing,
    reach: throwReach(t, rated),
    slot: 0,
    aimSlot: 0,
    wornSlot: -1,
    worn: t.worn ?? 0,
    rows,
    seenRows: rows - pathRows.reduce((n, own) => n + own.length, 0),
    count: 0,
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
    scale: 1,
    shape: ROUND,
    slope: new Float64Array(rows * POINT),
    open: new Float64Array(rows),
    factor: new Float64Array(rows * rows),
    bearing: new Float64Array(rows * BEARS_ON),
    white: new Float64Array(rows),
    distance: 0,
    pathDistance: 0,
    weight: 1,
    pathWeight: 1,
    ease: 1,
    lastChange: new Float64Array(OF_THROW),
  }
}

/**
 * Where a throw stands with the current numbers, habit and latents.
 *
 * @param numbers the disc's glide, turn, fade as it was then, see numbersThen in worn.ts
 * @param lnFull ln of the arm's full speed with a disc of speed 9, before its habit
 * @param habit the arm's, OF_HABIT values
 * @param aim how far throws of the outing were aimed to the right of the line that landings are measured from, rad
 */
export function placeTerm(
  term: ThrowTerm,
  numbers: Float64Array,
  lnFull: number,
  habit: Float64Array,
  aim: number,
): void {
  const { point: p, latent: e, evidence: t } = term
  for (let i = 0; i < OF_DISC; i++) p[i] = numbers[i]!
  p[AT.lnSpeed] = lnMeant(lnFull, t.power, term.circumstances.speed, habit) + e[ERROR.lnSpeed]!
  p[AT.launch] = REFERENCE_LAUNCH + habit[HABIT.launch]! + e[ERROR.launch]!
  p[AT.hyzer] = t.hyzerRad + hyzerHabit(term.circumstances.speed, habit) + e[ERROR.hyzer]!
  p[AT.nose] = habit[HABIT.nose]! + e[ERROR.nose]!
  p[AT.azimuth] = (t.aimRad ?? 0) + term.reach[AIM]! * aim + e[ERROR.azimuth]!
  p[AT.along] = t.air.windAlongMps + e[ERROR.along]!
  p[AT.toFade] = t.air.windTowardFadeMps + e[ERROR.toFade]!
  p[AT.lnSpin] = habit[HABIT.lnSpin]!
}

/**
 * ln of the release speed of a throw without errors of its own.
 *
 * @param lnFull ln of the arm's full speed with a disc of speed 9, before its habit
 * @param speed the disc's speed number
 */
export const lnMeant = (lnFull: number, power: number, speed: number, habit: Float64Array): number =>
  lnFull +
  Math.log(power) +
  lnOfClass(speed) +
  habit[HABIT.lnSpeed]! +
  habit[HABIT.byClass]! * (speed - ARM_SPEED_NUMBER)

/**
 * How much hyzer an arm has too much, rad, with a disc of some speed number: many a thrower tilts a driver otherwise than a mid.
 */
export const hyzerHabit = (speed: number, habit: Float64Array): number =>
  habit[HABIT.hyzer]! + habit[HABIT.hyzerByClass]! * (speed - ARM_SPEED_NUMBER)

const RELEASE_VARIANCE = THROW_SD.slice(0, ERROR.along).map((sd) => sd * sd)
/** Variance of a throw’s own error. */
export const errorVariance = (term: ThrowTerm, j: number): number =>
  j < ERROR.along ? RELEASE_VARIANCE[j]! : term.windVariance
