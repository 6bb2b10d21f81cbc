// Weighs trials one by one for their cards, away from the thread that answers requests.
import { cardOf } from '../../core/judge/card.ts'
import { fit } from '../../core/rating/fit.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import { evidenceOf } from '../../core/rating/fromSheet.ts'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import type { TrialCard } from '../../contract/cards.ts'
import { answers } from './answering.ts'

const cm = (v: number) => Math.round(100 * v) / 100

const work = {
  card(
    trialId: string,
    sheet: readonly SheetThrow[],
    discs: readonly RatedDisc[],
    names: ReadonlyMap<string, string>,
  ): TrialCard {
    const { flights, sentences } = cardOf(fit(evidenceOf(sheet, discs)), (code) => names.get(code) ?? code)
    return {
      trialId,
      flights: flights.map((f) => ({
        disc: f.disc,
        name: names.get(f.disc) ?? f.disc,
        carryM: cm(f.features.carryM),
        path: f.path.map((p) => ({ x: cm(p.x), y: cm(p.y) })),
        band: f.band.map((b) => ({ x: cm(b.x), low: cm(b.low), high: cm(b.high) })),
      })),
      // how many throws more is said in the sentence; as a number it may be endless
      sentences: sentences.map(({ discs: about, ...s }) => ({ ...s, discs: [...about] })),
    }
  },
}

export type CardWork = typeof work
answers(work)
