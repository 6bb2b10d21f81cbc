import { HALF_NUMBER, SEEN_NUMBERS } from '../flight/disc.ts'
import type { QuestionKind } from './questions.ts'

/** One thing throws are to tell: which of two discs is the more stable, or whether a disc is as its label says. */
export type Aim =
  | { readonly of: 'order'; readonly a: string; readonly b: string }
  | { readonly of: 'label'; readonly disc: string; readonly figure: LabelFigure }

/** What of a label can be true: each number, and where it says the disc flies, on the scale of turn + fade. */
export const LABEL_FIGURES = ['stability', ...SEEN_NUMBERS] as const
export type LabelFigure = (typeof LABEL_FIGURES)[number]

/** What a trial asks its throws. */
export interface Ask {
  readonly kind: QuestionKind
  /** The two discs it is about, where it is about two. */
  readonly pair: readonly [string, string] | null
}

/** Where a label stops being true, and where the one of two discs starts being the more stable. */
export const LABEL_BOUNDS = [-HALF_NUMBER, HALF_NUMBER] as const
export const ORDER_BOUNDS = [0] as const

export const order = ([a, b]: readonly [string, string]): Aim => ({ of: 'order', a, b })

/** Every pair of some discs. */
export const pairsOf = (discs: readonly string[]): (readonly [string, string])[] =>
  discs.flatMap((a, i) => discs.slice(i + 1).map((b) => [a, b] as const))

/**
 * What a question comes to: each figure of each disc where labels are asked about, the order of the pair it is about, else of
 * every pair.
 *
 * @param discs those asked about, the control disc not among them
 */
export function aimsOf({ kind, pair }: Ask, discs: readonly string[]): Aim[] {
  if (pair && pair.every((d) => discs.includes(d))) return [order(pair)]
  if (kind === 'label')
    return discs.flatMap((disc) => LABEL_FIGURES.map((figure): Aim => ({ of: 'label', disc, figure })))
  return pairsOf(discs).map(order)
}
