import type { FitState } from '../rating/state.ts'
import type { Outcome } from '../rating/outcome.ts'
import { SETTLED } from './statements.ts'

/** Two neighbours on the ladder, the more stable first. */
export type Neighbours = readonly [above: string, below: string]

/** Discs a trial asks about, from most to least stable: the control disc is not asked about. */
export function ladderOf(state: FitState, outcome: Outcome): string[] {
  const control = new Set(state.evidence.discs.filter((d) => d.control).map((d) => d.id))
  return outcome.discs
    .filter((d) => !control.has(d.disc))
    .sort((a, b) => b.side.value - a.side.value)
    .map((d) => d.disc)
}

/** Every disc of a ladder with the one below it. */
export const neighboursOf = (ladder: readonly string[]): Neighbours[] =>
  ladder.slice(1).map((below, i) => [ladder[i]!, below])

/** Neighbours whose order is still open; all of them once none is. */
export function openNeighbours(state: FitState, outcome: Outcome): Neighbours[] {
  const pairs = neighboursOf(ladderOf(state, outcome))
  const open = pairs.filter(([a, b]) => {
    const pair = outcome.pairs.find((x) => (x.a === a && x.b === b) || (x.a === b && x.b === a))!
    return Math.max(pair.pAMoreStable, 1 - pair.pAMoreStable) < SETTLED
  })
  return open.length > 0 ? open : pairs
}
