import type { Stroke } from '../flight/hand.ts'
import type { OrderedThrow } from './order.ts'

/** How the throws of a plan are shared out. */
export interface Deal {
  readonly strokes: readonly Stroke[]
  /** Shares of full power; each disc is thrown with all of them by turns. */
  readonly powers: readonly number[]
  /** Who throws, by turns; empty where nobody was named. */
  readonly throwers: readonly string[]
}

export interface DealtThrow extends OrderedThrow {
  readonly stroke: Stroke
  readonly power: number
  readonly thrower: string | null
}

/**
 * Deals strokes, powers and throwers onto throws in their order. Every disc and angle meets every stroke and power as
 * evenly as its throws allow, each disc starting with another one. Throwers take a walk out and back each; whoever went
 * first goes last in the next turn, so that nobody always has the earlier wind.
 */
export function deal(throws: readonly OrderedThrow[], { strokes, powers, throwers }: Deal): DealtThrow[] {
  const kinds = strokes.flatMap((stroke) => powers.map((power) => ({ stroke, power })))
  const discs = [...new Set(throws.map((t) => t.disc))]
  const met = new Map<string, number>()
  const n = throwers.length
  return throws.map((t) => {
    const cell = `${t.disc} ${t.hyzerDeg}`
    const before = met.get(cell) ?? 0
    met.set(cell, before + 1)
    // odd rounds are the way back of the walk before
    const walk = Math.floor(t.round / 2)
    const turn = Math.floor(walk / Math.max(1, n))
    const place = walk % Math.max(1, n)
    return {
      ...t,
      ...kinds[(before + discs.indexOf(t.disc)) % kinds.length]!,
      thrower: n === 0 ? null : throwers[turn % 2 === 0 ? place : n - 1 - place]!,
    }
  })
}
