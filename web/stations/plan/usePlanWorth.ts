import { useMemo } from 'react'
import type { Plan } from '../../../contract/trials.ts'
import { ratedFromShelf, sheetOf } from '../../../contract/sheet.ts'
import type { TellingPlan } from '../../../core/plan/telling.ts'
import type { Limit } from '../../../core/judge/limits.ts'
import { planQuestion } from '../../../core/plan/weighed.ts'
import { armId } from '../../../core/rating/fromSheet.ts'
import { useAsked } from '../../data/useAsked.ts'
import type { AskedAnswer } from '../../data/useAsked.ts'
import { askIn } from '../../data/ask.ts'
import type { TrialView } from '../../data/hooks.ts'
import { numberOf } from '../../workers/lines.ts'
import { askRating } from '../../workers/rating.ts'

export interface PlanWeighed {
  /** What the plan would do for everything the question could be about. */
  readonly settles: TellingPlan
  readonly planned: TellingPlan
  /** As many throws, spread evenly. */
  readonly even: TellingPlan
  readonly telling: TellingPlan
  /** What further evidence would narrow the pair nearest to being settled most. */
  readonly limit: Limit | undefined
}

/** A pause in editing before a plan is weighed again, ms. */
const PAUSE_MS = 150

/** What the throws still planned would show, and the most telling ones for as many; weighed anew as the plan is edited. */
export function usePlanWorth(
  view: TrialView,
  plan: Plan,
  /** Throws the telling set may hold; as many as are left where nobody says. */
  spend: number | null,
): AskedAnswer<PlanWeighed> {
  const asked = useMemo(() => {
    const first = view.throwers[0]
    if (!first) return undefined
    const codes = new Map(view.discs.map((d) => [d.disc.id, d.disc.code]))
    const question = planQuestion(
      plan,
      view.throws,
      view.trial.discIds,
      view.trial.hyzerDegs,
      (id) => codes.get(id),
      (throwerId, stroke) => {
        const thrower = view.throwers.find((t) => t.id === throwerId) ?? first
        const id = armId({ thrower: thrower.name, hand: thrower.hand, stroke })
        const full = stroke === 'backhand' ? thrower.backhandMps : thrower.forehandMps
        return full === null ? { id } : { id, fullSpeedMps: full }
      },
    )
    return {
      sheet: sheetOf(view.file, view.discs, view.throwers),
      discs: view.discs.map((d) => ratedFromShelf(d, view.trial.controlDiscId)),
      question,
      spend: spend ?? question.planned.length,
      protocol: plan.protocol,
      ask: askIn(plan, (id) => codes.get(id)),
    }
  }, [view, plan, spend])
  const key = useMemo(() => {
    if (!asked) return null
    const { sheet, ...rest } = asked
    return JSON.stringify([sheet.map(numberOf), rest])
  }, [asked])
  return useAsked(
    key,
    () => {
      const { sheet, discs, question, spend, protocol, ask } = asked!
      return askRating((w, told) =>
        w.weighPlan({ lines: told.lines(sheet), discs }, question, spend, protocol, ask),
      )
    },
    { about: view.trial.id, pauseMs: PAUSE_MS },
  )
}
