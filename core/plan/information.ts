import { AIM, BEARS_ON, OF_DISC, OF_HABIT } from '../rating/places.ts'
import { aimColumn, effectColumn } from '../rating/beliefs.ts'
import { AIM_LINE_SD, habitSdsOf } from '../rating/evidence.ts'
import type { Arm, ThrowEvidence } from '../rating/evidence.ts'
import type { MeasuringMethod } from '../throw/method.ts'
import { MAX_ROWS } from '../rating/observations.ts'
import type { FitState } from '../rating/state.ts'
import { discBorderCovariance, discCovariance } from '../rating/arrow.ts'
import { factorise, forward } from '../rating/cholesky.ts'
import { eliminate } from '../rating/eliminate.ts'
import { makeTerm, placeTerm } from '../rating/throwTerm.ts'
import { outingKey } from '../rating/warm.ts'
import { aimOf, armOf, discOf, flightOf, pointMeant } from '../rating/asThrown.ts'
import type { PlannedThrow } from '../rating/asThrown.ts'

/** A throw that could be made, and what would be seen of it. */
export interface Candidate extends PlannedThrow {
  readonly method?: MeasuringMethod
  readonly angleCalled?: boolean
  readonly hangTimed?: boolean
  readonly bendDrawn?: boolean
  readonly filmed?: boolean
  /** Of the wind about its log, where it is not logged as usual. */
  readonly windSdMps?: number
}

/** Share of its carry at which a bend is drawn, and points of a path that is filmed. */
const BEND_AT = 0.6
const FILMED = 60

/** What one throw would tell: whitened bearings on its disc, arm and outing, `rows` × BEARS_ON, and where those stand in a belief. */
export interface Information {
  readonly rows: number
  readonly bearing: Float64Array
  /** Places of the disc's numbers, the habit and the aim line in the belief. */
  readonly places: Int32Array
}

/** Joint covariance of all discs' numbers, all arms' habits and all aim lines, that of an outing to come last; mutable, so that throws can be added one by one. */
export interface Belief {
  readonly size: number
  readonly covariance: Float64Array
  readonly discs: readonly string[]
  readonly arms: readonly string[]
  readonly outings: readonly string[]
}

/** Where the unknowns of a throw stand in a belief: its disc's numbers, its arm's habit, its aim line. */
export function contrastPlaces(
  belief: Belief,
  discAt: number,
  armAt: number,
  thrown: Pick<PlannedThrow, 'outing'>,
): Int32Array {
  const habits = belief.discs.length * OF_DISC
  const aims = habits + belief.arms.length * OF_HABIT
  const known = belief.outings.indexOf(outingKey(thrown))
  return Int32Array.from({ length: BEARS_ON }, (_, k) => {
    if (k < OF_DISC) return discAt * OF_DISC + k
    if (k === AIM) return aims + (known < 0 ? belief.outings.length : known)
    return habits + armAt * OF_HABIT + k - OF_DISC
  })
}

/** What is believed after the throws so far, as one dense matrix. For trials, not for a whole shelf. */
export function beliefOf(state: FitState, also: readonly Arm[] = []): Belief {
  const { evidence, posterior } = state
  const fresh = also.filter((a) => !evidence.arms.some((b) => b.id === a.id))
  const discs = evidence.discs.map((d) => d.id)
  const [nd, na] = [discs.length, evidence.arms.length]
  const { outings } = state
  const habits = nd * OF_DISC
  const aims = habits + (na + fresh.length) * OF_HABIT
  const size = aims + outings.length + 1
  const covariance = new Float64Array(size * size)
  const set = (i: number, j: number, v: number) => {
    covariance[i * size + j] = v
    covariance[j * size + i] = v
  }
  /** Columns of the border that are believed in here, and their places. */
  const firstAim = aimColumn(na, state.kinship.effects.length, 0)
  const border = [
    ...Array.from({ length: effectColumn(na, 0) }, (_, q) => [q, habits + q] as const),
    ...outings.map((_, o) => [firstAim + o, aims + o] as const),
  ]
  for (let a = 0; a < nd; a++) {
    for (let b = 0; b <= a; b++) {
      const c = discCovariance(posterior, a, b)
      for (let i = 0; i < OF_DISC; i++)
        for (let j = 0; j < OF_DISC; j++) set(a * OF_DISC + i, b * OF_DISC + j, c[i * OF_DISC + j]!)
    }
    const cross = discBorderCovariance(posterior, a)
    for (let i = 0; i < OF_DISC; i++)
      for (const [q, place] of border) set(a * OF_DISC + i, place, cross[i * posterior.border + q]!)
  }
  for (const [p, one] of border)
    for (const [q, other] of border) set(one, other, posterior.sharedCovariance[p * posterior.border + q]!)
  fresh.forEach((a, f) => {
    habitSdsOf(a).forEach((sd, k) => {
      const at = habits + (na + f) * OF_HABIT + k
      set(at, at, sd * sd)
    })
  })
  set(size - 1, size - 1, AIM_LINE_SD ** 2)
  return { size, covariance, discs, arms: [...evidence.arms, ...fresh].map((a) => a.id), outings }
}

/** The bend or the path of a throw, as it is expected. */
function seenOfPath(
  state: FitState,
  candidate: Candidate,
  arms: readonly Arm[],
): Pick<ThrowEvidence, 'mid' | 'path'> {
  if (!candidate.bendDrawn && !candidate.filmed) return {}
  const { disc, point } = pointMeant(state, candidate, arms)
  const points = flightOf(disc.disc, point, candidate.air, FILMED)
  const end = points.at(-1)!.x
  return {
    ...(candidate.bendDrawn && { mid: { downM: BEND_AT * end, veerM: 0 } }),
    ...(candidate.filmed && {
      path: {
        downM: points.map((p) => p.x),
        veerM: points.map((p) => p.y),
        upM: points.map((p) => p.z),
        timeS: points.map((p) => p.t),
      },
    }),
  }
}

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
      ...(candidate.fadeSign && { fadeSign: candidate.fadeSign }),
      ...(candidate.method && { method: candidate.method }),
      ...(candidate.angleCalled && { hyzerCalledRad: candidate.hyzerRad }),
      ...(candidate.hangTimed && { hangS: 4 }),
      ...(candidate.windSdMps !== undefined && { windSdMps: candidate.windSdMps }),
      ...seenOfPath(state, candidate, arms),
    },
    disc,
    at,
    0,
    0,
    '',
  )
  placeTerm(term, state.numbers[at]!, arm.lnFull, arm.habit, aimOf(state, candidate).aim)
  eliminate(term)
  const scatter = Math.sqrt(arm.scale)
  return {
    rows: term.rows,
    bearing: term.bearing.map((v, i) => (i < term.seenRows * BEARS_ON ? v / scatter : v)),
    places: contrastPlaces(belief, at, armAt, candidate),
  }
}

/** One figure that is asked about, as places and weights in a belief. */
export interface Contrast {
  /** Of a difference of sides, m a 100 m; of a number less its label, in numbers; of a flight, m; of what the wind does, m a m/s. */
  readonly value: number
  /** Where the answer changes, ascending. */
  readonly bounds: readonly number[]
  readonly places: readonly (readonly [place: number, weight: number])[]
  /** What the model's own error leaves of the variance, whatever is thrown. */
  readonly floor: number
}

/** Variance of a contrast as it is believed, in the square of its unit, what the model's own error leaves included. */
export function contrastVariance(belief: Belief, { places, floor }: Contrast): number {
  let v = floor
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
export interface ContrastReach {
  readonly rows: Float64Array
  readonly now: Float64Array
}

/** How contrasts hang together with everything believed. */
export function contrastReachOf(belief: Belief, contrasts: readonly Contrast[]): ContrastReach {
  const { size, covariance } = belief
  const rows = new Float64Array(contrasts.length * size)
  contrasts.forEach(({ places }, c) => {
    for (const [p, w] of places)
      for (let q = 0; q < size; q++) rows[c * size + q]! += w * covariance[p * size + q]!
  })
  return { rows, now: Float64Array.from(contrasts, (c) => contrastVariance(belief, c)) }
}

const own = new Float64Array(MAX_ROWS * BEARS_ON)
const inner = new Float64Array(MAX_ROWS * MAX_ROWS)
const felt = new Float64Array(BEARS_ON)

/**
 * Variances of contrasts once a throw was made, without making it: what is left after the throw's rows, whitened by
 * I + B·Σ·Bᵀ = L·Lᵀ, have taken |(L⁻¹·B)·(Σ·contrast)|² away.
 */
export function variancesWith(belief: Belief, info: Information, reach: ContrastReach): Float64Array {
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
