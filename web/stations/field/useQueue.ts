import { WARM_UP } from '../../../core/throw/whyNot.ts'
import { useMemo } from 'react'
import type { Cell } from '../../../core/plan/nextThrow.ts'
import { nextThrows } from '../../../core/plan/nextThrow.ts'
import { LINE_DEG, remainingThrows } from '../../../core/plan/order.ts'
import type { Leg } from '../../../core/throw/leg.ts'
import type { Plan, Throw } from '../../../contract/trials.ts'
import type { TrialView } from '../../data/hooks.ts'

/** A throw that could be next. */
export interface Proposed extends Cell {
  readonly stroke?: Throw['stroke']
  readonly power?: number
  readonly throwerId?: string | null
  readonly leg?: Leg
  readonly warmUp?: boolean
}

export interface Queue {
  /** What comes, first first; never empty while the trial has discs. */
  readonly next: readonly Proposed[]
  /** What the plan still has to be thrown, in its order. */
  readonly planned: readonly (Proposed & Plan['throws'][number])[]
  /** Warm-up throws this outing still has. */
  readonly warmUps: readonly string[]
}

/** Warm-up throws of a plan that this outing has not had; none once a throw of it counts. */
function warmUpsLeft(plan: Plan | null, throws: readonly Throw[], sessionId: string): readonly string[] {
  const own = throws.filter((t) => t.sessionId === sessionId)
  if (!plan || own.some((t) => t.counts)) return []
  return plan.warmUps.slice(own.filter((t) => t.whyNot === WARM_UP).length)
}

/**
 * What is to be thrown: the most telling throws where they are wanted, else the plan’s with its warm-ups, else what was
 * thrown least. Throws of a same-line trial are alike whatever angle they took.
 *
 * @param best the most telling throws, best first, where they are wanted and known
 */
export function useQueue(view: TrialView, sessionId: string, best: readonly Cell[] | undefined): Queue {
  const { trial, throws } = view
  const sameLine = trial.plan?.protocol === 'same line'
  const counted = useMemo(
    () =>
      throws
        .filter((t) => t.counts)
        .map((t) => ({ ...t, disc: t.discId, ...(sameLine && { hyzerDeg: LINE_DEG }) })),
    [throws, sameLine],
  )
  const even = useMemo(
    () =>
      nextThrows(
        trial.discIds,
        trial.hyzerDegs,
        counted,
        Math.max(7, trial.discIds.length * trial.hyzerDegs.length),
      ),
    [trial, counted],
  )
  const planned = useMemo(() => {
    const { plan } = trial
    if (!plan) return []
    return remainingThrows(
      plan.throws.map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power })),
      counted,
      plan.protocol,
    )
  }, [trial, counted])
  const warmUps = useMemo(() => warmUpsLeft(trial.plan, throws, sessionId), [trial.plan, throws, sessionId])
  const next =
    best && best.length > 0
      ? best
      : planned.length > 0
        ? [...warmUps.map((disc) => ({ disc, hyzerDeg: 0, warmUp: true })), ...planned]
        : even
  return { next, planned, warmUps }
}
