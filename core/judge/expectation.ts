import { pairOf } from '../rating/outcome.ts'
import type { Outcome } from '../rating/outcome.ts'
import { SETTLED } from './statements.ts'

/** Two discs that were expected in an order, and what the throws say to it. */
export interface ExpectedPair {
  /** Expected to be the more stable. */
  readonly above: string
  readonly below: string
  /** Probability that it is. */
  readonly probability: number
  readonly verdict: 'as expected' | 'the other way' | 'open'
}

/**
 * An order of stability said before the first throw, pair by pair. Being wrong here is the most interesting line of a
 * review; pairs that came out the other way come first, the surest first.
 *
 * @param expected discs from the most to the least stable; discs that the outcome does not hold are passed over
 */
export function expectedPairs(outcome: Outcome, expected: readonly string[]): ExpectedPair[] {
  const known = expected.filter((d) => outcome.discs.some((o) => o.disc === d))
  const pairs = known.flatMap((above, i) =>
    known.slice(i + 1).map((below): ExpectedPair => {
      const pair = pairOf(outcome, above, below)
      const probability = pair.a === above ? pair.pAMoreStable : 1 - pair.pAMoreStable
      const verdict =
        probability >= SETTLED ? 'as expected' : probability <= 1 - SETTLED ? 'the other way' : 'open'
      return { above, below, probability, verdict }
    }),
  )
  const rank = { 'the other way': 0, 'as expected': 1, open: 2 }
  const surety = (p: ExpectedPair) => Math.abs(p.probability - 0.5)
  return pairs.sort((a, b) => rank[a.verdict] - rank[b.verdict] || surety(b) - surety(a))
}
