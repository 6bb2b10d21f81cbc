import type { DrillKind } from './question.ts'
import { levelAfter } from './staircase.ts'

/** How one kind of question was answered, and how hard the next one is. */
export interface KindSoFar {
  readonly kind: DrillKind
  readonly answers: number
  readonly right: number
  /** Of 100, on average. */
  readonly points: number
  /** 0…1 */
  readonly level: number
}

/**
 * Every kind of question that was answered, the most often answered first.
 *
 * @param all oldest first
 */
export function kindsSoFar(
  all: readonly { readonly kind: DrillKind; readonly right: boolean; readonly points: number }[],
): KindSoFar[] {
  const kinds = [...new Set(all.map((a) => a.kind))]
  return kinds
    .map((kind) => {
      const own = all.filter((a) => a.kind === kind)
      return {
        kind,
        answers: own.length,
        right: own.filter((a) => a.right).length / own.length,
        points: own.reduce((sum, a) => sum + a.points, 0) / own.length,
        level: levelAfter(own.map((a) => a.right)),
      }
    })
    .sort((a, b) => b.answers - a.answers)
}
