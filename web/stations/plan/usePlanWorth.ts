import { useEffect, useMemo, useState } from 'react'
import type { Plan } from '../../../contract/trials.ts'
import { ratedFromShelf, sheetOf } from '../../../contract/sheet.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { DEGREE } from '../../../core/flight/release.ts'
import type { Candidate } from '../../../core/plan/information.ts'
import { LEGS, remainingThrows } from '../../../core/plan/order.ts'
import type { Leg } from '../../../core/plan/order.ts'
import type { TellingPlan } from '../../../core/plan/telling.ts'
import type { Stroke } from '../../../core/flight/hand.ts'
import type { Arm } from '../../../core/rating/evidence.ts'
import { armId } from '../../../core/rating/fromSheet.ts'
import type { TrialView } from '../../data/hooks.ts'
import { dealOf } from './planning.ts'
import { ratingWorker } from '../../workers/rating.ts'

export interface PlanWorth {
  readonly planned: TellingPlan
  /** As many throws, spread evenly. */
  readonly even: TellingPlan
  readonly telling: TellingPlan
}

/** A pause in editing before a plan is weighed again, ms. */
const PAUSE = 150

/** So many of a list, at even distances, and all of it again where there are more. */
function spreadOver<T>(list: readonly T[], count: number): T[] {
  const whole = Math.floor(count / Math.max(1, list.length))
  const rest = list.length === 0 ? 0 : count % list.length
  return [
    ...Array.from({ length: whole }, () => list).flat(),
    ...Array.from({ length: rest }, (_, i) => list[Math.floor(((i + 0.5) * list.length) / rest)]!),
  ]
}

/** What the throws still planned would show, and the most telling ones for as many; weighed anew as the plan is edited. */
export function usePlanWorth(
  view: TrialView,
  plan: Plan,
  /** Throws the telling set may hold; as many as are left where nobody says. */
  spend: number | null,
): { worth: PlanWorth | undefined; working: boolean } {
  const asked = useMemo(() => {
    const first = view.throwers[0]
    if (!first) return undefined
    const codes = new Map(view.discs.map((d) => [d.disc.id, d.disc.code]))
    const arms = new Map<string, Arm>()
    const armOf = (throwerId: string | null, stroke: Stroke): string => {
      const thrower = view.throwers.find((t) => t.id === throwerId) ?? first
      const id = armId({ thrower: thrower.name, hand: thrower.hand, stroke })
      const full = stroke === 'backhand' ? thrower.backhandMps : thrower.forehandMps
      arms.set(id, full === null ? { id } : { id, fullSpeedMps: full })
      return id
    }
    const candidate = (disc: string, hyzerDeg: number, leg: Leg, arm: string, power: number): Candidate => ({
      disc: codes.get(disc)!,
      arm,
      power,
      hyzerRad: hyzerDeg * DEGREE,
      air: { ...STILL_AIR, windAlongMps: (leg === 'out' ? -1 : 1) * plan.windMps },
      angleCalled: true,
    })
    const left = remainingThrows(
      plan.throws.map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power })),
      view.throws.filter((t) => t.counts).map((t) => ({ ...t, disc: t.discId })),
      plan.protocol,
    ).filter((t) => codes.has(t.disc))
    const { strokes, powers, throwers } = dealOf(plan)
    const who = throwers.length > 0 ? throwers : [first.id]
    const candidates = view.trial.discIds.flatMap((d) =>
      view.trial.hyzerDegs.flatMap((deg) =>
        LEGS.flatMap((leg) =>
          strokes.flatMap((stroke) =>
            powers.flatMap((power) => who.map((id) => candidate(d, deg, leg, armOf(id, stroke), power))),
          ),
        ),
      ),
    )
    return {
      sheet: sheetOf(view.file, view.discs, view.throwers),
      discs: view.discs.map((d) => ratedFromShelf(d, view.trial.controlDiscId)),
      planned: left.map((t) => candidate(t.disc, t.hyzerDeg, t.leg, armOf(t.throwerId, t.stroke), t.power)),
      even: spreadOver(candidates, left.length),
      candidates,
      spend: spend ?? left.length,
      protocol: plan.protocol,
      // after the candidates, which name them
      arms: [...arms.values()],
    }
  }, [view, plan, spend])
  const key = useMemo(() => JSON.stringify(asked), [asked])
  const [state, setState] = useState<{ worth?: PlanWorth; key?: string }>({})
  useEffect(() => {
    if (!asked) return
    let current = true
    const wait = setTimeout(() => {
      void ratingWorker()
        .weighPlan(
          asked.sheet,
          asked.discs,
          asked.arms,
          asked.planned,
          asked.even,
          asked.candidates,
          asked.spend,
          asked.protocol,
        )
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
