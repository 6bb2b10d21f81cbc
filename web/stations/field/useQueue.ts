import { WARM_UP } from '../../../core/throw/whyNot.ts'
import { useMemo, useState } from 'react'
import type { Cell } from '../../../core/plan/nextThrow.ts'
import { nextThrows } from '../../../core/plan/nextThrow.ts'
import type { HandToThrow } from '../../../core/plan/hands.ts'
import { LINE_DEG, remainingThrows } from '../../../core/plan/order.ts'
import type { Leg } from '../../../core/throw/leg.ts'
import type { Plan, Throw } from '../../../contract/trials.ts'
import { useOthersHands } from '../../data/hands.ts'
import type { TrialView } from '../../data/hooks.ts'

/** A throw that could be next. */
export interface Proposed extends Cell {
  readonly stroke?: Throw['stroke']
  readonly power?: number
  readonly throwerId?: string | null
  readonly leg?: Leg
  readonly warmUp?: boolean
}

export interface ThrowQueue {
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
 * @param holding names the throw this device is about to make, while it logs
 * @param warm whether warm-up throws are passed over
 */
export function useQueue(
  view: TrialView,
  sessionId: string,
  best: readonly Cell[] | undefined,
  holding: string | undefined,
  warm: boolean,
): ThrowQueue {
  const { trial } = view
  const hands = useOthersHands(trial.id, trial.plan?.protocol ?? 'same-release')
  const { throws, held } = useHeldStill(view.throws, hands.held, holding)
  const others = useMemo(() => [...new Set([...held, ...hands.yielded])], [held, hands.yielded])
  const sameLine = trial.plan?.protocol === 'same-line'
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
        [...counted, ...others],
        Math.max(7, trial.discIds.length * trial.hyzerDegs.length),
      ),
    [trial, counted, others],
  )
  const planned = useMemo(() => {
    const { plan } = trial
    if (!plan) return []
    return remainingThrows(
      plan.throws.map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power })),
      [...counted, ...others],
      plan.protocol,
    )
  }, [trial, counted, others])
  const warmUps = useMemo(
    () => (warm ? [] : warmUpsLeft(trial.plan, throws, sessionId)),
    [warm, trial.plan, throws, sessionId],
  )
  // what somebody else is about to throw is not handed out twice
  const free = best?.filter((b) => !others.some((o) => o.disc === b.disc && o.hyzerDeg === b.hyzerDeg))
  const next =
    free && free.length > 0
      ? free
      : planned.length > 0
        ? [...warmUps.map((disc) => ({ disc, hyzerDeg: 0, warmUp: true })), ...planned]
        : even
  return { next, planned, warmUps }
}

interface Known {
  readonly throws: readonly Throw[]
  /** By others. */
  readonly held: readonly HandToThrow[]
}

/**
 * What was known when this device took its next throw in hand: what others throw and take meanwhile changes nothing of it.
 * Everything while it only looks on.
 */
function useHeldStill(
  throws: readonly Throw[],
  held: readonly HandToThrow[],
  holding: string | undefined,
): Known {
  const [at, setAt] = useState<{
    readonly holding: string
    readonly ids: ReadonlySet<string>
    readonly held: readonly HandToThrow[]
  }>()
  if (holding !== undefined && at?.holding !== holding)
    setAt({ holding, held, ids: new Set(throws.map((t) => t.id)) })
  return useMemo(
    () =>
      holding === undefined || at?.holding !== holding
        ? { throws, held }
        : { throws: throws.filter((t) => at.ids.has(t.id)), held: at.held },
    [throws, held, holding, at],
  )
}
