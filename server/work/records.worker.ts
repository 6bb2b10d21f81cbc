// Weighs what a disc's page says of it, away from the thread that answers requests.
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import { likest } from '../../core/judge/likeness.ts'
import type { FlownDisc } from '../../core/judge/likeness.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import { fit } from '../../core/rating/fit.ts'
import { evidenceOf } from '../../core/rating/fromSheet.ts'
import { discsOf } from '../../core/rating/outcome.ts'
import { discScatter } from '../../core/rotation/scatter.ts'
import type { DayOutcome } from '../../core/rotation/scatter.ts'
import { answers } from './answering.ts'

const work = {
  /** A day weighed on its own. */
  day(sheet: readonly SheetThrow[], discs: readonly RatedDisc[]): readonly DayOutcome[] {
    const state = fit(evidenceOf(sheet, discs))
    const scatter = discScatter(state)
    return discsOf(state).map((d) => ({ ...d, scatter: scatter.get(d.disc) ?? null }))
  },
  likest(
    disc: FlownDisc,
    others: ReadonlyMap<string, FlownDisc>,
    armMps: number,
    shown: { readonly most: number; readonly least: number },
  ) {
    return likest(disc, others, armMps, shown)
  },
}

export type RecordWork = typeof work
answers(work)
