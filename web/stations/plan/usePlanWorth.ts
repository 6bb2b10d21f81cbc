import { useEffect, useMemo, useState } from 'react'
import type { Plan } from '../../../contract/trials.ts'
import { ratedFromShelf, sheetOf } from '../../../contract/sheet.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { DEGREE } from '../../../core/flight/release.ts'
import type { Candidate } from '../../../core/plan/information.ts'
import { LEGS, remainingThrows } from '../../../core/plan/order.ts'
import type { Leg } from '../../../core/plan/order.ts'
import type { TellingPlan } from '../../../core/plan/telling.ts'
import { armId } from '../../../core/rating/fromSheet.ts'
import type { TrialView } from '../../data/hooks.ts'
import { ratingWorker } from '../../workers/rating.ts'

export interface PlanWorth {
  readonly planned: TellingPlan
  readonly telling: TellingPlan
}

/** A pause in editing before a plan is weighed again, ms. */
const PAUSE = 150

/** What the throws still planned would show, and the most telling ones for as many; weighed anew as the plan is edited. */
export function usePlanWorth(
  view: TrialView,
  plan: Plan,
): { worth: PlanWorth | undefined; working: boolean } {
  const asked = useMemo(() => {
    const thrower = view.throwers[0]
    if (!thrower) return undefined
    const codes = new Map(view.discs.map((d) => [d.disc.id, d.disc.code]))
    const stroke = 'backhand' as const
    const arm = armId({ thrower: thrower.name, hand: thrower.hand, stroke })
    const full = thrower.backhandMps
    const candidate = (disc: string, hyzerDeg: number, leg: Leg): Candidate => ({
      disc: codes.get(disc)!,
      arm,
      power: plan.power,
      hyzerRad: hyzerDeg * DEGREE,
      air: { ...STILL_AIR, windAlongMps: (leg === 'out' ? -1 : 1) * plan.windMps },
      angleCalled: true,
    })
    const left = remainingThrows(
      plan.throws.map((t) => ({ ...t, disc: t.discId })),
      view.throws.filter((t) => t.counts).map((t) => ({ disc: t.discId, hyzerDeg: t.hyzerDeg })),
    ).filter((t) => codes.has(t.disc))
    return {
      sheet: sheetOf(view.file, view.discs, view.throwers),
      discs: view.discs.map((d) => ratedFromShelf(d, view.trial.controlDiscId)),
      arms: [full === null ? { id: arm } : { id: arm, fullSpeedMps: full }],
      planned: left.map((t) => candidate(t.disc, t.hyzerDeg, t.leg)),
      candidates: view.trial.discIds.flatMap((d) =>
        view.trial.hyzerDegs.flatMap((deg) => LEGS.map((leg) => candidate(d, deg, leg))),
      ),
    }
  }, [view, plan])
  const key = useMemo(() => JSON.stringify(asked), [asked])
  const [state, setState] = useState<{ worth?: PlanWorth; key?: string }>({})
  useEffect(() => {
    if (!asked) return
    let current = true
    const wait = setTimeout(() => {
      void ratingWorker()
        .weighPlan(asked.sheet, asked.discs, asked.arms, asked.planned, asked.candidates)
        .then((worth) => current && setState({ worth, key }))
    }, PAUSE)
    return () => {
      current = false
      clearTimeout(wait)
    }
    // the key stands for what is asked
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key])
  return { worth: state.worth, working: state.key !== key }
}
