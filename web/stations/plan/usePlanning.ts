import { useEffect, useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { plannedDisc } from '../../../contract/proposed.ts'
import { trialNames } from '../../../contract/naming.ts'
import { bodyOf } from '../../../contract/sheet.ts'
import { expectedCarry } from '../../../core/plan/carry.ts'
import { effortOf } from '../../../core/plan/effort.ts'
import { countsOf, madeSoFar } from '../../../core/plan/planning.ts'
import { QUESTION_KINDS } from '../../../core/plan/questions.ts'
import { kindOf } from '../../data/ask.ts'
import type { TrialView } from '../../data/hooks.ts'
import { notFor } from '../../data/me.ts'
import { outbox } from '../../data/outbox.ts'
import { sayWrong } from '../../data/say.ts'
import { afterEvent, doneOf, shownPlan } from './edits.ts'
import type { PlanEvent } from './edits.ts'
import { usePlanWorth } from './usePlanWorth.ts'
import { looksById, looksOf } from '../../strip/hues.ts'

/** What a carry is taken for where nothing foretells one, m. */
const SOME_CARRY_M = 80

/** How the discs of a trial are called on its plan. */
function useCalled({ discs }: TrialView) {
  return useMemo(() => {
    const names = trialNames(discs)
    const codes = new Map(discs.map((d) => [d.disc.id, d.disc.code]))
    const codeOf = (id: string) => codes.get(id) ?? ''
    const named = (code: string) => names.get(code) ?? code
    return {
      codeOf,
      nameOf: (id: string) => named(codeOf(id)),
      lookOf: looksById(discs),
      /** The same by code. */
      named,
      looked: looksOf(discs.map((d) => d.disc.code)),
      idOf: (code: string) => discs.find((d) => d.disc.code === code)!.disc.id,
    }
  }, [discs])
}

/** The plan of a trial as the station shows and edits it. */
export function usePlanning(view: TrialView) {
  const { trial, discs, throws, takenBack, throwers } = view
  const called = useCalled(view)
  const planned = useMemo(() => discs.map(plannedDisc), [discs])
  const protocol = trial.plan?.protocol ?? 'same-release'
  const made = useMemo(() => madeSoFar(throws, protocol), [throws, protocol])
  const [params] = useSearchParams()
  const wanted = params.get('kind')
  const kind = QUESTION_KINDS.find((k) => k === wanted) ?? kindOf(view)
  const about = params.get('pair')
  const plan = useMemo(() => {
    const codes = about?.split(',') ?? []
    const pair = codes.flatMap((code) => discs.find((d) => d.disc.code === code)?.disc.id ?? [])
    return shownPlan(trial, planned, kind, made, pair)
  }, [trial, planned, kind, made, about, discs])

  const locked = throws.length + takenBack.length > 0
  const untold = locked && (trial.plan === null || trial.plan.expected.length === 0)
  const put = (event: PlanEvent) => {
    const row = afterEvent({ trial, plan, discs: planned, throws, untold }, event)
    if (row) void outbox.put('trials', row)
    else sayWrong('That round would need the same disc twice, and there is one of it.')
  }
  const isNew = trial.plan === null
  useEffect(() => {
    if (isNew && notFor('trials') === undefined) put({ did: 'shown' })
    // once: what follows are edits
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isNew])

  const [spend, setSpend] = useState<number | null>(null)
  const weighed = usePlanWorth(view, plan, spend)
  const done = useMemo(() => doneOf(plan, made), [plan, made])
  const [thrower] = throwers
  const carries = useMemo(
    () =>
      new Map(
        discs.map((d) => [
          d.disc.id,
          expectedCarry(d.inForce.numbers, bodyOf(d.disc), thrower?.backhandMps ?? null, plan.power),
        ]),
      ),
    [discs, thrower, plan.power],
  )
  const effort = effortOf(
    plan.throws
      .filter((_, i) => !done.has(i))
      .map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power, thrower: t.throwerId })),
    (id) => carries.get(id) ?? SOME_CARRY_M,
  )
  return {
    view,
    trial,
    plan,
    put,
    ...called,
    counts: countsOf(plan, trial.discIds),
    done,
    locked,
    untold,
    /** Discs that are asked about, in the order expected. */
    asked: (plan.expected.length > 0 ? plan.expected : trial.discIds).filter(
      (id) => id !== trial.controlDiscId,
    ),
    thrower,
    effort,
    longestM: Math.max(0, ...carries.values()),
    weighed,
    spend,
    setSpend,
  }
}
export type PlanningShown = ReturnType<typeof usePlanning>
