import { group } from 'd3'
import type { LeftOrRight } from '../../flight/hand.ts'
import { PER_M } from '../../flight/side.ts'
import type { LabelFigure } from '../../plan/aims.ts'
import type { Convention } from '../../plan/questions.ts'
import type { RatedDisc } from '../../rating/evidence.ts'
import { Z90 } from '../../rating/normal.ts'
import type { Estimate, Outcome } from '../../rating/outcome.ts'
import type { Game } from '../../throw/short.ts'
import type { FitState } from '../../rating/state.ts'
import { discOf } from '../../rating/asThrown.ts'
import { farther, figureOf, gapWords, lengthOf, SETTLED, sideWord, signed } from '../statements.ts'
import type { Gap, Wording } from '../statements.ts'
import type { Picture } from './picture.ts'

/** An arm by name: its full-power speed with a disc of speed 9 (V₉), m/s. */
export interface NamedArm {
  readonly name: string
  readonly armMps: number
}

export { percent } from '../statements.ts'

/** What an answer is made from. */
export interface Asked {
  readonly state: FitState
  readonly outcome: Outcome
  /** Discs asked about, in the order they are named; the control disc is not among them. */
  readonly discs: readonly string[]
  /** What the published numbers describe. */
  readonly convention: Convention
  /** The two discs it is about, where it is about two of several. */
  readonly pair: readonly [string, string] | null
  /** Throwers on file. */
  readonly arms: readonly NamedArm[]
  /** How many throws discs had been through when these began; nothing of a disc whose count is not known. */
  readonly through?: ReadonlyMap<string, number>
  readonly words: Wording
}

/** One figure of an answer: a value, or a value with the interval that holds it nine times in ten. */
export interface Figure {
  readonly value: number
  readonly low?: number
  readonly high?: number
  readonly unit: string
}

/** What a settled answer claims, so that it can be checked, worded again, or held against a sentence somebody wrote. */
export type Claimed =
  /** Groups of discs from the most to the least stable. */
  | { readonly says: 'order'; readonly groups: readonly (readonly string[])[] }
  /** Within half a number of each other. */
  | { readonly says: 'alike'; readonly groups: readonly (readonly string[])[] }
  | {
      readonly says: 'most stable' | 'least stable' | 'holds its line best'
      readonly disc: string
      readonly of: readonly string[]
    }
  | {
      readonly says: 'off its label'
      readonly disc: string
      readonly figure: LabelFigure
      readonly above: boolean
    }
  | { readonly says: 'true to its label'; readonly discs: readonly string[] }
  | { readonly says: 'wear takes stability' | 'wear gives stability' }
  | { readonly says: 'flies straight at some arm'; readonly disc: string }
  | { readonly says: 'finishes on one side'; readonly disc: string; readonly fade: boolean }
  | { readonly says: 'turns into the wind' | 'fights the wind'; readonly disc: string }
  | { readonly says: 'more'; readonly of: Game; readonly disc: string; readonly than: string }

/** A sentence that may be the answer, and the probability that it is true. */
export interface Possible {
  readonly says: string
  readonly probability: number
}

/**
 * Every sentence that may be the answer, what is said or leaned to first.
 *
 * @throws RangeError where that is none of them
 */
export function possibly(leans: string, all: readonly Possible[]): Possible[] {
  const first = all.find((s) => s.says === leans)
  if (!first) throw new RangeError(`“${leans}” is none of the sentences that may be the answer`)
  return [first, ...all.filter((s) => s !== first)]
}

/** What the throws say to a question. */
export interface Found {
  /** One sentence. */
  readonly sentence: string
  /** Probability of what the sentence says; of what it leans to where nothing is settled. */
  readonly probability: number | undefined
  readonly settled: boolean
  /** What the sentence claims, where it is settled. */
  readonly claim: Claimed | undefined
  /** Every sentence that may be the answer, without its figures: what is said or leaned to first. */
  readonly possible: readonly Possible[]
  /** What else can be said. */
  readonly besides: readonly string[]
  /** What cannot be said yet, and why. */
  readonly open: readonly string[]
  /** The pair whose order is nearest to being settled, where that would answer it. */
  readonly wants: readonly [string, string] | undefined
  /** By names that stay the same. */
  readonly figures: Readonly<Record<string, Figure>>
  readonly picture: Picture
  /** Counted throws behind it. */
  readonly throws: number
}

/** The discs as the outcome has them. */
export const ratingIn = ({ outcome }: Asked, id: string) => outcome.discs.find((d) => d.disc === id)!

/** The disc as the fit was given it. */
export const ratedIn = ({ state }: Pick<Asked, 'state'>, id: string): RatedDisc => discOf(state, id).disc

/** Discs of one plastic of one mold among those asked about, the plastics in the order they are named; discs of unknown kin stand alone. */
export const copiesOf = (asked: Pick<Asked, 'state' | 'discs'>): string[][] => [
  ...group(asked.discs, (id) => {
    const { kin } = ratedIn(asked, id)
    return kin?.plastic === undefined ? id : `${kin.mold}\n${kin.plastic}`
  }).values(),
]

/** How many throws of some discs count. */
export const throwsOf = (asked: Asked, discs: readonly string[] = asked.discs): number =>
  discs.reduce((n, d) => n + ratingIn(asked, d).throws, 0)

/** The 90 % interval of an estimate, in its unit. */
export const interval = ({ value, sd }: Estimate): { readonly low: number; readonly high: number } => ({
  low: value - Z90 * sd,
  high: value + Z90 * sd,
})
/** An estimate as a figure of an answer: its value, its 90 % interval and its unit. */
export const figureWithin = (e: Estimate, unit: string): Figure => ({ value: e.value, ...interval(e), unit })

/** “4.1 m (2.5 to 5.7)”, by size: the direction is said apart. */
export function sizedWords({ words }: Asked, { value, sd }: Estimate): string {
  const size = Math.abs(value)
  const bound = (m: number) => signed(Number(figureOf(words)(m)))
  return `${lengthOf(words)(size)} (${bound(size - Z90 * sd)} to ${bound(size + Z90 * sd)})`
}
/** “−0.6 (−0.9 to −0.3)”, of a number on a label. */
export const inNumbers = (e: Estimate, digits = 1): string => {
  const { low, high } = interval(e)
  return `${signed(e.value, digits)} (${signed(low, digits)} to ${signed(high, digits)})`
}

/** “it finishes 4.1 m (2.5 to 5.7) farther left in a flight of 100 m”, of the more stable of two. */
export const isFarther = (asked: Asked, gap: Gap): string =>
  gapWords(gap, asked.outcome.fadeSide, asked.words)

/** “finishes 4.1 m (2.5 to 5.7) farther left in a flight of 100 m”. */
export const finishes = (asked: Asked, finish: Estimate): string =>
  `finishes ${sizedWords(asked, finish)} ${farther(asked.outcome.fadeSide, finish.value >= 0)} in a flight of ${lengthOf(asked.words)(PER_M, 0)}`

/** “left”, “to the fade side”: where discs go that go to the fade side, or to the other. */
export const toSide = (side: LeftOrRight | undefined, fade: boolean): string =>
  side === undefined ? `to the ${sideWord(side, fade)} side` : sideWord(side, fade)

/** Whether something stated with a probability is settled. */
export const isSettled = (p: number): boolean => p >= SETTLED

/** “Amber, Slate and Loam”. */
export const listed = (names: readonly string[], join: 'and' | 'or' = 'and'): string =>
  new Intl.ListFormat('en', { type: join === 'and' ? 'conjunction' : 'disjunction' }).format(names)

/** An answer to a question nothing was thrown for, or whose discs cannot answer it. */
export const unanswerable = (sentence: string, open: readonly string[] = []): Found => ({
  sentence,
  probability: undefined,
  settled: false,
  claim: undefined,
  possible: [],
  besides: [],
  open,
  wants: undefined,
  figures: {},
  picture: { kind: 'nothing' },
  throws: 0,
})

/** No finite number of draws makes anything surer than this leaves open. */
export const LEAST_SHARE = 0.0001

/** How probable a sentence is to what was found; undefined where nothing of the kind was weighed. */
export const probabilityOf = ({ possible }: Found, says: string): number | undefined =>
  possible.find((s) => s.says === says)?.probability ??
  // an order that no draw came in is all but impossible, where others were weighed
  (possible.length > 0 ? LEAST_SHARE : undefined)
