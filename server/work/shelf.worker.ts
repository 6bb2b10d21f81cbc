// Weighs what was thrown for the whole shelf, away from the thread that answers requests.
import { parentPort } from 'node:worker_threads'
import { expose } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import { likest } from '../../core/judge/likeness.ts'
import type { FlownDisc } from '../../core/judge/likeness.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import type { LeftOut } from '../../core/rating/digest.ts'
import { fit } from '../../core/rating/fit.ts'
import type { FitState } from '../../core/rating/state.ts'
import { evidenceOf } from '../../core/rating/fromSheet.ts'
import { outcomeOf } from '../../core/rating/outcome.ts'
import type { DiscOutcome } from '../../core/rating/outcome.ts'

interface Weighed {
  readonly discs: readonly DiscOutcome[]
  readonly leftOut: readonly LeftOut[]
}

let last: FitState | undefined

const work = {
  /** Every disc that was thrown, from everything that was thrown; a warm start from the time before. */
  rate(sheet: readonly SheetThrow[], discs: readonly RatedDisc[]): Weighed {
    last = fit(evidenceOf(sheet, discs), last && { warm: last })
    return { discs: outcomeOf(last).discs, leftOut: last.leftOut }
  },
  /** Days weighed one by one, each on its own. */
  days(
    days: readonly { readonly sheet: readonly SheetThrow[]; readonly discs: readonly RatedDisc[] }[],
  ): readonly (readonly DiscOutcome[])[] {
    return days.map(({ sheet, discs }) => outcomeOf(fit(evidenceOf(sheet, discs))).discs)
  },
  likest(disc: FlownDisc, others: ReadonlyMap<string, FlownDisc>, speedMps: number) {
    return likest(disc, others, speedMps)
  },
}

export type ShelfWork = typeof work
expose(work, nodeEndpoint(parentPort!))
