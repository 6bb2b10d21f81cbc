import type { ThrowEvidence } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { outcomeOf, rankDistribution } from '../rating/outcome.ts'
import type { DiscRanks, Outcome } from '../rating/outcome.ts'
import { correctedFlight } from './corrected.ts'
import type { CorrectedFlight } from './corrected.ts'
import { ladderOf, neighboursOf } from './ladder.ts'
import { settling } from './resolve.ts'
import type { Settling } from './resolve.ts'
import { statements } from './statements.ts'
import type { Statement } from './statements.ts'
import { kindsLike } from './kinds.ts'

/** Sentences on a card. */
const SENTENCES = 2

/** Ranks of the discs asked about. */
export const ranksOf = (outcome: Outcome, aside: ReadonlySet<string>): DiscRanks[] =>
  rankDistribution(outcome, aside)

/**
 * What would settle the neighbours on the ladder that are still open.
 *
 * @param counted the throws that more would be like: all that count, or a trial's own
 */
export function settlingsOf(
  state: FitState,
  outcome: Outcome,
  counted: readonly ThrowEvidence[] = state.evidence.throws.filter((t) => t.counts),
): Settling[] {
  const kinds = kindsLike(counted)
  if (kinds.length === 0) return []
  return neighboursOf(ladderOf(state, outcome)).map(([a, b]) => settling(state, a, b, kinds))
}

/** The sentences nearest to a question still open, those about labels aside. */
export function nearestOpen(said: readonly Statement[]): Statement[] {
  const shown = said.filter((s) => s.kind !== 'label')
  return [...shown.filter((s) => !s.settled), ...shown.filter((s) => s.settled)].slice(0, SENTENCES)
}

/** What a trial says so far, for a card of it. */
export function cardOf(
  state: FitState,
  name: (disc: string) => string,
): { readonly flights: readonly CorrectedFlight[]; readonly sentences: readonly Statement[] } {
  const outcome = outcomeOf(state)
  const aside = new Set(state.evidence.discs.filter((d) => d.control).map((d) => d.id))
  return {
    flights: outcome.discs.map((d) => correctedFlight(d)),
    sentences: nearestOpen(
      statements(outcome, ranksOf(outcome, aside), { name }, settlingsOf(state, outcome)),
    ),
  }
}
