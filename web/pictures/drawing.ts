import type { Outcome } from '../../core/rating/outcome.ts'

/** How discs are called and coloured in pictures, and which way the fade is. */
export interface Drawing {
  readonly name: (code: string) => string
  readonly look: (code: string) => number
  readonly outcome: Outcome
  /** Discs as they were expected, the most stable first; empty where nobody said. */
  readonly expected: readonly string[]
}
