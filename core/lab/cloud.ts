import { DEGREE } from '../flight/units.ts'
import type { Body } from '../flight/disc.ts'
import { coefficientsOf } from '../flight/disc.ts'
import { CARRY, noDistances, flyStraight, LOGGED, MAX_STEPS, NO_LOG, SEEN, VEER } from '../flight/landing.ts'
import { factorise } from '../rating/cholesky.ts'
import { THROW_SD } from '../rating/evidence.ts'
import { drawsOf, VARIES, VARIES_BY_ARM } from './draws.ts'
import { endedAmong, FATES, stands } from './field.ts'
import type { Obstacle, FieldPlace } from './field.ts'
import { releaseOf } from './setup.ts'
import type { Setup } from './setup.ts'
import { SHIFTS, shiftRoot } from './who.ts'
import type { ArmKnown } from './who.ts'

/** Flights on which everything differs as it does from throw to throw, and what became of them. */
export interface Cloud {
  /** Where each came down or was stopped, m. */
  readonly down: Float32Array
  readonly side: Float32Array
  /** Place in {@link FATES}, and in the list of obstacles of the one that decided it: −1 for none. */
  readonly fate: Uint8Array
  readonly by: Int8Array
}

const landed = new Float64Array(SEEN)
const steps = new Float64Array(MAX_STEPS)
const log = noDistances()

/** What is not known of a disc's numbers, as a lower triangle L with L·Lᵀ the covariance; zeros where nothing is. */
function rootOf(covariance: readonly number[] | null): Float64Array {
  const root = new Float64Array(9)
  if (!covariance) return root
  root.set(covariance)
  for (let i = 0; i < 3; i++) root[4 * i]! += 1e-9
  factorise(root, 3)
  return root
}

/** How many things differ from throw to throw. */
const variesBy = (who: ArmKnown | undefined): number => (who ? VARIES_BY_ARM : VARIES)

/** What may differ of a habit's shifts in one throw of a row, from its lower triangle; zeros where nobody is known. */
const shifted = new Float64Array(SHIFTS)
function shiftBy(root: Float64Array | undefined, z: Float64Array, at: number): Float64Array {
  shifted.fill(0)
  if (root)
    for (let i = 0; i < SHIFTS; i++)
      for (let j = 0; j <= i; j++) shifted[i]! += root[i * SHIFTS + j]! * z[at + VARIES + j]!
  return shifted
}

/** Flies one throw that differs from what is meant. @returns steps taken; negative where it does not come down */
type Fly = (draws: Float64Array, row: number, log: Float64Array) => number

/** Flies throws of a setup into {@link landed} and a log. */
function flier({ disc, throw: t, air }: Setup): Fly {
  const body: Body = disc.body
  const meant = releaseOf({ disc, throw: t })
  const root = rootOf(disc.covariance)
  const { speed, glide, turn, fade } = disc.numbers
  const ofArm = t.who && shiftRoot(t.who, speed)
  const varies = variesBy(t.who)
  return (z, row, log) => {
    const at = row * varies
    const [a, b, c] = [z[at + 7]!, z[at + 8]!, z[at + 9]!]
    const k = coefficientsOf({
      speed,
      glide: glide + root[0]! * a,
      turn: turn + root[3]! * a + root[4]! * b,
      fade: fade + root[6]! * a + root[7]! * b + root[8]! * c,
    })
    const by = shiftBy(ofArm, z, at)
    const faster = Math.exp(t.scatter * THROW_SD[0]! * z[at]! + by[0]!)
    // prettier-ignore
    return flyStraight(
      k.cd0, k.cl0, k.cm0, k.cma, body.massKg, body.diameterM, air.densityKgM3,
      air.windAlongMps + THROW_SD[5]! * z[at + 5]!, air.windTowardFadeMps + THROW_SD[6]! * z[at + 6]!,
      meant.speedMps * faster, meant.launchRad + by[1]! + t.scatter * THROW_SD[1]! * z[at + 1]!,
      meant.hyzerRad + by[2]! + t.scatter * THROW_SD[2]! * z[at + 2]!, meant.noseRad + by[3]! + t.scatter * THROW_SD[3]! * z[at + 3]!,
      meant.azimuthRad + t.scatter * THROW_SD[4]! * z[at + 4]!, meant.spinRadps * faster * Math.exp(by[4]!), meant.heightM,
      0, landed, steps, 0, log,
    )
  }
}

/**
 * One throw of a setup.
 *
 * @param draws how it differs from what is meant, as many values as differ, see draws.ts
 * @param into gets rows of {@link LOGGED} values, the last just past the landing
 * @returns steps after the release, where it came down, and {@link SEEN} values until the next throw; undefined where it does not
 *   come down
 */
export function tracedBy(
  setup: Setup,
  draws: Float64Array,
  into: Float64Array,
): { readonly steps: number; readonly landed: FieldPlace; readonly seen: Float64Array } | undefined {
  const taken = flier(setup)(draws, 0, into)
  if (taken < 0) return undefined
  return { steps: taken, landed: { downM: landed[CARRY]!, sideM: landed[VEER]! }, seen: landed }
}

/**
 * So many throws of a setup among obstacles, as the thrower scatters, as the wind gusts and as the disc may be.
 *
 * @param count {@link CLOUD} for a picture
 * @param part which of so many equal parts of it; all of it unless told otherwise
 */
export function cloudOf(
  setup: Setup,
  obstacles: readonly Obstacle[],
  count: number,
  { place, of }: { readonly place: number; readonly of: number } = { place: 0, of: 1 },
): Cloud {
  const draws = drawsOf(count, variesBy(setup.throw.who))
  const [from, until] = [Math.floor((count * place) / of), Math.floor((count * (place + 1)) / of)]
  const fly = flier(setup)
  // where nothing stands the path itself does not matter
  const path = obstacles.some(stands) ? log : NO_LOG
  const cloud = {
    down: new Float32Array(until - from),
    side: new Float32Array(until - from),
    fate: new Uint8Array(until - from),
    by: new Int8Array(until - from),
  }
  for (let i = 0; i < until - from; i++) {
    const taken = fly(draws, from + i, path)
    // what never comes down is out of everything
    const place = { downM: landed[CARRY]!, sideM: landed[VEER]! }
    const ended =
      taken < 0 ? { fate: 'out' as const, by: -1, at: place } : endedAmong(obstacles, log, taken, place)
    cloud.down[i] = ended.at.downM
    cloud.side[i] = ended.at.sideM
    cloud.fate[i] = FATES.indexOf(ended.fate)
    cloud.by[i] = ended.by
  }
  return cloud
}
/** Flights of a cloud that is drawn. */
export const CLOUD = 2000

/** How likely a throw gets through, stays in once it does, and both; and how many of a hundred each obstacle takes. */
export interface Chance {
  readonly through: number
  readonly stays: number
  readonly both: number
  /** In the order of the obstacles. */
  readonly taken: readonly number[]
}

/** Shares of a cloud that get through the obstacles, stay in, and do both; and what each obstacle takes. */
export function chanceOf({ fate, by }: Cloud, obstacles: readonly Obstacle[]): Chance {
  const n = fate.length
  const count = (of: (i: number) => boolean) => {
    let sum = 0
    for (let i = 0; i < n; i++) if (of(i)) sum++
    return sum / n
  }
  const through = count((i) => FATES[fate[i]!] !== 'stopped')
  const both = count((i) => FATES[fate[i]!] === 'in')
  return {
    through,
    both,
    stays: through > 0 ? both / through : 0,
    taken: obstacles.map((_, o) => count((i) => by[i] === o)),
  }
}

/** How steeply a disc is tilted when it comes down, degrees: positive to the fade side. */
export function endTiltOf(setup: Setup): number {
  const taken = flier(setup)(NOTHING_DIFFERS, 0, log)
  if (taken < 0) return 0
  return Math.asin(Math.max(-1, Math.min(1, log[taken * LOGGED + 7]!))) / DEGREE
}
/** A throw as it is meant: of all that may differ, nothing does. */
export const NOTHING_DIFFERS = new Float64Array(VARIES_BY_ARM)

/** Tilted more steeply a disc stands on its edge and rolls. */
export const ROLLS_FROM_DEG = 50
/** What is said of a throw that rolls; undefined where it lies down. */
export function rollWords(endTiltDeg: number): string | undefined {
  const tilt = Math.abs(endTiltDeg)
  if (tilt < ROLLS_FROM_DEG) return undefined
  const what = endTiltDeg < 0 ? 'rolls' : 'cuts in and rolls'
  return `It lands at ${Math.round(tilt)}° and ${what}: the carry ends here, and where it rolls to is not told.`
}
