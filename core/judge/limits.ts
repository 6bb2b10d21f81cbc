import { greatest } from 'd3'
import { DEGREE } from '../flight/units.ts'
import { beliefOf, informationOf, contrastVariance, withThrow } from '../plan/information.ts'
import { contrastOf } from '../plan/contrasts.ts'
import type { Belief, Candidate, Contrast, Information } from '../plan/information.ts'
import { UNLOGGED_WIND_SD } from '../rating/evidence.ts'
import type { Arm } from '../rating/evidence.ts'
import type { Outcome } from '../rating/outcome.ts'
import type { FitState } from '../rating/state.ts'
import { sureness, unsettledNeighbours } from './ladder.ts'
import type { Kind } from './resolve.ts'
import { SETTLED } from './statements.ts'

/** Evidence that could be taken of the throws to come, or another way to throw them. */
export const FURTHER = ['angle', 'hang', 'bend', 'wind', 'path', 'other angle', 'eased'] as const
export type Further = (typeof FURTHER)[number]

/** What somebody is told to do, and how many minutes it adds to a throw with its walk, which takes about one. */
const DOING: Readonly<Record<Further, { readonly words: string; readonly minutes: number }>> = {
  angle: { words: 'Call the angle out of the hand', minutes: 0.05 },
  hang: { words: 'Time the flight', minutes: 0.05 },
  bend: { words: 'Draw the bend', minutes: 0.2 },
  wind: { words: 'Note the wind', minutes: 0.1 },
  path: { words: 'Film the path', minutes: 0.5 },
  'other angle': { words: 'Throw another angle too', minutes: 0 },
  eased: { words: 'Ease every other throw', minutes: 0 },
}
const EASED = 0.75
/** Angles that are thrown; the first that is not yet is another one. */
const ANGLES = [0, 10, -8].map((deg) => deg * DEGREE)

/** What one kind of further evidence would do for a pair. */
export interface Limit {
  readonly further: Further
  /** So many more throws a throw with it is worth: 1 says that each counts for two. */
  readonly worth: number
  /** The same for a minute spent, more throws or not. */
  readonly perMinute: number
  /** Standard deviation of the pair's difference after a dozen more throws, with it and without, m a 100 m. */
  readonly sdAfter: number
  readonly sdWithout: number
}

/** Throws the evidence is tried on, and so many at most that they are held against. */
const TRIED = 12
const MOST = 60
/** Less is not worth a word. */
const LEAST = 0.1

/** Throws of the two discs over all kinds in turn. */
const spread = ([a, b]: readonly [string, string], kinds: readonly Kind[], count: number): Candidate[] =>
  Array.from({ length: count }, (_, i) => ({
    ...kinds[Math.floor(i / 2) % kinds.length]!,
    disc: i % 2 === 0 ? a : b,
  }))

/** Kinds of throws with more of them seen, or thrown otherwise; undefined where that is done already. */
function withFurther(further: Further, kinds: readonly Kind[]): readonly Kind[] | undefined {
  const all = (key: 'angleCalled' | 'hangTimed' | 'bendDrawn' | 'filmed') =>
    kinds.every((k) => k[key]) ? undefined : kinds.map((k) => ({ ...k, [key]: true }))
  switch (further) {
    case 'angle':
      return all('angleCalled')
    case 'hang':
      return all('hangTimed')
    case 'bend':
      return all('bendDrawn')
    case 'path':
      return all('filmed')
    case 'wind':
      return kinds.some((k) => k.windSdMps === UNLOGGED_WIND_SD)
        ? kinds.map(({ windSdMps: _, ...k }) => k)
        : undefined
    case 'other angle': {
      const other = ANGLES.find((a) => kinds.every((k) => Math.abs(k.hyzerRad - a) > 4 * DEGREE))
      return other === undefined ? undefined : kinds.flatMap((k) => [k, { ...k, hyzerRad: other }])
    }
    case 'eased':
      return kinds.some((k) => k.power < 0.9) ? undefined : kinds.flatMap((k) => [k, { ...k, power: EASED }])
  }
}

/**
 * Which further evidence would narrow what is not known of a pair most, a minute spent: the variance of their difference after a
 * dozen throws with it, held against as many throws as it takes without, by the Fisher information of every throw.
 *
 * @param kinds throws as they are made now
 * @returns what is worth anything, the best first
 */
export function limitsOf(
  state: FitState,
  pair: readonly [string, string],
  kinds: readonly Kind[],
  arms: readonly Arm[] = [],
): Limit[] {
  if (kinds.length === 0) return []
  const start = beliefOf(state, arms)
  const contrast = contrastOf(state, start, ...pair)
  const after = (throws: readonly Candidate[]) => variances(state, start, contrast, throws, arms)
  const plain = after(spread(pair, kinds, MOST))
  return FURTHER.flatMap((further): Limit[] => {
    const better = withFurther(further, kinds)
    if (!better) return []
    const left = after(spread(pair, better, TRIED)).at(-1)!
    const worth = throwsTo(plain, left) / TRIED - 1
    if (worth < LEAST) return []
    return [
      {
        further,
        worth,
        perMinute: (1 + worth) / (1 + DOING[further].minutes) - 1,
        sdAfter: Math.sqrt(left),
        sdWithout: Math.sqrt(plain[TRIED]!),
      },
    ]
  }).sort((a, b) => b.perMinute - a.perMinute)
}

/** Variance of a contrast before any of some throws, and after each. */
function variances(
  state: FitState,
  start: Belief,
  contrast: Contrast,
  throws: readonly Candidate[],
  arms: readonly Arm[],
): number[] {
  let belief = start
  const known = new Map<string, Information>()
  return [
    contrastVariance(belief, contrast),
    ...throws.map((t) => {
      const key = JSON.stringify(t)
      const info = known.get(key) ?? informationOf(state, start, t, arms)
      known.set(key, info)
      belief = withThrow(belief, info)
      return contrastVariance(belief, contrast)
    }),
  ]
}

/** How many throws bring a falling variance to some value; as many as there are where none do. */
function throwsTo(falling: readonly number[], value: number): number {
  const i = falling.findIndex((v) => v <= value)
  if (i < 0) return falling.length - 1
  if (i === 0) return 0
  const [before, after] = [falling[i - 1]!, falling[i]!]
  return i - 1 + (before === after ? 1 : (before - value) / (before - after))
}

/** The pair asked about while it is open, else the one nearest to being settled; undefined once none is open. */
export const openPair = (
  state: FitState,
  outcome: Outcome,
  asked: readonly [string, string] | null,
): readonly [string, string] | undefined =>
  asked && asked.every((d) => outcome.discs.some((o) => o.disc === d)) && sureness(outcome, asked) < SETTLED
    ? asked
    : greatest(unsettledNeighbours(state, outcome), (pair) => sureness(outcome, pair))

/** “Call the angle out of the hand: worth 1.6 more throws each”. */
export const limitWords = ({ further, worth }: Limit): string =>
  `${DOING[further].words}: worth ${worth < MOST / TRIED - 1 ? worth.toFixed(1) : `${MOST / TRIED - 1} or`} more throws each`
