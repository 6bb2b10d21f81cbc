import { DEGREE } from '../flight/units.ts'
import { group } from 'd3'
import type { Air } from '../flight/air.ts'
import { noDistances, LOGGED } from '../flight/landing.ts'
import { chanceOf, CLOUD, cloudOf, NOTHING_DIFFERS, tracedBy } from './cloud.ts'
import type { Chance } from './cloud.ts'
import { endedAmong } from './field.ts'
import type { Obstacle, FieldPlace } from './field.ts'
import type { LabDisc, LabThrow, Setup } from './setup.ts'

/** What a throw is looked for among. */
export interface Search {
  /** Discs that may be thrown. */
  readonly discs: readonly { readonly id: string; readonly disc: LabDisc }[]
  /** Thrown like this but for angle, power and aim. */
  readonly like: LabThrow
  readonly air: Air
  readonly obstacles: readonly Obstacle[]
}

/** A throw that was found: the disc, how it is thrown, and how likely it does what is wanted. */
export interface FoundThrow {
  readonly id: string
  readonly throw: LabThrow
  readonly chance: Chance
}

/** What a search found. */
export interface ThrowsFound {
  /** The surest first; none where nothing does it in one of ten. */
  readonly throws: readonly FoundThrow[]
  /** The likeliest where none does it so often: what stands in its way is in its chance. */
  readonly nearest: FoundThrow | undefined
}

/** Angles, powers and aims that are tried first; degrees and shares. */
const HYZERS = [-25, -18, -12, -7, -3, 0, 4, 9, 15, 22, 30]
const POWERS = [1, 0.9, 0.8, 0.7, 0.6, 0.5]
const AIMS = [-15, -11, -8, -5.5, -3.5, -1.7, 0, 1.7, 3.5, 5.5, 8, 11, 15]
/** So many of them are looked at with a few throws each, and of those so many with more. */
const FEW = { throws: 32, kept: 60 }
const MORE = { throws: 160, kept: 12 }
/** Steps by which the best are bettered: degrees of hyzer, share of power, degrees of aim. */
const STEPS = [
  { hyzer: 3, power: 0.05, aim: 1.2 },
  { hyzer: 1.5, power: 0.025, aim: 0.6 },
] as const
/** The first of them tells, by so many throws, which so many are bettered to the end; there steps are told apart by more throws. */
const FIRST = { throws: 120, kept: 5 }
const STEPPED = 320
/** Throws that are told. */
export const TOLD = 3

/** An obstacle as it stands in a frame that is turned to the fade side by an aim. */
function turned(o: Obstacle, aimRad: number): Obstacle {
  const cos = Math.cos(aimRad)
  const sin = Math.sin(aimRad)
  const turn = ({ downM, sideM }: FieldPlace): FieldPlace => ({
    downM: downM * cos + sideM * sin,
    sideM: sideM * cos - downM * sin,
  })
  if (o.kind === 'ceiling') return o
  if (o.kind === 'line') return { ...o, from: turn(o.from), to: turn(o.to) }
  return { ...o, at: turn(o.at) }
}

/** How far the nearest zone is, in how far throws scatter there; 0 inside it. */
const SCATTER_SHARE = 0.05
function offZone(obstacles: readonly Obstacle[], at: FieldPlace): number {
  const zones = obstacles.flatMap((o) =>
    o.kind === 'zone'
      ? [
          Math.max(0, Math.hypot(o.at.downM - at.downM, o.at.sideM - at.sideM) - o.radiusM) /
            (2 + SCATTER_SHARE * Math.max(1, o.at.downM)),
        ]
      : [],
  )
  return zones.length === 0 ? 0 : Math.min(...zones)
}

interface Tried {
  readonly id: string
  readonly setup: Setup
  readonly score: number
}
const best = (tried: readonly Tried[], count: number): Tried[] =>
  tried.toSorted((a, b) => b.score - a.score).slice(0, count)

const log = noDistances()
/** How a clean throw scores, by every aim: 1 where it does what is wanted, less the further it is from that. */
function cleanScores(setup: Setup, byAim: readonly (readonly Obstacle[])[]): number[] | undefined {
  const flown = tracedBy(setup, NOTHING_DIFFERS, log)
  if (!flown) return undefined
  return byAim.map((obstacles) => {
    const { fate, at } = endedAmong(obstacles, log, flown.steps, flown.landed)
    if (fate === 'in') return 1
    // a disc that was stopped late was nearly through
    if (fate === 'stopped') return 0.4 * (at.downM / Math.max(1, log[flown.steps * LOGGED + 1]!)) - 0.5
    if (fate === 'out') return 0.2 - 0.1 * offZone(obstacles, at)
    return 0.8 - 0.3 * offZone(obstacles, at)
  })
}

/**
 * The throws that most likely get through, stay in and come down where they should, the best first: at most one of a disc.
 *
 * Every disc is thrown once at each angle and power, and the field turned under it for each aim; those that come nearest are
 * thrown a few times as throws scatter, the best of these more often, and the best of all are bettered step by step. Only the last
 * are told with a whole cloud.
 *
 * @param count how many are wanted
 */
export function findThrows({ discs, like, air, obstacles }: Search, count = TOLD): ThrowsFound {
  const byAim = AIMS.map((aim) => obstacles.map((o) => turned(o, aim * DEGREE)))
  const clean = discs.flatMap(({ id, disc }) => {
    const ofDisc: Tried[] = []
    for (const power of POWERS)
      for (const hyzerDeg of HYZERS) {
        const meant = { ...like, power, hyzerDeg, aimDeg: 0 }
        const scores = cleanScores({ disc, throw: meant, air }, byAim)
        scores?.forEach((score, i) =>
          ofDisc.push({ id, score, setup: { disc, air, throw: { ...meant, aimDeg: AIMS[i]! } } }),
        )
      }
    return best(ofDisc, PER_DISC)
  })
  const scored = (setup: Setup, throws: number) => {
    const { through, both } = chanceOf(cloudOf(setup, obstacles, throws), obstacles)
    // where nothing stays in, what gets through is nearer to it
    return both + 0.01 * through
  }
  const looked = (from: readonly Tried[], throws: number) =>
    from.map((t) => ({ ...t, score: scored(t.setup, throws) }))
  const few = looked(best(clean, Math.max(FEW.kept, 2 * discs.length)), FEW.throws)
  const more = looked(best(few, FEW.kept), MORE.throws)
  // of a disc several ways to begin from: the best at first is not always the best in the end
  const begun = [...group(best(more, more.length), (t) => t.id).values()].flatMap((of) => of.slice(0, BEGUN))
  const bettered = (from: readonly Tried[], throws: number, steps: readonly (typeof STEPS)[number][]) =>
    from.map((t) => {
      let now: Tried = { ...t, score: scored(t.setup, throws) }
      for (const step of steps)
        for (const change of changesBy(step)) {
          const throw_ = changed(now.setup.throw, change)
          const score = scored({ ...now.setup, throw: throw_ }, throws)
          if (score > now.score) now = { ...now, score, setup: { ...now.setup, throw: throw_ } }
        }
      return now
    })
  const first = bettered(best(begun, Math.max(BEGUN * count, MORE.kept)), FIRST.throws, STEPS.slice(0, 1))
  const last = bettered(best(first, FIRST.kept), STEPPED, [STEPS[0], STEPS[1], STEPS[1]])
  const perDisc = [...group(best(last, last.length), (t) => t.id).values()].map((of) => of[0]!)
  const told = best(perDisc, count).map(({ id, setup }) => ({
    id,
    throw: setup.throw,
    chance: chanceOf(cloudOf(setup, obstacles, CLOUD), obstacles),
  }))
  return surest(told, count)
}
/** What searches among parts of the discs found, as one search among all would tell it. */
export const bestOf = (found: readonly ThrowsFound[], count = TOLD): ThrowsFound =>
  surest(
    found.flatMap(({ throws, nearest }) => [...throws, ...(nearest ? [nearest] : [])]),
    count,
  )

function surest(told: readonly FoundThrow[], count: number): ThrowsFound {
  const sorted = told.toSorted((a, b) => b.chance.both - a.chance.both || b.chance.through - a.chance.through)
  const throws = sorted.filter((f) => f.chance.both >= LEAST).slice(0, count)
  return { throws, nearest: throws.length === 0 ? sorted[0] : undefined }
}

/** Of a disc so many throws go on to be looked at. */
const PER_DISC = 16
/** Of a disc so many are bettered. */
const BEGUN = 3
/** Less likely nobody throws it. */
const LEAST = 0.1

type Change = readonly ['hyzerDeg' | 'power' | 'aimDeg', number]
const changesBy = ({ hyzer, power, aim }: (typeof STEPS)[number]): readonly Change[] => [
  ['aimDeg', aim],
  ['aimDeg', -aim],
  ['hyzerDeg', hyzer],
  ['hyzerDeg', -hyzer],
  ['power', power],
  ['power', -power],
]
function changed(t: LabThrow, [what, by]: Change): LabThrow {
  const next = { ...t, [what]: t[what] + by }
  return {
    ...next,
    power: Math.max(0.3, Math.min(1, next.power)),
    hyzerDeg: Math.max(-45, Math.min(45, next.hyzerDeg)),
  }
}
