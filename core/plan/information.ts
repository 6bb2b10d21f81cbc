import { BEARS_ON, NUMBER, OF_DISC, OF_HABIT } from '../rating/places.ts'
import { effectColumn } from '../rating/beliefs.ts'
import { HABIT_SD, UNKNOWN_SPEED_SD } from '../rating/evidence.ts'
import type { Arm, MeasuringMethod } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { discBorderCovariance, discCovariance } from '../rating/arrow.ts'
import { factorise, forward } from '../rating/cholesky.ts'
import { eliminate } from '../rating/eliminate.ts'
import { makeTerm, placeTerm } from '../rating/throwTerm.ts'
import { armOf, discOf } from '../judge/asThrown.ts'
import type { PlannedThrow } from '../judge/asThrown.ts'

/** A throw that could be made, and what would be seen of it. */
export interface Candidate extends PlannedThrow {
  readonly method?: MeasuringMethod
  readonly angleCalled?: boolean
  readonly hangTimed?: boolean
}

/** At most so many things are seen of a throw that is planned. */
const MOST_ROWS = 9

/** What one throw would tell: whitened bearings on its disc and arm, `rows` × 7, and where those stand in a belief. */
export interface Information {
  readonly rows: number
  readonly bearing: Float64Array
  /** Places of the disc's three numbers and the habit's four in the belief. */
  readonly places: Int32Array
}

/** Joint covariance of all discs' numbers and all arms' habits; mutable, so that throws can be added one by one. */
export interface Belief {
  readonly size: number
  readonly covariance: Float64Array
  readonly discs: readonly string[]
  readonly arms: readonly string[]
}

/** What is believed after the throws so far, as one dense matrix. For trials, not for a whole shelf. */
export function beliefOf(state: FitState, also: readonly Arm[] = []): Belief {
  const { evidence, posterior } = state
  const fresh = also.filter((a) => !evidence.arms.some((b) => b.id === a.id))
  const discs = evidence.discs.map((d) => d.id)
  const [nd, na] = [discs.length, evidence.arms.length]
  const size = nd * OF_DISC + (na + fresh.length) * OF_HABIT
  const covariance = new Float64Array(size * size)
  const set = (i: number, j: number, v: number) => {
    covariance[i * size + j] = v
    covariance[j * size + i] = v
  }
  const border = effectColumn(na, 0)
  for (let a = 0; a < nd; a++) {
    for (let b = 0; b <= a; b++) {
      const c = discCovariance(posterior, a, b)
      for (let i = 0; i < OF_DISC; i++)
        for (let j = 0; j < OF_DISC; j++) set(a * OF_DISC + i, b * OF_DISC + j, c[i * OF_DISC + j]!)
    }
    const cross = discBorderCovariance(posterior, a)
    for (let i = 0; i < OF_DISC; i++)
      for (let q = 0; q < border; q++)
        set(a * OF_DISC + i, nd * OF_DISC + q, cross[i * posterior.border + q]!)
  }
  for (let p = 0; p < border; p++)
    for (let q = 0; q <= p; q++)
      set(nd * OF_DISC + p, nd * OF_DISC + q, posterior.sharedCovariance[p * posterior.border + q]!)
  fresh.forEach((a, f) => {
    const sds = a.fullSpeedMps === undefined ? [UNKNOWN_SPEED_SD, ...HABIT_SD.slice(1)] : HABIT_SD
    sds.forEach((sd, k) => {
      const at = nd * OF_DISC + (na + f) * OF_HABIT + k
      set(at, at, sd * sd)
    })
  })
  return { size, covariance, discs, arms: [...evidence.arms, ...fresh].map((a) => a.id) }
}

/** Degrees of freedom of a throw's scatter; see the fit. */
const NU = 4

/**
 * Fisher information of a throw before it is made: how what would be seen of it bears on its disc and its arm, with the
 * throw's own errors taken out and its scatter as large as this arm's is.
 *
 * @throws RangeError when the disc or the arm is not part of the belief
 */
export function informationOf(
  state: FitState,
  belief: Belief,
  candidate: Candidate,
  arms: readonly Arm[] = [],
): Information {
  const { at, disc } = discOf(state, candidate.disc)
  const arm = armOf(state, candidate.arm, arms)
  const armAt = belief.arms.indexOf(candidate.arm)
  if (armAt < 0) throw new RangeError(`${candidate.arm} is not among the throwers of this fit.`)
  const term = makeTerm(
    {
      id: 'candidate',
      disc: candidate.disc,
      arm: candidate.arm,
      power: candidate.power,
      hyzerRad: candidate.hyzerRad,
      air: candidate.air,
      carryM: 80,
      veerM: 0,
      counts: true,
      ...(candidate.method && { method: candidate.method }),
      ...(candidate.angleCalled && { hyzerCalledRad: candidate.hyzerRad }),
      ...(candidate.hangTimed && { hangS: 4 }),
    },
    disc,
    at,
    0,
    '',
  )
  placeTerm(term, state.numbers[at]!, arm.lnFull, arm.habit)
  eliminate(term)
  const share = Math.sqrt((NU + term.rows) / (NU + term.rows + 2) / arm.scale)
  return {
    rows: term.rows,
    bearing: term.bearing.map((v) => v * share),
    places: Int32Array.from({ length: BEARS_ON }, (_, k) =>
      k < OF_DISC ? at * OF_DISC + k : belief.discs.length * OF_DISC + armAt * OF_HABIT + k - OF_DISC,
    ),
  }
}

/** A difference of two discs' stability, as places and weights in a belief. */
export interface Contrast {
  readonly a: string
  readonly b: string
  readonly value: number
  readonly places: readonly (readonly [place: number, weight: number])[]
}

/** The difference of stability of two discs as the fit has it. */
export function contrastOf(state: FitState, belief: Belief, a: string, b: string): Contrast {
  const [i, j] = [belief.discs.indexOf(a), belief.discs.indexOf(b)]
  if (i < 0 || j < 0) throw new RangeError(`${i < 0 ? a : b} is not among the discs of this fit.`)
  const stability = (d: number) => state.numbers[d]![NUMBER.turn]! + state.numbers[d]![NUMBER.fade]!
  return {
    a,
    b,
    value: stability(i) - stability(j),
    places: [
      [i * OF_DISC + 1, 1],
      [i * OF_DISC + 2, 1],
      [j * OF_DISC + 1, -1],
      [j * OF_DISC + 2, -1],
    ],
  }
}

export function varianceOf(belief: Belief, { places }: Contrast): number {
  let v = 0
  for (const [p, w] of places)
    for (const [q, u] of places) v += w * u * belief.covariance[p * belief.size + q]!
  return Math.max(0, v)
}

/** B·Σ, rows × size. */
function through(belief: Belief, { rows, bearing, places }: Information): Float64Array {
  const { size, covariance } = belief
  const result = new Float64Array(rows * size)
  for (let r = 0; r < rows; r++)
    for (let k = 0; k < BEARS_ON; k++) {
      const c = bearing[r * BEARS_ON + k]!
      if (c === 0) continue
      const row = places[k]! * size
      for (let q = 0; q < size; q++) result[r * size + q]! += c * covariance[row + q]!
    }
  return result
}

/** I ± B·Σ·Bᵀ inverted, by Gauss–Jordan on a handful of rows; undefined when it is singular. */
function innerInverse(
  belief: Belief,
  info: Information,
  moved: Float64Array,
  sign: 1 | -1,
): Float64Array | undefined {
  const { rows: n, bearing, places } = info
  const w = 2 * n
  const m = new Float64Array(n * w)
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      let s = i === j ? 1 : 0
      for (let k = 0; k < BEARS_ON; k++)
        s += sign * moved[i * belief.size + places[k]!]! * bearing[j * BEARS_ON + k]!
      m[i * w + j] = s
    }
    m[i * w + n + i] = 1
  }
  for (let p = 0; p < n; p++) {
    const pivot = m[p * w + p]!
    if (!(pivot > 1e-12)) return undefined
    for (let q = 0; q < w; q++) m[p * w + q]! /= pivot
    for (let i = 0; i < n; i++) {
      if (i === p) continue
      const f = m[i * w + p]!
      if (f === 0) continue
      for (let q = 0; q < w; q++) m[i * w + q]! -= f * m[p * w + q]!
    }
  }
  return Float64Array.from({ length: n * n }, (_, i) => m[Math.floor(i / n) * w + n + (i % n)]!)
}

/** How contrasts hang together with everything believed: rows of contrasts × size, and their own variances. */
export interface Reach {
  readonly rows: Float64Array
  readonly now: Float64Array
}

export function reachOf(belief: Belief, contrasts: readonly Contrast[]): Reach {
  const { size, covariance } = belief
  const rows = new Float64Array(contrasts.length * size)
  contrasts.forEach(({ places }, c) => {
    for (const [p, w] of places)
      for (let q = 0; q < size; q++) rows[c * size + q]! += w * covariance[p * size + q]!
  })
  return { rows, now: Float64Array.from(contrasts, (c) => varianceOf(belief, c)) }
}

const own = new Float64Array(MOST_ROWS * BEARS_ON)
const inner = new Float64Array(MOST_ROWS * MOST_ROWS)
const felt = new Float64Array(BEARS_ON)

/**
 * Variances of contrasts once a throw was made, without making it: what is left after the throw's rows, whitened by
 * I + B·Σ·Bᵀ = L·Lᵀ, have taken |(L⁻¹·B)·(Σ·contrast)|² away.
 */
export function variancesWith(belief: Belief, info: Information, reach: Reach): Float64Array {
  const { size, covariance } = belief
  const { rows: n, bearing, places } = info
  for (let r = 0; r < n; r++)
    for (let k = 0; k < BEARS_ON; k++) {
      let s = 0
      for (let j = 0; j < BEARS_ON; j++)
        s += bearing[r * BEARS_ON + j]! * covariance[places[j]! * size + places[k]!]!
      own[r * BEARS_ON + k] = s
    }
  for (let r = 0; r < n; r++)
    for (let c = 0; c <= r; c++) {
      let s = r === c ? 1 : 0
      for (let k = 0; k < BEARS_ON; k++) s += own[r * BEARS_ON + k]! * bearing[c * BEARS_ON + k]!
      inner[r * n + c] = s
    }
  factorise(inner, n)
  own.set(bearing)
  for (let k = 0; k < BEARS_ON; k++) forward(inner, n, own, k, BEARS_ON)
  const left = new Float64Array(reach.now.length)
  for (let c = 0; c < left.length; c++) {
    for (let k = 0; k < BEARS_ON; k++) felt[k] = reach.rows[c * size + places[k]!]!
    let less = 0
    for (let r = 0; r < n; r++) {
      let s = 0
      for (let k = 0; k < BEARS_ON; k++) s += own[r * BEARS_ON + k]! * felt[k]!
      less += s * s
    }
    left[c] = Math.max(0, reach.now[c]! - less)
  }
  return left
}

/**
 * Makes a throw (sign 1) or takes one back (−1): the belief that follows, by the Woodbury identity.
 *
 * @throws RangeError when what is taken back was never in it
 */
export function withThrow(belief: Belief, info: Information, sign: 1 | -1 = 1): Belief {
  const { size } = belief
  const moved = through(belief, info)
  const inner = innerInverse(belief, info, moved, sign)
  if (!inner) throw new RangeError('that throw is not in this belief')
  const { rows } = info
  const covariance = belief.covariance.slice()
  const gained = new Float64Array(rows * size)
  for (let r = 0; r < rows; r++)
    for (let s = 0; s < rows; s++) {
      const c = inner[r * rows + s]!
      for (let q = 0; q < size; q++) gained[r * size + q]! += c * moved[s * size + q]!
    }
  for (let p = 0; p < size; p++)
    for (let r = 0; r < rows; r++) {
      const c = sign * moved[r * size + p]!
      if (c === 0) continue
      for (let q = 0; q < size; q++) covariance[p * size + q]! -= c * gained[r * size + q]!
    }
  return { ...belief, covariance }
}
