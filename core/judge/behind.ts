import { mean } from 'd3'
import type { ThrowEvidence } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { CAUSES, explainThrow } from './why.ts'
import type { Cause, Shift } from './why.ts'

/** What stands behind everything that is said of a disc. */
export interface Behind {
  readonly disc: string
  /** Throws that count, oldest first, and the share each has in the numbers; about 1 for an ordinary one. */
  readonly throws: readonly { readonly throw: string; readonly pull: number }[]
  /** What was taken out of them, on average: how far each cause moved their landings from where they were meant. */
  readonly takenOut: readonly (Shift & { readonly cause: Exclude<Cause, 'disc'> })[]
}

/** Throws that are explained at most, evenly spread: each takes 256 flights. */
const MOST_EXPLAINED = 24

/** Throws evenly spread over a list, so many that they can be explained. */
export const sparse = <T>(list: readonly T[]): readonly T[] =>
  list.length <= MOST_EXPLAINED
    ? list
    : Array.from({ length: MOST_EXPLAINED }, (_, i) => list[Math.floor((i * list.length) / MOST_EXPLAINED)]!)

/**
 * The throws behind what is said of some discs, and what was taken out of them.
 *
 * @param own counted throws, oldest first
 */
export function behindOf(state: FitState, own: readonly ThrowEvidence[], discs: readonly string[]): Behind[] {
  const pulls = new Map(state.terms.map((t) => [t.evidence.id, t.weight]))
  return discs.map((disc): Behind => {
    const list = own.filter((t) => t.disc === disc)
    const whys = sparse(list).map((t) => explainThrow(state, t))
    return {
      disc,
      throws: list.map((t) => ({ throw: t.id, pull: pulls.get(t.id) ?? 0 })),
      takenOut: CAUSES.flatMap((cause) =>
        cause === 'disc' || whys.length === 0
          ? []
          : [
              {
                cause,
                carryM: mean(whys, (w) => w.parts[cause].carryM)!,
                veerM: mean(whys, (w) => w.parts[cause].veerM)!,
              },
            ],
      ).sort((a, b) => Math.hypot(b.carryM, b.veerM) - Math.hypot(a.carryM, a.veerM)),
    }
  })
}
