import type { Aim, PairOfDiscs } from '../aims.ts'
import type { DiffersIn, ProposedDisc } from './picking.ts'

/** Discs that answer a question beside the one it is asked about. */
export interface Picked {
  readonly discs: readonly ProposedDisc[]
  /** What the shelf lacks where there are none. */
  readonly wants: string
}

/** Everything that is known of a question a trial can ask; all it proposes can be changed. */
export interface TrialQuestion {
  /** As a person asks it. */
  readonly words: string
  /** Which discs answer it. */
  readonly discs: string
  /** The measure that answers it. */
  readonly measure: string
  /** What a trial that asks it of a disc is called until somebody names it. */
  readonly called: (mold: string, plastic: string) => string

  /** Release angles, degrees of hyzer. */
  readonly hyzerDegs: readonly number[]
  /** Throws of each disc at each angle. */
  readonly throwsACell: number
  /** Share of full power. */
  readonly power: number
  /** Half of the throws are made with less, to stand in for a slower arm. */
  readonly easedTo?: number
  /** Whether it is answered with both strokes. */
  readonly bothStrokes?: true
  /** Whether it wants the wind along the aim line, instead of none. */
  readonly wantsWind?: true

  /** Words it is known by in a question somebody wrote. */
  readonly knownBy: RegExp
  /** How surely those mean it: of several questions whose words are found the surest is meant. */
  readonly sure: number
  /** Where nothing was written, discs that differ in this ask it. */
  readonly differsIn?: DiffersIn
  /** Which discs of a shelf answer it beside the one it is about, the best first; none where that one is enough. */
  readonly pick?: (about: ProposedDisc, others: readonly ProposedDisc[]) => Picked

  /** What throws are to tell of its discs, for an arm of V₉ m/s; the order of every pair unless it says so. */
  readonly aims?: (discs: readonly string[], armMps: number) => Aim[]
  /** The same where it is about two of them; their order unless it says so. */
  readonly aimsOfTwo?: (pair: PairOfDiscs, armMps: number) => Aim[]
  /** What a plan is to tell apart, in the middle of a sentence. */
  readonly tells?: string
  /** What it is about unless it is about two of its discs. */
  readonly ofAll?: string
  /** Whether it asks which state published numbers describe. */
  readonly asksConvention?: true
}

/** Release angles at which stability shows: hyzer, flat, anhyzer; degrees. */
export const SPREAD = [10, 0, -8] as const
