import { millisecondsInDay } from 'date-fns/constants'

/** One a day for a week, one a week for a quarter. */
const DAYS = 7
const WEEKS = 13

/** A copy, as far as it matters whether it stays. */
export interface Dated {
  readonly at: number
  readonly bytes: number
}

/**
 * Which copies stay: the newest of all; of the last seven days the newest of each; of the last thirteen weeks the newest of
 * each; and of those, from the newest on, as many as there is room for.
 *
 * @param now ms
 * @param most bytes all of them may hold
 */
export function staying<T extends Dated>(copies: readonly T[], now: number, most: number): T[] {
  const newestFirst = copies.toSorted((a, b) => b.at - a.at)
  const [newest] = newestFirst
  if (!newest) return []
  const newestOf = (ms: number, count: number) => {
    const slots = new Map<number, T>()
    for (const copy of newestFirst) {
      const slot = Math.floor(now / ms) - Math.floor(copy.at / ms)
      if (slot < count && !slots.has(slot)) slots.set(slot, copy)
    }
    return slots.values()
  }
  const kept = new Set([
    newest,
    ...newestOf(millisecondsInDay, DAYS),
    ...newestOf(7 * millisecondsInDay, WEEKS),
  ])
  let room = most
  return newestFirst.filter((copy) => {
    if (!kept.has(copy)) return false
    room -= copy.bytes
    return copy === newest || room >= 0
  })
}
