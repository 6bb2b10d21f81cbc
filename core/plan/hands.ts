import type { KindOfThrow, Protocol } from './order.ts'
import { alike } from './order.ts'

/** What a device is about to throw, and since when, ms. */
export interface HandToThrow extends KindOfThrow {
  readonly device: string
  readonly since: number
}

const first = (a: HandToThrow, b: HandToThrow) =>
  a.since < b.since || (a.since === b.since && a.device < b.device)

/**
 * Throws that other devices have in hand, and that this one leaves to them: of two that hold the same throw, the one that
 * held it first throws it. Every device that applies this to the same hands comes to the same division.
 *
 * @param hands what every device holds
 * @param device this one
 * @param protocol which throws are the same
 */
export function heldByOthers(
  hands: readonly HandToThrow[],
  device: string,
  protocol: Protocol,
): HandToThrow[] {
  const own = hands.find((h) => h.device === device)
  return hands.filter((h) => h.device !== device && !(own && alike(own, h, protocol) && first(own, h)))
}

/** Of these, those for which this device lets go of what it holds: the same throw, held by another before. */
export function yieldedTo(hands: readonly HandToThrow[], device: string, protocol: Protocol): HandToThrow[] {
  const own = hands.find((h) => h.device === device)
  return own ? heldByOthers(hands, device, protocol).filter((h) => alike(own, h, protocol)) : []
}
