import { DEGREE } from './units.ts'
import { coefficientsOf, DRAG_GROWTH, INERTIA_SHARE, LIFT_SLOPE } from './disc.ts'
import type { Body, Coefficients, FlightNumbers } from './disc.ts'
import { REFERENCE_DENSITY, WIND_HEIGHT } from './air.ts'
import { GRAVITY, SPIN_DECAY, STALL, STEEPEST_SIN, WOBBLE } from './constants.ts'
import type { Air } from './air.ts'
import type { Release } from './release.ts'

/** A point of a flight seen from above, m: downrange, toward the fade side. */
export interface PlanPoint {
  readonly x: number
  readonly y: number
}

/** Values kept per instant: position (3), velocity (3), disc normal (3), spin. */
export const STATE = 10
const MAX_ROWS = 600
/** Finer than the fast loop's: paths are drawn and measured, not optimised. */
const THETA = 0.15

/** A flight recorded from hand to ground, in the frame of the throw. */
export interface Path {
  /** Instants, s; the last is the landing. */
  readonly t: Float64Array
  /** Rows of x, y, z (m), vx, vy, vz (m/s, over ground), nx, ny, nz, spin (rad/s); one per instant. */
  readonly states: Float64Array
  /** Time derivatives of the same values, for Hermite interpolation. */
  readonly rates: Float64Array
  readonly carryM: number
  readonly veerM: number
  readonly hangS: number
  readonly apexM: number
}

/** How a disc's aerodynamics differ from the model; for asking what a rating does where nature is not as it believes. */
export interface Oddities {
  /** Drag and lift against the model's. */
  readonly drag: number
  readonly lift: number
  /** Pitching moment that grows with the cube of the angle of attack, per rad³. */
  readonly cubicMoment: number
}
const AS_MODELLED: Oddities = { drag: 1, lift: 1, cubicMoment: 0 }

/** What a watcher would say of a path. */
export interface PathFeatures {
  readonly carryM: number
  /** Veer at landing, m, positive to the fade side. */
  readonly veerM: number
  /** Veer where 60 % of the carry is flown, m. */
  readonly veerAt60M: number
  /** Furthest the path gets to the turn side, m (≤ 0; 0 if it never does), ends included. */
  readonly widestTurnM: number
  /** Where that is, m downrange. */
  readonly widestTurnAtM: number
  readonly apexM: number
  readonly hangS: number
  /** Tilt toward the fade side when it lands, rad. */
  readonly endBankRad: number
  readonly minBankRad: number
  readonly maxBankRad: number
  /** Ground speed at landing, m/s. */
  readonly endSpeedMps: number
  /** Released on hyzer, came up to within 2° of flat or past it. */
  readonly stoodUp: boolean
}

/**
 * Time derivative of the state, exactly as the model states it (no polynomials), with wind shear and wobble.
 *
 * Gyroscopic precession in place of full rigid-body rotation, which holds while spin is fast.
 */
export function deriveState(
  c: Coefficients,
  body: Body,
  air: Air,
  wobble: number,
  t: number,
  s: Float64Array,
  d: Float64Array,
  { drag: more, lift: up, cubicMoment }: Oddities = AS_MODELLED,
): void {
  const { massKg: m, diameterM } = body
  const area = (Math.PI / 4) * diameterM ** 2
  const inertia = INERTIA_SHARE * m * (diameterM / 2) ** 2
  const shear = air.shearExponent === 0 ? 1 : (Math.max(s[2]!, 0.1) / WIND_HEIGHT) ** air.shearExponent
  const ux = s[3]! - air.windAlongMps * shear
  const uy = s[4]! - air.windTowardFadeMps * shear
  const uz = s[5]!
  const nx = s[6]!
  const ny = s[7]!
  const nz = s[8]!
  const spin = s[9]!
  const V = Math.hypot(ux, uy, uz)
  const hx = ux / V
  const hy = uy / V
  const hz = uz / V
  const sin = Math.max(-STEEPEST_SIN, Math.min(STEEPEST_SIN, -(hx * nx + hy * ny + hz * nz)))
  const alpha = Math.asin(sin)
  const cos = Math.sqrt(1 - sin * sin)
  const a = STALL * Math.tanh(alpha / STALL)
  const W = wobble === 0 ? 0 : wobble * Math.exp(-t / WOBBLE.lastsS)
  const CL = c.cl0 + LIFT_SLOPE * a
  const CD = c.cd0 * (1 + WOBBLE.drag * W) + DRAG_GROWTH * Math.sin(alpha + c.cl0 / LIFT_SLOPE) ** 2
  const CM = c.cm0 - WOBBLE.moment * W + c.cma * a + cubicMoment * a ** 3
  const q = 0.5 * air.densityKgM3 * V * V * area
  const lift = up * (q / m) * (CL / cos)
  const drag = more * (q / m) * CD
  d[0] = s[3]!
  d[1] = s[4]!
  d[2] = s[5]!
  d[3] = lift * (nx + sin * hx) - drag * hx
  d[4] = lift * (ny + sin * hy) - drag * hy
  d[5] = lift * (nz + sin * hz) - drag * hz - GRAVITY
  const precession = (q * diameterM * CM) / (inertia * spin * cos)
  d[6] = precession * (ny * hz - nz * hy)
  d[7] = precession * (nz * hx - nx * hz)
  d[8] = precession * (nx * hy - ny * hx)
  d[9] = (-SPIN_DECAY * V * V * spin * air.densityKgM3) / REFERENCE_DENSITY
}

/** The state of a flight as it leaves the hand, in the layout of {@link STATE}: m, m/s, the disc's normal, spin in rad/s. */
export function startState(r: Release): Float64Array {
  const cosA = Math.cos(r.azimuthRad)
  const sinA = Math.sin(r.azimuthRad)
  const pitch = r.launchRad + r.noseRad
  const forward = -Math.cos(r.hyzerRad) * Math.sin(pitch)
  const fadeward = Math.sin(r.hyzerRad)
  return Float64Array.of(
    0,
    0,
    r.heightM,
    r.speedMps * Math.cos(r.launchRad) * cosA,
    r.speedMps * Math.cos(r.launchRad) * sinA,
    r.speedMps * Math.sin(r.launchRad),
    forward * cosA - fadeward * sinA,
    forward * sinA + fadeward * cosA,
    Math.cos(r.hyzerRad) * Math.cos(pitch),
    r.spinRadps,
  )
}

/**
 * Flies one throw and records it, with shear and wobble, by fourth-order Runge–Kutta whose step follows the
 * relaxation of the angle of attack.
 *
 * @throws RangeError when the disc does not come down (an absurd input)
 */
export function tracePath(
  numbers: FlightNumbers,
  body: Body,
  release: Release,
  air: Air,
  oddities: Oddities = AS_MODELLED,
): Path {
  const c = coefficientsOf(numbers)
  const K = (0.5 * air.densityKgM3 * (Math.PI / 4) * body.diameterM ** 2) / body.massKg
  const t = new Float64Array(MAX_ROWS)
  const states = new Float64Array(MAX_ROWS * STATE)
  const rates = new Float64Array(MAX_ROWS * STATE)
  const row = (a: Float64Array, i: number) => a.subarray(i * STATE, (i + 1) * STATE)
  const k2 = new Float64Array(STATE)
  const k3 = new Float64Array(STATE)
  const k4 = new Float64Array(STATE)
  const probe = new Float64Array(STATE)
  states.set(startState(release))
  deriveState(c, body, air, release.wobble, 0, row(states, 0), row(rates, 0), oddities)
  for (let i = 0; i + 1 < MAX_ROWS; i++) {
    const now = t[i]!
    const s = row(states, i)
    const k1 = row(rates, i)
    const next = row(states, i + 1)
    const V = Math.hypot(s[3]! - air.windAlongMps, s[4]! - air.windTowardFadeMps, s[5]!)
    const h = (THETA * Math.min(2, 0.6 + 0.7 * K * V * now)) / (K * V)
    for (let j = 0; j < STATE; j++) probe[j] = s[j]! + (h / 2) * k1[j]!
    deriveState(c, body, air, release.wobble, now + h / 2, probe, k2, oddities)
    for (let j = 0; j < STATE; j++) probe[j] = s[j]! + (h / 2) * k2[j]!
    deriveState(c, body, air, release.wobble, now + h / 2, probe, k3, oddities)
    for (let j = 0; j < STATE; j++) probe[j] = s[j]! + h * k3[j]!
    deriveState(c, body, air, release.wobble, now + h, probe, k4, oddities)
    for (let j = 0; j < STATE; j++) next[j] = s[j]! + (h / 6) * (k1[j]! + 2 * (k2[j]! + k3[j]!) + k4[j]!)
    const norm = Math.hypot(next[6]!, next[7]!, next[8]!)
    for (let j = 6; j < 9; j++) next[j]! /= norm
    t[i + 1] = now + h
    deriveState(c, body, air, release.wobble, now + h, next, row(rates, i + 1), oddities)
    if (!Number.isFinite(next[2]!)) break
    if (next[2]! <= 0 && next[5]! < 0) {
      const f = crossing((u) => between(s[2]!, next[2]!, h * s[5]!, h * next[5]!, u))
      const end = new Float64Array(STATE)
      for (let j = 0; j < STATE; j++)
        end[j] = between(s[j]!, next[j]!, h * k1[j]!, h * rates[(i + 1) * STATE + j]!, f)
      end[2] = 0
      next.set(end)
      t[i + 1] = now + f * h
      deriveState(c, body, air, release.wobble, now + f * h, next, row(rates, i + 1), oddities)
      const rows = i + 2
      const path = {
        t: t.slice(0, rows),
        states: states.slice(0, rows * STATE),
        rates: rates.slice(0, rows * STATE),
      }
      return {
        ...path,
        carryM: end[0]!,
        veerM: end[1]!,
        hangS: t[i + 1]!,
        apexM: extremeOf(path, 2, 1).value,
      }
    }
  }
  throw new RangeError('The disc does not come down with this release: check speed, angles and numbers.')
}

/** Cubic Hermite on [0, 1]; slopes are per unit of u. */
function between(p0: number, p1: number, m0: number, m1: number, u: number): number {
  const d = p1 - p0
  return p0 + u * (m0 + u * (3 * d - 2 * m0 - m1 + u * (m0 + m1 - 2 * d)))
}

/** Zero of a function that falls from positive at 0 to negative at 1, by bisection to rounding. */
function crossing(f: (u: number) => number): number {
  let low = 0
  let high = 1
  for (let i = 0; i < 52; i++) {
    const middle = (low + high) / 2
    if (f(middle) > 0) low = middle
    else high = middle
  }
  return (low + high) / 2
}

type Recorded = Pick<Path, 't' | 'states' | 'rates'>

/** Value `j` of the state at instant `time`, by cubic Hermite. */
function at(path: Recorded, j: number, time: number): number {
  const { t, states, rates } = path
  let i = 0
  while (i + 2 < t.length && t[i + 1]! < time) i++
  const h = t[i + 1]! - t[i]!
  const p = i * STATE + j
  return between(states[p]!, states[p + STATE]!, h * rates[p]!, h * rates[p + STATE]!, (time - t[i]!) / h)
}

/** The largest (`sense` 1) or smallest (−1) of a state value over the path, ends included, and when. */
function extremeOf(path: Recorded, j: number, sense: 1 | -1): { value: number; time: number } {
  const { t, states, rates } = path
  let best = sense * states[j]!
  let time = 0
  for (let i = 0; i + 1 < t.length; i++) {
    const p = i * STATE + j
    const h = t[i + 1]! - t[i]!
    const m0 = sense * h * rates[p]!
    const m1 = sense * h * rates[p + STATE]!
    if (m0 > 0 && m1 < 0) {
      const p0 = sense * states[p]!
      const p1 = sense * states[p + STATE]!
      const d = p1 - p0
      const b = 3 * d - 2 * m0 - m1
      const c = 3 * (m0 + m1 - 2 * d)
      const u = m0 / (-b + Math.sqrt(Math.max(0, b * b - c * m0)))
      const value = between(p0, p1, m0, m1, u)
      if (value > best) {
        best = value
        time = t[i]! + u * h
      }
    }
    if (sense * states[p + STATE]! > best) {
      best = sense * states[p + STATE]!
      time = t[i + 1]!
    }
  }
  return { value: sense * best, time }
}

const STOOD_UP = 2 * DEGREE

/** Reads the features of a recorded path. Banks are asin of the normal's fade-side part. */
export function pathFeatures(path: Path): PathFeatures {
  const last = path.t.length - 1
  const end = path.states.subarray(last * STATE)
  const widest = extremeOf(path, 1, -1)
  const bank = (n: number) => Math.asin(Math.max(-1, Math.min(1, n)))
  const minBankRad = bank(extremeOf(path, 7, -1).value)
  const released = bank(path.states[7]!)
  return {
    carryM: path.carryM,
    veerM: path.veerM,
    veerAt60M: veerAt(path, 0.6 * path.carryM),
    widestTurnM: Math.min(0, widest.value),
    widestTurnAtM: widest.value < 0 ? at(path, 0, widest.time) : 0,
    apexM: path.apexM,
    hangS: path.hangS,
    endBankRad: bank(end[7]!),
    minBankRad,
    maxBankRad: bank(extremeOf(path, 7, 1).value),
    endSpeedMps: Math.hypot(end[3]!, end[4]!, end[5]!),
    stoodUp: released > STOOD_UP && minBankRad <= STOOD_UP,
  }
}

/**
 * Veer of a path where it first passes a distance downrange, m.
 *
 * @param downM distance along the aim line, 0 … carry; beyond, the landing's veer
 */
export function veerAt(path: Path, downM: number): number {
  const { t, states } = path
  for (let i = 0; i + 1 < t.length; i++) {
    if (states[(i + 1) * STATE]! < downM) continue
    const h = t[i + 1]! - t[i]!
    const u = crossing((v) => downM - at(path, 0, t[i]! + v * h))
    return at(path, 1, t[i]! + u * h)
  }
  return path.veerM
}

/** A point of a path: time s, then metres downrange, toward the fade side, above ground, and bank in radians. */
export interface PathPoint {
  readonly t: number
  readonly x: number
  readonly y: number
  readonly z: number
  readonly bankRad: number
}

/** `count` points of a path, evenly spaced in time, first and last included. */
export function pathPoints(path: Path, count = 48): PathPoint[] {
  return Array.from({ length: count }, (_, i) => {
    const t = (path.hangS * i) / (count - 1)
    return { t, x: at(path, 0, t), y: at(path, 1, t), z: at(path, 2, t), bankRad: Math.asin(at(path, 7, t)) }
  })
}
