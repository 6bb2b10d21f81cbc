import { SEEN_NUMBERS } from '../flight/disc.ts'
import type { SeenNumber } from '../flight/disc.ts'
import { effectColumn } from '../rating/beliefs.ts'
import { discrepancyBetween } from '../rating/discrepancy.ts'
import { normalCdf } from '../rating/normal.ts'
import type { FitState } from '../rating/state.ts'
import { combination } from './effects.ts'

/** A published number that the throws of a plastic speak against. */
export interface LabelGap {
  readonly number: SeenNumber
  /** Mean over the discs. */
  readonly published: number
  readonly seen: number
  readonly probability: number
  readonly throws: number
  readonly discs: number
}

/** A plastic whose numbers its throws speak against: its discs, and which numbers. */
export interface LabelGaps {
  readonly discs: readonly string[]
  readonly gaps: readonly LabelGap[]
}

/** Smaller gaps are no news, fewer throws no grounds. */
const WORTH_SAYING = 0.4
const SURE = 0.95
const FEWEST_THROWS = 6

/**
 * Where discs of one plastic fly against its published numbers: what its mold, its blend and the plastic itself have in common
 * beyond the label, from the posterior of all of them together. One disc of a plastic cannot speak for it: what is that disc's
 * own cannot be told from what is the plastic's.
 */
export function labelGaps(state: FitState): LabelGaps[] {
  const { evidence, kinship } = state
  const throwsOf = new Map<string, number>()
  for (const t of evidence.throws) if (t.counts) throwsOf.set(t.disc, (throwsOf.get(t.disc) ?? 0) + 1)
  return kinship.effects.flatMap((plastic): LabelGaps[] => {
    if (plastic.level !== 'plastic') return []
    const discs = plastic.discs.flatMap((d) => {
      const disc = evidence.discs[d]!
      return throwsOf.has(disc.id) ? [disc] : []
    })
    const throws = discs.reduce((n, d) => n + throwsOf.get(d.id)!, 0)
    if (discs.length < 2 || throws < FEWEST_THROWS) return []
    const shared = kinship.of[plastic.discs[0]!]!.filter(({ effect }) =>
      ['mold', 'blend', 'plastic'].includes(kinship.effects[effect]!.level),
    )
    const gaps = SEEN_NUMBERS.flatMap((number, k): LabelGap[] => {
      const { value, sd } = combination(
        state,
        new Map(shared.map(({ effect }) => [effectColumn(evidence.arms.length, effect) + k, 1])),
      )
      const model = discrepancyBetween(state, plastic.discs[0]!, plastic.discs[1]!)[k]!
      const probability = normalCdf(Math.abs(value) / Math.sqrt(sd * sd + model))
      if (probability < SURE || Math.abs(value) < WORTH_SAYING) return []
      const published = discs.reduce((s, d) => s + d.published[number], 0) / discs.length
      return [{ number, published, seen: published + value, probability, throws, discs: discs.length }]
    })
    return gaps.length === 0 ? [] : [{ discs: discs.map((d) => d.id), gaps }]
  })
}
