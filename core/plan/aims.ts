import { HALF_NUMBER, SEEN_NUMBERS } from '../flight/disc.ts'

/** One thing throws are to tell. */
export type Aim =
  /** Which of two discs is the more stable. */
  | { readonly of: 'order'; readonly a: string; readonly b: string }
  /** Whether a disc is as its label says. */
  | { readonly of: 'label'; readonly disc: string; readonly figure: LabelFigure }
  /** On which side of the aim line a disc finishes for an arm (V₉), thrown flat in still air. */
  | { readonly of: 'finish'; readonly disc: string; readonly armMps: number }
  /** To which side a headwind takes the finish of a disc. */
  | { readonly of: 'wind'; readonly disc: string; readonly armMps: number }
  /** Which of two discs a headwind moves less. */
  | { readonly of: 'holds'; readonly a: string; readonly b: string; readonly armMps: number }

/** What of a label can be true: each number, and where it says the disc flies, on the scale of turn + fade. */
export const LABEL_FIGURES = ['stability', ...SEEN_NUMBERS] as const
export type LabelFigure = (typeof LABEL_FIGURES)[number]

/** Two discs, the first the one that is named first. */
export type PairOfDiscs = readonly [string, string]

/** Where a label stops being true, and where the one of two discs starts being the more stable. */
export const LABEL_BOUNDS = [-HALF_NUMBER, HALF_NUMBER] as const
export const ORDER_BOUNDS = [0] as const

export const order = ([a, b]: PairOfDiscs): Aim => ({ of: 'order', a, b })

/** Headwind against which discs hold their line or do not, m/s. */
export const HEADWIND = 6
/** Arms by which another arm is asked about: a junior’s, a usual one, one of full power; V₉, m/s. */
export const OTHER_ARMS = [18, 24, 31] as const

/** Every pair of some discs. */
export const pairsOf = (discs: readonly string[]): PairOfDiscs[] =>
  discs.flatMap((a, i) => discs.slice(i + 1).map((b) => [a, b] as const))
