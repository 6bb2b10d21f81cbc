import { expose } from 'comlink'
import { randomLcg } from 'd3'
import { correctedFlight } from '../../core/judge/corrected.ts'
import type { CorrectedFlight, PlanPoint } from '../../core/judge/corrected.ts'
import { pathAsThrown } from '../../core/judge/asThrown.ts'
import { forecastThrow } from '../../core/judge/forecast.ts'
import type { Forecast, PlannedThrow } from '../../core/judge/forecast.ts'
import type { SheetThrow } from '../../core/formats/sheet.ts'
import type { Arm, RatedDisc, ThrowEvidence } from '../../core/rating/evidence.ts'
import { fit } from '../../core/rating/fit.ts'
import type { FitState } from '../../core/rating/fit.ts'
import { evidenceOf } from '../../core/rating/fromSheet.ts'
import { outcomeOf, rankDistribution } from '../../core/rating/outcome.ts'
import type { DiscRanks, Outcome } from '../../core/rating/outcome.ts'

/** Everything a screen shows of a trial's throws. */
export interface Reading {
  readonly outcome: Outcome
  /** Ranks of the discs asked about: all but the control disc. */
  readonly ranks: readonly DiscRanks[]
  readonly corrected: readonly CorrectedFlight[]
  readonly asThrown: readonly { readonly throw: string; readonly path: readonly PlanPoint[] }[]
  /** How long the fit took, ms. */
  readonly tookMs: number
}

const fits = new Map<string, FitState>()

/** Fits live here, one a trial, each the warm start of the next. */
const rating = {
  rate(trial: string, sheet: readonly SheetThrow[], discs: readonly RatedDisc[]): Reading {
    const start = performance.now()
    const warm = fits.get(trial)
    const state = fit(evidenceOf(sheet, discs), warm ? { warm } : {})
    fits.set(trial, state)
    const outcome = outcomeOf(state)
    const aside = new Set(discs.filter((d) => d.control).map((d) => d.id))
    const tookMs = performance.now() - start
    return {
      outcome,
      // always the same draws, so that a percentage moves only when a throw moves it
      ranks: rankDistribution(outcome, randomLcg(0.5), aside),
      corrected: outcome.discs.map(correctedFlight),
      asThrown: state.terms.map((t) => ({ throw: t.evidence.id, path: pathAsThrown(state, t.evidence) })),
      tookMs,
    }
  },
  forecast(trial: string, planned: PlannedThrow, arms: readonly Arm[]): Forecast | undefined {
    const state = fits.get(trial)
    return state && forecastThrow(state, planned, arms)
  },
  path(trial: string, thrown: ThrowEvidence, arms: readonly Arm[]): PlanPoint[] | undefined {
    const state = fits.get(trial)
    return state && pathAsThrown(state, thrown, arms)
  },
}
export type RatingWorker = typeof rating
expose(rating)
