/** Where a finger was, px, and when, ms. */
export interface Touched {
  readonly x: number
  readonly y: number
  readonly ms: number
}

/** A finger that is lifted rolls over its tip: what it did so shortly before, ms, and no farther than that, px, was not meant. */
const ROLLS = { ms: 90, px: 18 }

/**
 * Where a finger rested before it was lifted.
 *
 * @param trail where it was, oldest first, the last where it left the glass; not empty
 */
export function restedAt(trail: readonly Touched[]): Touched {
  const last = trail[trail.length - 1]!
  const before = trail.findLast((t) => last.ms - t.ms >= ROLLS.ms)
  // one that is still under way is let go where it is
  return before && Math.hypot(last.x - before.x, last.y - before.y) <= ROLLS.px ? before : last
}

/** So much of a trail as {@link restedAt} looks at, and what comes after it. */
export const trailed = (trail: readonly Touched[], next: Touched): readonly Touched[] => {
  const from = trail.findLastIndex((t) => next.ms - t.ms >= ROLLS.ms)
  return [...trail.slice(Math.max(0, from)), next]
}

/** A finger that stays so short, ms, and so near, px, says where, and takes hold of nothing. */
const TAP = { ms: 300, px: 10 }
export const isTap = (down: Touched, up: Touched): boolean =>
  up.ms - down.ms < TAP.ms && Math.hypot(up.x - down.x, up.y - down.y) < TAP.px
