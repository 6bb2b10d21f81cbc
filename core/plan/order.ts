import { randomLcg, range, shuffler } from 'd3'
import { LEGS } from '../throw/leg.ts'
import type { Leg } from '../throw/leg.ts'
import type { Cell } from './nextThrow.ts'

/** How many throws of a disc at an angle on a leg. */
export interface CellCount extends Cell {
  readonly leg: Leg
  readonly throws: number
}

/** A throw in its place: there is one specimen of each disc, so a round throws each at most once, then somebody walks. */
export interface OrderedThrow extends Cell {
  readonly leg: Leg
  /** Counted from 0; rounds go out and back by turns. */
  readonly round: number
}

/** Orders people throw in that are not shuffled; each has its bias. */
export const FIXED_ORDER_WORDS = {
  'least-to-most-stable': 'least to most stable',
  'known-before-unknown': 'known before unknown',
  'candidate-last': 'candidate last',
} as const
export type FixedOrder = keyof typeof FIXED_ORDER_WORDS
export const FIXED_ORDERS = Object.keys(FIXED_ORDER_WORDS) as FixedOrder[]

/** What a fixed order does to those who come first and last. */
export const ORDER_BIAS: Record<FixedOrder, string> = {
  'least-to-most-stable':
    'the most stable disc always meets the latest wind and a tired arm, which looks like more fade',
  'known-before-unknown': 'the unknown disc gains by an arm that has just warmed to the known one',
  'candidate-last': 'the candidate always meets the latest wind and a tired arm',
}

export type OrderKind =
  | { readonly kind: 'shuffled'; readonly seed: number }
  /** The same order in every round, as given; whoever comes last meets a warm arm and the latest wind. */
  | { readonly kind: 'fixed' }

/**
 * A Williams design: rows are orders of n treatments. Over its rows every treatment stands in every position equally often,
 * and follows every other equally often: n rows for an even n, 2n for an odd one.
 *
 * Source: E. J. Williams, Experimental designs balanced for the estimation of residual effects of treatments, 1949.
 */
export function williams(n: number): number[][] {
  if (n <= 0) return []
  // 0, 1, n − 1, 2, n − 2, …: steps between neighbours all differ
  const zigzag = range(n).map((i) => (i % 2 === 1 ? (i + 1) / 2 : (n - i / 2) % n))
  const rows = range(n).map((r) => zigzag.map((v) => (v + r) % n))
  return n % 2 === 0 ? rows : [...rows, ...rows.map((row) => [...row].reverse())]
}

/**
 * Puts the throws of a plan in order. Each leg is cut into rounds in which every disc is thrown at most once; rounds go out
 * and back by turns. A disc with fewer throws is spread over the rounds, and its angles over its throws. Shuffled: the rows
 * of a Williams design on seeded labels, so that time, position and predecessor are balanced within each leg as far as
 * the counts allow. The same seed makes the same order.
 *
 * @param counts throws per disc, angle and leg; discs in the order of a fixed plan
 */
export function orderThrows(counts: readonly CellCount[], order: OrderKind): OrderedThrow[] {
  const uniform = randomLcg(order.kind === 'shuffled' ? seedOf(order.seed) : 0)
  const shuffle = shuffler(uniform)
  const shuffled = order.kind === 'shuffled'
  const discs = [...new Set(counts.map((c) => c.disc))]
  const labels = shuffled ? shuffle([...discs]) : discs
  const design = shuffled ? shuffle(williams(discs.length)) : [range(discs.length)]
  let row = 0
  const rounds = LEGS.map((leg) => {
    const angles = new Map(
      discs.map((disc) => [
        disc,
        angleSequence(
          counts.filter((c) => c.disc === disc && c.leg === leg),
          shuffled ? shuffle : (list) => list,
        ),
      ]),
    )
    const count = Math.max(0, ...[...angles.values()].map((s) => s.length))
    const made = range(count).map(() => new Map<string, number>())
    for (const [disc, sequence] of angles) {
      // a disc thrown in some of the rounds only is thrown in evenly spaced ones
      const phase = shuffled ? uniform() : 0.5
      sequence.forEach((deg, i) => made[Math.floor(((i + phase) * count) / sequence.length)]!.set(disc, deg))
    }
    return made.map((round) =>
      design[row++ % design.length]!.flatMap((i) => {
        const hyzerDeg = round.get(labels[i]!)
        return hyzerDeg === undefined ? [] : [{ disc: labels[i]!, hyzerDeg, leg }]
      }),
    )
  })
  const longest = Math.max(...rounds.map((r) => r.length))
  return range(longest)
    .flatMap((r) => rounds.map((leg) => leg[r] ?? []))
    .filter((round) => round.length > 0)
    .flatMap((throws, round) => throws.map((t) => ({ ...t, round })))
}

/** Whole numbers as the generator likes them: spread over 0 … 1. */
const seedOf = (seed: number) => (Math.abs(seed) * 0.6180339887498949 + 0.1) % 1

/** Angles of one disc on one leg in the order they are thrown: by turns, each turn shuffled, as long as they last. */
function angleSequence(counts: readonly CellCount[], shuffle: (list: number[]) => number[]): number[] {
  const left = counts.map((c) => ({ deg: c.hyzerDeg, n: Math.max(0, Math.round(c.throws)) }))
  const sequence: number[] = []
  while (left.some((c) => c.n > 0)) {
    const turn = left.filter((c) => c.n > 0)
    for (const deg of shuffle(turn.map((c) => c.deg))) sequence.push(deg)
    for (const c of turn) c.n--
  }
  return sequence
}

/** A throw as it was made, or is to be made: stroke and power where they are known. */
export interface KindOfThrow extends Cell {
  readonly stroke?: string | undefined
  readonly power?: number | undefined
}

/** Every disc at the same release, or each at the angle that brings it back to the aim line. */
export const PROTOCOL_WORDS = { 'same-release': 'same release', 'same-line': 'same line' } as const
export type Protocol = keyof typeof PROTOCOL_WORDS
export const PROTOCOLS = Object.keys(PROTOCOL_WORDS) as Protocol[]
/** What stands for the angle in a plan whose throws each take the one that brings the disc back to the line. */
export const LINE_DEG = 0

/** Powers further apart than this are not the same throw. */
const SAME_POWER = 0.12

/** Whether two throws are of one kind: one stands for the other in a plan. */
export const alike = (a: KindOfThrow, b: KindOfThrow, protocol: Protocol) =>
  a.disc === b.disc &&
  (protocol === 'same-line' || a.hyzerDeg === b.hyzerDeg) &&
  (a.stroke === undefined || b.stroke === undefined || a.stroke === b.stroke) &&
  (a.power === undefined || b.power === undefined || Math.abs(a.power - b.power) <= SAME_POWER)

/** The throws of a plan still to be made: each throw made takes its like off, the earliest first; on a line whatever its angle. */
export function remainingThrows<T extends KindOfThrow>(
  planned: readonly T[],
  thrown: readonly KindOfThrow[],
  protocol: Protocol = 'same-release',
): T[] {
  const left = [...planned]
  for (const t of thrown) {
    const at = left.findIndex((p) => alike(p, t, protocol))
    if (at >= 0) left.splice(at, 1)
  }
  return left
}
