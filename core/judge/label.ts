import type { FlightNumbers } from '../flight/disc.ts'
import { normalCdf } from '../rating/normal.ts'
import type { Estimate } from '../rating/outcome.ts'

/** A disc's rating beside the numbers it is held to. */
export interface RatedAgainst {
  readonly published: FlightNumbers
  readonly glide: Estimate
  readonly turn: Estimate
  readonly fade: Estimate
  readonly throws: number
}

/** A published number that the throws of several discs, together, speak against. */
export interface LabelGap {
  readonly number: 'glide' | 'turn' | 'fade'
  /** Mean over the discs. */
  readonly published: number
  readonly seen: number
  readonly probability: number
  readonly throws: number
  readonly discs: number
}

/** Discs of one plastic differ by this much even when its label is right. */
const BETWEEN_DISCS_SD = 0.3
/** Smaller gaps are no news, fewer throws no grounds. */
const WORTH_SAYING = 0.4
const SURE = 0.95
const FEWEST_THROWS = 6

/**
 * Where discs of one plastic fly against its published numbers: the gaps of its discs, weighed by their precision, with
 * what discs differ among themselves allowed for. Ratings lean to the label, so that a gap is rather understated.
 *
 * @param discs of one plastic, none of them worn: a label does not speak of worn discs
 */
export function labelGaps(discs: readonly RatedAgainst[]): LabelGap[] {
  const thrown = discs.filter((d) => d.throws > 0)
  const throws = thrown.reduce((n, d) => n + d.throws, 0)
  if (throws < FEWEST_THROWS) return []
  return (['glide', 'turn', 'fade'] as const).flatMap((number) => {
    let [weight, gap, published] = [0, 0, 0]
    for (const d of thrown) {
      const w = 1 / (d[number].sd ** 2 + BETWEEN_DISCS_SD ** 2)
      weight += w
      gap += w * (d[number].value - d.published[number])
      published += w * d.published[number]
    }
    gap /= weight
    published /= weight
    const probability = normalCdf(Math.abs(gap) * Math.sqrt(weight))
    return probability < SURE || Math.abs(gap) < WORTH_SAYING
      ? []
      : [{ number, published, seen: published + gap, probability, throws, discs: thrown.length }]
  })
}
