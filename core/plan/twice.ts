import { alike } from './order.ts'
import type { KindOfThrow, Protocol } from './order.ts'

/** A throw that was made, and on which device it was logged. */
export interface LoggedThrow extends KindOfThrow {
  readonly id: string
  /** When, ms. */
  readonly at: number
  /** Who logged it with what; undefined where nobody knows. */
  readonly by: string | undefined
}

/** Two devices that logged the same throw so close to each other did not know of each other, ms. */
const UNAWARE_MS = 5 * 60_000

/**
 * Throws of a plan that two devices both made because neither knew of the other: of one kind, within five minutes, and more
 * of that kind than the plan has. Both count; whoever threw may want to leave one out.
 *
 * @param throws that count, oldest first
 * @param planned every throw of the plan
 */
export function thrownTwice<T extends LoggedThrow>(
  throws: readonly T[],
  planned: readonly KindOfThrow[],
  protocol: Protocol,
): (readonly [T, T])[] {
  return throws.flatMap((second, i) => {
    const like = throws.slice(0, i).filter((t) => alike(t, second, protocol))
    const first = like.findLast((t) => t.by !== second.by && second.at - t.at < UNAWARE_MS)
    const wanted = planned.filter((p) => alike(p, second, protocol)).length
    if (!first || first.by === undefined || second.by === undefined) return []
    return wanted > 0 && like.length + 1 > wanted ? [[first, second] as const] : []
  })
}
