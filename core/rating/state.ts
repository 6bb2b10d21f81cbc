import type { SolvedArrow } from './arrow.ts'
import type { Spread } from './beliefs.ts'
import type { LeftOut } from './digest.ts'
import type { Evidence } from './evidence.ts'
import type { Kinship } from './kin.ts'
import type { ThrowTerm } from './throwTerm.ts'
import type { Worn } from './worn.ts'

/** Where a fit stands; hand it to the next fit of nearly the same throws for a warm start. */
export interface FitState {
  /** What was weighed. */
  readonly evidence: Evidence
  /** Throws that could not be weighed. */
  readonly leftOut: readonly LeftOut[]
  /** Glide, turn, fade of every disc as it is now, absolute, in the order of the evidence. */
  readonly numbers: readonly Float64Array[]
  /** Habit of every arm, see HABIT. */
  readonly habits: readonly Float64Array[]
  /** Every outing, and how far its throws were aimed to the right of the line that landings are measured from, rad. */
  readonly outings: readonly string[]
  readonly aims: Float64Array
  /** Discs that were not the same at each of their throws, and how fast they wear against what is usual. */
  readonly worn: Worn
  readonly paces: Float64Array
  /** What discs share, and each effect's glide, turn and fade. */
  readonly kinship: Kinship
  readonly effects: readonly Float64Array[]
  /** Variances at each level of kinship against what was believed. */
  readonly spread: Spread
  /** Gusts: variance of the wind about its log against what was believed. */
  readonly gust: number
  /** Noise scale (variance ratio) of every arm. */
  readonly scales: Float64Array
  /** The same of the camera of every outing. */
  readonly cameras: Float64Array
  /** How far the model itself may be off; see discrepancy.ts. */
  readonly discrepancy: number
  /** A term per throw, in the order of the evidence, those left out included. */
  readonly terms: readonly ThrowTerm[]
  /** Curvature at the solution: the Laplace posterior. */
  readonly posterior: SolvedArrow
  readonly iterations: number
  /** False when the search was ended by its limit. */
  readonly converged: boolean
}
