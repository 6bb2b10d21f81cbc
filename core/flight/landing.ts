import { coefficientsOf, DRAG_GROWTH, INERTIA_SHARE, LIFT_SLOPE } from './disc.ts'
import type { Body, FlightNumbers } from './disc.ts'
import { REFERENCE_DENSITY } from './air.ts'
import { GRAVITY, SPIN_DECAY, STALL, STEEPEST_SIN } from './constants.ts'
import { POLYNOMIAL_UP_TO, RECIPROCAL_COS, STALL_RATIO } from './polynomials.ts'
import type { Air } from './air.ts'
import type { Release } from './release.ts'
import { tracePath } from './path.ts'

/** Where and when a flight ends, in the frame of the throw. */
export interface Landing {
  readonly carryM: number
  readonly veerM: number
  readonly hangS: number
  readonly apexM: number
}

// the inner loop reads them one by one: from an array they would be looked up every time
const [C0, C1, C2, C3, C4, C5] = RECIPROCAL_COS
const [S0, S1, S2, S3, S4, S5] = STALL_RATIO

/** Step as a share of the time in which the air decelerates the disc; keeps landings within 5 mm. */
const THETA = 0.22
/** No flight of a disc takes this many steps; a NaN would. */
export const MAX_STEPS = 400

/** Places in the result of {@link flyStraight}. */
export const CARRY = 0
export const VEER = 1
export const HANG = 2
export const MID = 3
export const APEX = 4
/** Length of the result of {@link flyStraight}. */
export const SEEN = 5

/** Values a log keeps of an instant: time, position, velocity over ground, and the normal's part to the fade side. */
export const LOGGED = 8
/** For flights nobody wants more of than the landing. */
export const NO_LOG = new Float64Array(0)
/** A log long enough for any flight. */
export const noDistances = (): Float64Array => new Float64Array((MAX_STEPS + 1) * LOGGED)

/**
 * The inner loop of the product: one flight in uniform wind without wobble, to its landing.
 *
 * Fourth-order Runge–Kutta in the air's frame with steps that follow the relaxation of the angle of attack,
 * a cubic Hermite landing, and polynomials in sin²α for 1/cos α and for the soft stall. Written out stage by
 * stage with scalar locals because that is several times as fast as anything tidier.
 *
 * Arguments are SI and radians in the frame of the throw (x downrange, y toward the fade side, z up).
 *
 * @param midX distance downrange at which the side of the path is wanted; 0 when it is not
 * @param out gets {@link SEEN} values: carry, veer, hang time, side at midX, apex
 * @param steps the step sizes: written when `replay` is 0, else read, so that a slightly different flight is
 *   integrated exactly like its neighbour and differences between the two are smooth
 * @param replay how many of `steps` to follow
 * @param log {@link NO_LOG}, or gets {@link LOGGED} values per step from the release on, the last just past the landing
 * @returns the number of steps taken; −1 when the disc did not come down
 */
// prettier-ignore
export function flyStraight(
  cd0: number, cl0: number, cm0: number, cma: number,
  mass: number, diameter: number, density: number, windX: number, windY: number,
  speed: number, launch: number, hyzer: number, nose: number, azimuth: number, spin: number, height: number,
  midX: number, out: Float64Array, steps: Float64Array, replay: number, log: Float64Array,
): number {
  const area = 0.25 * Math.PI * diameter * diameter
  const K = (0.5 * density * area) / mass
  const M = (0.5 * density * area * diameter) / (INERTIA_SHARE * mass * 0.25 * diameter * diameter)
  const D = (SPIN_DECAY * density) / REFERENCE_DENSITY
  const alpha0 = -cl0 / LIFT_SLOPE
  const c0 = Math.cos(alpha0)
  const s0 = Math.sin(alpha0)
  const g = GRAVITY

  const cosA = Math.cos(azimuth)
  const sinA = Math.sin(azimuth)
  const cosL = Math.cos(launch)
  const cosP = Math.cos(launch + nose)
  const sinP = Math.sin(launch + nose)
  const cosH = Math.cos(hyzer)
  const sinH = Math.sin(hyzer)
  // forward (cosA, sinA, 0), fade side (−sinA, cosA, 0), up (0, 0, 1)
  let ux = speed * cosL * cosA - windX
  let uy = speed * cosL * sinA - windY
  let uz = speed * Math.sin(launch)
  let nx = -cosH * sinP * cosA - sinH * sinA
  let ny = -cosH * sinP * sinA + sinH * cosA
  let nz = cosH * cosP
  let w = 1 / spin
  let x = 0
  let y = 0
  let z = height
  let t = 0
  let mid = Number.NaN
  let apex = height
  const logging = log.length > 0
  if (logging) note(log, 0, t, x, y, z, ux + windX, uy + windY, uz, ny)

  let V: number, V2: number, sa: number, q: number, ic: number, tp: number
  let lift: number, sd: number, a1: number, a2: number, m1: number

  for (let i = 0; i < MAX_STEPS; i++) {
    // stage 1
    V2 = ux * ux + uy * uy + uz * uz
    V = Math.sqrt(V2)
    let h: number
    if (i < replay) h = steps[i]!
    else {
      const rate = K * V
      const ease = 0.6 + 0.7 * rate * t
      h = (THETA * (ease < 2 ? ease : 2)) / rate
      steps[i] = h
    }
    sa = -(ux * nx + uy * ny + uz * nz) / V
    q = sa * sa
    if (q < POLYNOMIAL_UP_TO) {
      ic = C0 + q * (C1 + q * (C2 + q * (C3 + q * (C4 + q * C5))))
      tp = S0 + q * (S1 + q * (S2 + q * (S3 + q * (S4 + q * S5))))
    } else {
      if (sa > STEEPEST_SIN) sa = STEEPEST_SIN
      else if (sa < -STEEPEST_SIN) sa = -STEEPEST_SIN
      q = sa * sa
      ic = 1 / Math.sqrt(1 - q)
      tp = (STALL * Math.tanh(Math.asin(sa) / STALL) * ic) / sa
    }
    lift = cl0 * ic + LIFT_SLOPE * sa * tp
    sd = sa * c0 - (1 - q) * ic * s0
    a1 = K * V2 * lift
    a2 = K * V * (lift * sa - cd0 - DRAG_GROWTH * sd * sd)
    m1 = M * V * (cm0 * ic + cma * sa * tp) * w
    const ax1 = a1 * nx + a2 * ux
    const ay1 = a1 * ny + a2 * uy
    const az1 = a1 * nz + a2 * uz - g
    const bx1 = m1 * (ny * uz - nz * uy)
    const by1 = m1 * (nz * ux - nx * uz)
    const bz1 = m1 * (nx * uy - ny * ux)
    const w1 = D * V2 * w

    // stage 2
    const h2 = 0.5 * h
    let px = ux + h2 * ax1
    let py = uy + h2 * ay1
    let pz = uz + h2 * az1
    let ox = nx + h2 * bx1
    let oy = ny + h2 * by1
    let oz = nz + h2 * bz1
    let ow = w + h2 * w1
    V2 = px * px + py * py + pz * pz
    V = Math.sqrt(V2)
    sa = -(px * ox + py * oy + pz * oz) / V
    q = sa * sa
    if (q < POLYNOMIAL_UP_TO) {
      ic = C0 + q * (C1 + q * (C2 + q * (C3 + q * (C4 + q * C5))))
      tp = S0 + q * (S1 + q * (S2 + q * (S3 + q * (S4 + q * S5))))
    } else {
      if (sa > STEEPEST_SIN) sa = STEEPEST_SIN
      else if (sa < -STEEPEST_SIN) sa = -STEEPEST_SIN
      q = sa * sa
      ic = 1 / Math.sqrt(1 - q)
      tp = (STALL * Math.tanh(Math.asin(sa) / STALL) * ic) / sa
    }
    lift = cl0 * ic + LIFT_SLOPE * sa * tp
    sd = sa * c0 - (1 - q) * ic * s0
    a1 = K * V2 * lift
    a2 = K * V * (lift * sa - cd0 - DRAG_GROWTH * sd * sd)
    m1 = M * V * (cm0 * ic + cma * sa * tp) * ow
    const ax2 = a1 * ox + a2 * px
    const ay2 = a1 * oy + a2 * py
    const az2 = a1 * oz + a2 * pz - g
    const bx2 = m1 * (oy * pz - oz * py)
    const by2 = m1 * (oz * px - ox * pz)
    const bz2 = m1 * (ox * py - oy * px)
    const w2 = D * V2 * ow

    // stage 3
    px = ux + h2 * ax2
    py = uy + h2 * ay2
    pz = uz + h2 * az2
    ox = nx + h2 * bx2
    oy = ny + h2 * by2
    oz = nz + h2 * bz2
    ow = w + h2 * w2
    V2 = px * px + py * py + pz * pz
    V = Math.sqrt(V2)
    sa = -(px * ox + py * oy + pz * oz) / V
    q = sa * sa
    if (q < POLYNOMIAL_UP_TO) {
      ic = C0 + q * (C1 + q * (C2 + q * (C3 + q * (C4 + q * C5))))
      tp = S0 + q * (S1 + q * (S2 + q * (S3 + q * (S4 + q * S5))))
    } else {
      if (sa > STEEPEST_SIN) sa = STEEPEST_SIN
      else if (sa < -STEEPEST_SIN) sa = -STEEPEST_SIN
      q = sa * sa
      ic = 1 / Math.sqrt(1 - q)
      tp = (STALL * Math.tanh(Math.asin(sa) / STALL) * ic) / sa
    }
    lift = cl0 * ic + LIFT_SLOPE * sa * tp
    sd = sa * c0 - (1 - q) * ic * s0
    a1 = K * V2 * lift
    a2 = K * V * (lift * sa - cd0 - DRAG_GROWTH * sd * sd)
    m1 = M * V * (cm0 * ic + cma * sa * tp) * ow
    const ax3 = a1 * ox + a2 * px
    const ay3 = a1 * oy + a2 * py
    const az3 = a1 * oz + a2 * pz - g
    const bx3 = m1 * (oy * pz - oz * py)
    const by3 = m1 * (oz * px - ox * pz)
    const bz3 = m1 * (ox * py - oy * px)
    const w3 = D * V2 * ow

    // stage 4
    px = ux + h * ax3
    py = uy + h * ay3
    pz = uz + h * az3
    ox = nx + h * bx3
    oy = ny + h * by3
    oz = nz + h * bz3
    ow = w + h * w3
    V2 = px * px + py * py + pz * pz
    V = Math.sqrt(V2)
    sa = -(px * ox + py * oy + pz * oz) / V
    q = sa * sa
    if (q < POLYNOMIAL_UP_TO) {
      ic = C0 + q * (C1 + q * (C2 + q * (C3 + q * (C4 + q * C5))))
      tp = S0 + q * (S1 + q * (S2 + q * (S3 + q * (S4 + q * S5))))
    } else {
      if (sa > STEEPEST_SIN) sa = STEEPEST_SIN
      else if (sa < -STEEPEST_SIN) sa = -STEEPEST_SIN
      q = sa * sa
      ic = 1 / Math.sqrt(1 - q)
      tp = (STALL * Math.tanh(Math.asin(sa) / STALL) * ic) / sa
    }
    lift = cl0 * ic + LIFT_SLOPE * sa * tp
    sd = sa * c0 - (1 - q) * ic * s0
    a1 = K * V2 * lift
    a2 = K * V * (lift * sa - cd0 - DRAG_GROWTH * sd * sd)
    m1 = M * V * (cm0 * ic + cma * sa * tp) * ow

    // positions need no stages of their own: r += h·u + h²/6·(a1 + a2 + a3)
    const h6 = h / 6
    const hh6 = h * h6
    const dx = h * (ux + windX) + hh6 * (ax1 + ax2 + ax3)
    const dy = h * (uy + windY) + hh6 * (ay1 + ay2 + ay3)
    const dz = h * uz + hh6 * (az1 + az2 + az3)
    const vx0 = ux + windX
    const vy0 = uy + windY
    const vz0 = uz
    ux += h6 * (ax1 + 2 * (ax2 + ax3) + a1 * ox + a2 * px)
    uy += h6 * (ay1 + 2 * (ay2 + ay3) + a1 * oy + a2 * py)
    uz += h6 * (az1 + 2 * (az2 + az3) + a1 * oz + a2 * pz - g)
    nx += h6 * (bx1 + 2 * (bx2 + bx3) + m1 * (oy * pz - oz * py))
    ny += h6 * (by1 + 2 * (by2 + by3) + m1 * (oz * px - ox * pz))
    nz += h6 * (bz1 + 2 * (bz2 + bz3) + m1 * (ox * py - oy * px))
    w += h6 * (w1 + 2 * (w2 + w3) + D * V2 * ow)
    const norm = 1.5 - 0.5 * (nx * nx + ny * ny + nz * nz)
    nx *= norm
    ny *= norm
    nz *= norm

    if (logging) note(log, i + 1, t + h, x + dx, y + dy, z + dz, ux + windX, uy + windY, uz, ny)
    const down = i < replay ? i === replay - 1 : z + dz <= 0 && uz < 0
    const turned = vz0 > 0 && uz <= 0
    const passed = midX > 0 && x < midX && x + dx >= midX
    if (down || turned || passed) {
      if (turned) apex = z + hermite(0, dz, h * vz0, h * uz, extreme(dz, h * vz0, h * uz))
      if (passed) {
        const s = root(-(midX - x), -(midX - x) + dx, h * vx0, h * (ux + windX))
        mid = y + hermite(0, dy, h * vy0, h * (uy + windY), s)
      }
      if (down) {
        const s = root(z, z + dz, h * vz0, h * uz)
        out[CARRY] = x + hermite(0, dx, h * vx0, h * (ux + windX), s)
        out[VEER] = y + hermite(0, dy, h * vy0, h * (uy + windY), s)
        out[HANG] = t + s * h
        // a path that came down before midX is carried on along its last heading
        out[MID] = midX > 0 && Number.isNaN(mid) ? out[VEER] + ((midX - out[CARRY]) * (uy + windY)) / (ux + windX) : mid
        out[APEX] = apex
        return i + 1
      }
    }
    x += dx
    y += dy
    z += dz
    t += h
  }
  out[CARRY] = x
  out[VEER] = y
  out[HANG] = t
  out[MID] = Number.isNaN(mid) ? y : mid
  out[APEX] = apex
  return -1
}

// prettier-ignore
function note(
  log: Float64Array, i: number, t: number,
  x: number, y: number, z: number, vx: number, vy: number, vz: number, ny: number,
): void {
  const at = i * LOGGED
  log[at] = t
  log[at + 1] = x
  log[at + 2] = y
  log[at + 3] = z
  log[at + 4] = vx
  log[at + 5] = vy
  log[at + 6] = vz
  log[at + 7] = ny
}

/** Cubic Hermite on [0, 1] with end values p0, p1 and end slopes m0, m1. */
export function hermite(p0: number, p1: number, m0: number, m1: number, s: number): number {
  const d = p1 - p0
  return p0 + s * (m0 + s * (3 * d - 2 * m0 - m1 + s * (m0 + m1 - 2 * d)))
}

/** Where the cubic Hermite through p0 and p1 crosses zero; Newton from the chord, left free to step just outside [0, 1]. */
export function root(p0: number, p1: number, m0: number, m1: number): number {
  const d = p1 - p0
  const b = 3 * d - 2 * m0 - m1
  const c = m0 + m1 - 2 * d
  let s = -p0 / d
  for (let k = 0; k < 8; k++) {
    const ds = (p0 + s * (m0 + s * (b + s * c))) / (m0 + s * (2 * b + 3 * s * c))
    s -= ds
    if (ds < 1e-13 && ds > -1e-13) break
  }
  return s
}

/** Where the slope of a cubic Hermite that rises by d vanishes between a rising and a falling end. */
function extreme(d: number, m0: number, m1: number): number {
  const b = 3 * d - 2 * m0 - m1
  const c = 3 * (m0 + m1 - 2 * d)
  const disc = Math.sqrt(Math.max(0, b * b - c * m0))
  return m0 / (-b + disc)
}

const landed = new Float64Array(SEEN)
const ownSteps = new Float64Array(MAX_STEPS)

/**
 * Landing of one flight, in the frame of the throw.
 *
 * Uniform wind without wobble takes the fast loop (within 5 mm of an exact integration over the plausible
 * range); shear or wobble take the recorded path.
 *
 * @throws RangeError when the disc does not come down within {@link MAX_STEPS} steps (an absurd input)
 */
export function landing(numbers: FlightNumbers, body: Body, release: Release, air: Air): Landing {
  if (air.shearExponent !== 0 || release.wobble !== 0) {
    const path = tracePath(numbers, body, release, air)
    return { carryM: path.carryM, veerM: path.veerM, hangS: path.hangS, apexM: path.apexM }
  }
  const c = coefficientsOf(numbers)
  // prettier-ignore
  const taken = flyStraight(
    c.cd0, c.cl0, c.cm0, c.cma, body.massKg, body.diameterM, air.densityKgM3, air.windAlongMps, air.windTowardFadeMps,
    release.speedMps, release.launchRad, release.hyzerRad, release.noseRad, release.azimuthRad, release.spinRadps, release.heightM,
    0, landed, ownSteps, 0, NO_LOG,
  )
  if (taken < 0)
    throw new RangeError('The disc does not come down with this release: check speed, angles and numbers.')
  return { carryM: landed[CARRY]!, veerM: landed[VEER]!, hangS: landed[HANG]!, apexM: landed[APEX]! }
}
