import { coefficientsOf } from '../flight/disc.ts'
import type { Body } from '../flight/disc.ts'
import { glimpse, glimpsesOf } from '../flight/glimpses.ts'
import {
  APEX,
  CARRY,
  noDistances,
  flyStraight,
  HANG,
  MAX_STEPS,
  MID,
  NO_LOG,
  SEEN,
  VEER,
} from '../flight/landing.ts'
import { RELEASE_HEIGHT, SPIN_PER_MPS } from '../flight/release.ts'
import { AT, OF_DISC, POINT } from './places.ts'

/** Things every flight shows: carry, veer, hang time, side at a distance, apex. */
export { SEEN }
/** Things it shows where banks and distances passed are wanted too: those, then the glimpses at its marks. */
export const shownWith = (marks: Float64Array | undefined): number =>
  marks === undefined ? SEEN : SEEN + glimpsesOf(marks.length)

/** What a flight depends on besides the point: the same for every point that is tried of one throw. */
export interface Circumstances {
  /** The disc's speed number. */
  readonly speed: number
  readonly body: Body
  readonly densityKgM3: number
  /** Distance at which the path's side was seen, m; 0 when it was not. */
  readonly midX: number
  /** Spin where it was measured, rad/s; 0 where it follows the release speed and the arm. */
  readonly spinRadps: number
}

const LIMITS: readonly (readonly [number, number])[] = [
  [-1, 9],
  [-8, 4],
  [-3, 9],
  [Math.log(4), Math.log(45)],
  [-0.2, 0.8],
  [-1.3, 1.3],
  [-0.35, 0.5],
  [-0.6, 0.6],
  [-25, 25],
  [-25, 25],
  [-0.7, 0.7],
]

/** Steps of the forward differences: tiny, on the base flight's own step sizes, so as good as tangents. */
const NUDGE: readonly number[] = [1e-5, 1e-5, 1e-5, 1e-6, 1e-6, 1e-6, 1e-6, 1e-6, 1e-5, 1e-5, 1e-5]
/** No plausible flight changes faster than this with anything. */
const STEEPEST = 1e6

const landed = new Float64Array(SEEN)
const steps = new Float64Array(MAX_STEPS)
const log = noDistances()
let out = new Float64Array(SEEN)
let base = new Float64Array(SEEN)
let glimpsed = new Float64Array(0)
const point = new Float64Array(POINT)

/** Keeps a point where flights end; wild throws must not stop the fit. @param count of its coordinates, from the first */
export function clampPoint(p: Float64Array, count = POINT): void {
  for (let i = 0; i < count; i++) {
    const [low, high] = LIMITS[i]!
    if (!(p[i]! >= low)) p[i] = low
    else if (p[i]! > high) p[i] = high
  }
}
/** Keeps a disc's glide, turn and fade there: beyond, flights no longer follow them, and nothing would bring them back. */
export const clampNumbers = (numbers: Float64Array): void => clampPoint(numbers, OF_DISC)

/** Flies once and leaves what is wanted of it in `out`; returns the number of steps. */
function fly(
  { speed, body, densityKgM3, midX, spinRadps }: Circumstances,
  p: Float64Array,
  replay: number,
  marks: Float64Array | undefined,
): number {
  const c = coefficientsOf({ speed, glide: p[AT.glide]!, turn: p[AT.turn]!, fade: p[AT.fade]! })
  const v = Math.exp(p[AT.lnSpeed]!)
  // prettier-ignore
  const taken = flyStraight(
    c.cd0, c.cl0, c.cm0, c.cma, body.massKg, body.diameterM, densityKgM3, p[AT.along]!, p[AT.toFade]!,
    v, p[AT.launch]!, p[AT.hyzer]!, p[AT.nose]!, p[AT.azimuth]!, spinRadps || SPIN_PER_MPS * v * Math.exp(p[AT.lnSpin]!), RELEASE_HEIGHT,
    midX, landed, steps, replay, marks === undefined ? NO_LOG : log,
  )
  const count = shownWith(marks)
  if (out.length !== count) {
    out = new Float64Array(count)
    base = new Float64Array(count)
    glimpsed = out.subarray(SEEN)
  }
  out.set(landed)
  if (marks !== undefined) {
    if (taken > 0) glimpse(log, taken, landed, marks, glimpsed)
    else glimpsed.fill(0)
  }
  return taken
}

/** A flight that never comes down shows nothing and follows nothing; its throw fits nothing and is weighed so. */
function settleFinite(seen: Float64Array): void {
  for (let i = 0; i < seen.length; i++) if (!Number.isFinite(seen[i]!)) seen[i] = 0
}

/**
 * What a flight shows at a point, without derivatives: writes {@link shownWith} values into `seen`.
 *
 * @param p the point, clamped in place
 */
export function flyPoint(
  circumstances: Circumstances,
  p: Float64Array,
  seen: Float64Array,
  marks?: Float64Array,
): void {
  clampPoint(p)
  fly(circumstances, p, 0, marks)
  seen.set(out)
  settleFinite(seen)
}

/** Takes the steps of a flight two at a time; returns how many there are then. */
function doubled(taken: number): number {
  const half = Math.ceil(taken / 2)
  for (let i = 0; i < half; i++) steps[i] = steps[2 * i]! + (2 * i + 1 < taken ? steps[2 * i + 1]! : 0)
  return Math.max(half, 0)
}

/**
 * What a flight shows at a point and its derivatives, by eleven more flights on steps twice as long.
 *
 * Azimuth needs none for a landing: turning the throw is turning the wind the other way and the landing with it.
 *
 * @param p the point, {@link POINT} values, clamped in place
 * @param seen gets {@link shownWith} values
 * @param jacobian gets as many × POINT derivatives, row by row
 * @param marks distances at which the path was seen, m, where glimpses are wanted
 */
export function linearise(
  circumstances: Circumstances,
  p: Float64Array,
  seen: Float64Array,
  jacobian: Float64Array,
  marks?: Float64Array,
): void {
  clampPoint(p)
  const { midX, spinRadps } = circumstances
  const taken = fly(circumstances, p, 0, marks)
  const count = out.length
  seen.set(out)
  point.set(p)
  // differences between neighbours on the same steps hardly mind long ones; paths are read between steps and do
  const replay = marks === undefined ? doubled(taken) : Math.max(taken, 0)
  if (replay !== taken) fly(circumstances, point, replay, marks)
  base.set(out)
  for (let j = 0; j < POINT; j++) {
    const h = NUDGE[j]!
    if (j === AT.azimuth && marks === undefined) continue
    if (j === AT.lnSpin && spinRadps > 0) {
      for (let i = 0; i < count; i++) jacobian[i * POINT + j] = 0
      continue
    }
    point[j] = p[j]! + h
    fly(circumstances, point, replay, marks)
    point[j] = p[j]!
    for (let i = 0; i < count; i++) jacobian[i * POINT + j] = (out[i]! - base[i]!) / h
  }
  const windX = p[AT.along]!
  const windY = p[AT.toFade]!
  if (marks === undefined)
    for (let i = 0; i < SEEN; i++) {
      const turned = i === CARRY ? -seen[VEER]! : i === VEER ? seen[CARRY]! : i === MID ? midX : 0
      const row = i * POINT
      jacobian[row + AT.azimuth] =
        turned + jacobian[row + AT.along]! * windY - jacobian[row + AT.toFade]! * windX
    }
  if (midX <= 0) jacobian.fill(0, MID * POINT, (MID + 1) * POINT)
  settleFinite(seen)
  for (let i = 0; i < count * POINT; i++) if (!(Math.abs(jacobian[i]!) < STEEPEST)) jacobian[i] = 0
}

/** Rows of what a flight shows, in the order the fit stacks them. */
export const SEEN_ROWS = { carry: CARRY, veer: VEER, hang: HANG, mid: MID, apex: APEX } as const
