import type { FitState } from '../rating/state.ts'
import { pairOf } from '../rating/outcome.ts'
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

/** Neighbours on the ladder whose order is still open. */
export const unsettledNeighbours = (state: FitState, outcome: Outcome): Neighbours[] =>
  neighboursOf(ladderOf(state, outcome)).filter((pair) => sureness(outcome, pair) < SETTLED)

/** The same; all neighbours once none is open. */
export function openNeighbours(state: FitState, outcome: Outcome): Neighbours[] {
  const open = unsettledNeighbours(state, outcome)
  return open.length > 0 ? open : neighboursOf(ladderOf(state, outcome))
}

/** How sure the order of two discs is, either way. */
export function sureness(outcome: Outcome, [a, b]: readonly [string, string]): number {
  const { pAMoreStable: p } = pairOf(outcome, a, b)
  return Math.max(p, 1 - p)
}
