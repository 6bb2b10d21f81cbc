import { OBSERVED } from './observed.ts'

export const GAMES = ['ground', 'approach', 'putting', 'holes'] as const
export type Game = (typeof GAMES)[number]
export const MISSES = ['short', 'left', 'right', 'high'] as const
export const PUTT_STYLES = ['spin', 'push', 'turbo', 'straddle'] as const

interface Common {
  readonly column: string
  /** What it is called in the middle of a sentence. */
  readonly words: string
  /** Games it belongs to; in every other it is not kept. */
  readonly games: readonly Game[]
  /** Games whose throws are nothing without it. */
  readonly needed: readonly Game[]
  /** It holds for the next throw too. */
  readonly stays?: true
}
type Row = Common &
  (
    | { readonly kind: 'figure'; readonly range: readonly [number, number]; readonly unit: '' | 'm' }
    | { readonly kind: 'count'; readonly range: readonly [number, number] }
    | { readonly kind: 'truth' }
    | { readonly kind: 'choice'; readonly choices: readonly string[] }
  )

/**
 * Everything that can be observed of a throw of the short game, or of a hole, a row each; schema, database, blanks and
 * what a game asks for are made from it, as {@link OBSERVED} is for full throws.
 */
// prettier-ignore
export const SHORT_OBSERVED = {
  /** To the mark of an approach, or the target of a putt. */
  distanceM: { kind: 'figure', column: 'distance_m', range: [0.5, 200], unit: 'm', words: 'distance', games: ['approach', 'putting'], needed: ['approach', 'putting'], stays: true },
  effort: { kind: 'figure', column: 'effort', range: OBSERVED.power.range, unit: '', words: OBSERVED.power.words, games: ['approach'], needed: [], stays: true },
  /** Past the mark, or short of it where negative. */
  pastM: { kind: 'figure', column: 'past_m', range: [-100, 100], unit: 'm', words: 'distance past or short', games: ['approach'], needed: ['approach'] },
  rightM: { kind: 'figure', column: 'right_m', range: [-100, 100], unit: 'm', words: 'distance off the line', games: ['approach'], needed: [] },
  groundM: { kind: 'figure', column: OBSERVED.groundM.column, range: OBSERVED.groundM.range, unit: 'm', words: OBSERVED.groundM.words, games: ['ground'], needed: ['ground'] },
  made: { kind: 'truth', column: 'made', words: 'make or miss', games: ['putting'], needed: ['putting'] },
  miss: { kind: 'choice', column: 'miss', choices: MISSES, words: 'miss', games: ['putting'], needed: [] },
  style: { kind: 'choice', column: 'style', choices: PUTT_STYLES, words: 'style', games: ['putting'], needed: [], stays: true },
  hole: { kind: 'count', column: 'hole', range: [1, 36], words: 'hole', games: ['holes'], needed: ['holes'], stays: true },
  strokes: { kind: 'count', column: 'strokes', range: [1, 30], words: 'strokes', games: ['holes'], needed: ['holes'] },
  /** From the target after the throw from the tee. */
  lieM: { kind: 'figure', column: 'lie_m', range: [0, 300], unit: 'm', words: 'lie', games: ['holes'], needed: [] },
} as const satisfies Record<string, Row>

export type ShortKey = keyof typeof SHORT_OBSERVED
type ValueOf<R> = R extends { kind: 'truth' }
  ? boolean
  : R extends { choices: readonly (infer C)[] }
    ? C
    : number
/** What was observed of a throw of the short game; null is not observed. */
export type ShortObserved = {
  readonly [K in ShortKey]: ValueOf<(typeof SHORT_OBSERVED)[K]> | null
}

export const SHORT_KEYS = Object.keys(SHORT_OBSERVED) as ShortKey[]
export const shortRowOf = (key: ShortKey): Row => SHORT_OBSERVED[key]
const keptWhere = (seen: ShortObserved, keep: (row: Row) => boolean | undefined): ShortObserved =>
  Object.fromEntries(
    SHORT_KEYS.map((k) => [k, keep(shortRowOf(k)) ? seen[k] : null]),
  ) as unknown as ShortObserved

/** Nothing seen. */
export const NOTHING_OF_SHORT = Object.fromEntries(SHORT_KEYS.map((k) => [k, null])) as {
  readonly [K in ShortKey]: null
}
/** What belongs to a game; a putt that was made has no miss. */
export const seenInGame = (game: Game, seen: ShortObserved): ShortObserved => {
  const own = keptWhere(seen, (row) => row.games.includes(game))
  return own.made === false ? own : { ...own, miss: null }
}
/** What of a throw holds for the next one. */
export const stayingOf = (seen: ShortObserved): ShortObserved => keptWhere(seen, (row) => row.stays)
/** What a throw of a game lacks. */
export const lackingInGame = (game: Game, seen: ShortObserved): ShortKey[] =>
  SHORT_KEYS.filter((k) => shortRowOf(k).needed.includes(game) && seen[k] === null)
