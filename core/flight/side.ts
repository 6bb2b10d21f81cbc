import { REFERENCE_DENSITY, STILL_AIR } from './air.ts'
import { coefficientsOf, STANDARD_BODY } from './disc.ts'
import type { FlightNumbers } from './disc.ts'
import { CARRY, noDistances, flyStraight, HANG, LOGGED, MAX_STEPS, SEEN, VEER } from './landing.ts'
import { tracePath, pathPoints } from './path.ts'
import type { Oddities, Path } from './path.ts'
import { cleanRelease, REFERENCE_LAUNCH, referenceSpeed, RELEASE_HEIGHT, SPIN_PER_MPS } from './release.ts'
import { DEGREE } from './units.ts'

/**
 * Where a disc flies: what a practitioner means who calls it more or less stable. Thrown at its reference release at hyzer,
 * flat and anhyzer in still reference air, a standard body; metres to the fade side a 100 m of carry, averaged over the three.
 */
export interface Side {
  /** Mean over the flight. */
  readonly side: number
  /** Where it lands. */
  readonly finish: number
}

/** Release angles over which a disc's side is taken, rad of hyzer. */
const SIDE_ANGLES = [10, 0, -8].map((deg) => deg * DEGREE)
/** Places in what {@link fly} tells of a disc. */
const SIDE = 0
const FINISH = 1
/** A side is told of so many metres of carry. */
export const PER_M = 100

const landed = new Float64Array(SEEN)
const log = noDistances()
const steps = SIDE_ANGLES.map(() => new Float64Array(MAX_STEPS))
const taken = SIDE_ANGLES.map(() => 0)

/** ∫ y dt of the flight in the log, by the cubic through sides and side speeds of every step. */
function integral(count: number): number {
  let sum = 0
  for (let i = 0; i < count; i++) {
    const [from, to] = [i * LOGGED, (i + 1) * LOGGED]
    const h = log[to]! - log[from]!
    const [y0, v0, v1] = [log[from + 2]!, log[from + 5]!, log[to + 5]!]
    if (i + 1 < count) sum += (h / 2) * (y0 + log[to + 2]!) + ((h * h) / 12) * (v0 - v1)
    else {
      // the last step goes on past the landing
      const left = landed[HANG]! - log[from]!
      const vEnd = v0 + ((v1 - v0) * left) / h
      sum += (left / 2) * (y0 + landed[VEER]!) + ((left * left) / 12) * (v0 - vEnd)
    }
  }
  return sum
}

/** Flies at all angles; on the steps of the flights before where they are to be followed, so that differences are smooth. */
function fly(
  speed: number,
  glide: number,
  turn: number,
  fade: number,
  replay: boolean,
  into: Float64Array,
): void {
  // numbers no disc has fly somewhere all the same
  const held = (value: number, [low, high]: readonly [number, number]) => Math.max(low, Math.min(high, value))
  const c = coefficientsOf({
    speed,
    glide: held(glide, FLOWN.glide),
    turn: held(turn, FLOWN.turn),
    fade: held(fade, FLOWN.fade),
  })
  const v = referenceSpeed(speed)
  into.fill(0)
  for (let a = 0; a < SIDE_ANGLES.length; a++) {
    // prettier-ignore
    const count = flyStraight(
      c.cd0, c.cl0, c.cm0, c.cma, STANDARD_BODY.massKg, STANDARD_BODY.diameterM, REFERENCE_DENSITY, 0, 0,
      v, REFERENCE_LAUNCH, SIDE_ANGLES[a]!, 0, 0, SPIN_PER_MPS * v, RELEASE_HEIGHT,
      0, landed, steps[a]!, replay ? taken[a]! : 0, log,
    )
    if (!replay) taken[a] = Math.max(0, count)
    const scale = PER_M / Math.max(1, landed[CARRY]!) / SIDE_ANGLES.length
    into[SIDE]! += (scale * integral(count)) / Math.max(0.1, landed[HANG]!)
    into[FINISH]! += scale * landed[VEER]!
  }
  for (let i = 0; i < into.length; i++) if (!Number.isFinite(into[i]!)) into[i] = 0
}

/** Numbers between which discs are flown. */
const FLOWN = { glide: [-1, 9], turn: [-8, 4], fade: [-3, 9] } as const

const here = new Float64Array(2)
const there = new Float64Array(2)

/** Where a disc of some numbers flies. */
export function sideOf({ speed, glide, turn, fade }: FlightNumbers): Side {
  fly(speed, glide, turn, fade, false, here)
  return { side: here[SIDE]!, finish: here[FINISH]! }
}

/** Step of the differences, of a number: tiny, on the base flights' own steps. */
const NUDGE = 1e-4

/** A disc's side and finish, and how they follow its glide, turn and fade. */
export interface SideSlopes extends Side {
  /** Of the side in (glide, turn, fade), m per number. */
  readonly sideBy: readonly [number, number, number]
  readonly finishBy: readonly [number, number, number]
}

/** Where a disc flies, with derivatives by forward differences. */
export function sideSlopesOf({ speed, glide, turn, fade }: FlightNumbers): SideSlopes {
  fly(speed, glide, turn, fade, false, here)
  const by = [0, 1, 2].map((k) => {
    fly(
      speed,
      glide + (k === 0 ? NUDGE : 0),
      turn + (k === 1 ? NUDGE : 0),
      fade + (k === 2 ? NUDGE : 0),
      true,
      there,
    )
    return [(there[SIDE]! - here[SIDE]!) / NUDGE, (there[FINISH]! - here[FINISH]!) / NUDGE] as const
  }) as [readonly [number, number], readonly [number, number], readonly [number, number]]
  return {
    side: here[SIDE]!,
    finish: here[FINISH]!,
    sideBy: [by[0][0], by[1][0], by[2][0]],
    finishBy: [by[0][1], by[1][1], by[2][1]],
  }
}

/** A label as stability is read against it: where it flies, and how many metres one number of turn or fade is there. */
export interface LabelScale extends Side {
  /** κ = ½·(∂side/∂turn + ∂side/∂fade) at the label, m a 100 m per number. */
  readonly perNumber: number
  /** turn + fade of the label. */
  readonly stability: number
}

/** A label at which nothing moves a flight would put every disc beyond all words, m a 100 m. */
const LEAST_PER_NUMBER = 0.1

const scales = new Map<string, LabelScale>()
/** Labels remembered; there are not more kinds of discs. */
const MOST_LABELS = 5000

/** The scale of a label; the same label is flown once. */
export function labelScale(published: FlightNumbers): LabelScale {
  const { speed, glide, turn, fade } = published
  const key = `${speed}/${glide}/${turn}/${fade}`
  const known = scales.get(key)
  if (known) return known
  const { side, finish, sideBy } = sideSlopesOf(published)
  const scale = {
    side,
    finish,
    perNumber: Math.max(LEAST_PER_NUMBER, (sideBy[1] + sideBy[2]) / 2),
    stability: turn + fade,
  }
  if (scales.size >= MOST_LABELS) scales.clear()
  scales.set(key, scale)
  return scale
}

/** Stability of a side on the scale of turn + fade, which it equals where the side is the label's. */
export const stabilityAt = (label: LabelScale, side: number): number =>
  label.stability + (side - label.side) / label.perNumber

/** Stability of a disc of some numbers that carries a label. */
export const stabilityBy = (published: FlightNumbers, numbers: FlightNumbers): number =>
  stabilityAt(labelScale(published), sideOf(numbers).side)

/** Points of a path over which its mean side is taken. */
const POINTS = 400

/** The recorded paths a side is the mean of, of a disc that may fly unlike the model: slow, for simulated truth. */
export const sidePaths = (numbers: FlightNumbers, oddities?: Oddities): Path[] =>
  SIDE_ANGLES.map((hyzerRad) =>
    tracePath(
      numbers,
      STANDARD_BODY,
      cleanRelease(referenceSpeed(numbers.speed), hyzerRad),
      STILL_AIR,
      oddities,
    ),
  )

/** Where a disc flies by its recorded paths, m in 100: the same as {@link sideOf} where it flies as the model has it. */
export function sideTraced(numbers: FlightNumbers, oddities?: Oddities): Side {
  let [side, finish] = [0, 0]
  for (const path of sidePaths(numbers, oddities)) {
    const points = pathPoints(path, POINTS + 1)
    const sum = points.reduce((s, p, i) => s + (i === 0 || i === POINTS ? p.y / 2 : p.y), 0)
    const scale = PER_M / path.carryM / SIDE_ANGLES.length
    side += (scale * sum) / POINTS
    finish += scale * path.veerM
  }
  return { side, finish }
}
