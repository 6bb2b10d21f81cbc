import { BLANK_PLAN } from '../../../contract/trials.ts'
import type { Plan, Trial } from '../../../contract/trials.ts'
import { seedOf } from '../../../contract/proposed.ts'
import { remainingThrows } from '../../../core/plan/order.ts'
import type { CellCount } from '../../../core/plan/order.ts'
import {
  anglesFor,
  countsOf,
  evenCounts,
  madeSoFar,
  overAngles,
  proposed,
  reordered,
  stepped,
  swapped,
} from '../../../core/plan/planning.ts'
import type { MadeThrow, PlanDisc, PlanThrow } from '../../../core/plan/planning.ts'
import { questionOf } from '../../../core/plan/questions.ts'
import { wordsAsking } from '../../data/ask.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'

/** A plan as it is looked at and edited: its trial, its discs, and what was thrown of it. */
export interface Planning {
  readonly trial: Trial
  readonly plan: Plan
  readonly discs: readonly PlanDisc[]
  readonly throws: readonly MadeThrow[]
  /** Something was thrown before anybody said what to expect: afterwards nobody remembers it right. */
  readonly untold: boolean
}

/** What somebody does to a plan, in words of the screen. */
export type PlanEvent =
  /** It was shown for the first time: what was shown is what the Field throws, however somebody goes there. */
  | { readonly did: 'shown' }
  /** Something beside its throws: what is expected and claimed, which pair it is about, when and where. */
  | { readonly did: 'changed'; readonly change: Partial<Omit<Plan, 'throws'>> }
  /** Something its throws are dealt by: they are put in order again. */
  | { readonly did: 'dealt'; readonly change: Partial<Omit<Plan, 'throws'>> }
  | { readonly did: 'asked'; readonly kind: QuestionKind }
  /** The question in words of one's own. */
  | { readonly did: 'worded'; readonly question: string }
  | { readonly did: 'chose protocol'; readonly protocol: Plan['protocol'] }
  | { readonly did: 'stepped'; readonly disc: string; readonly hyzerDeg: number; readonly by: 1 | -1 }
  | { readonly did: 'took counts'; readonly counts: readonly CellCount[] }
  | { readonly did: 'evened' }
  | { readonly did: 'swapped'; readonly one: number; readonly other: number }

/**
 * The plan that is shown: that of the trial, or what its question proposes until there is one. Whoever comes to settle a pair finds it
 * asking about that.
 *
 * @param pair two discs it was opened for; none where it was opened by itself
 */
export function shownPlan(
  trial: Trial,
  discs: readonly PlanDisc[],
  kind: QuestionKind,
  made: readonly PlanThrow[],
  pair: readonly string[],
): Plan {
  const own = trial.plan ?? { ...BLANK_PLAN, ...proposed(trial, discs, kind, seedOf(trial.id), made) }
  const [one, other, ...more] = pair
  return own.pair === null && one && other && more.length === 0 && one !== other
    ? { ...own, pair: [one, other] }
    : own
}

/** Places of a plan's throws that are made. */
export function doneOf(plan: Plan, made: readonly PlanThrow[]): ReadonlySet<number> {
  const left = new Set(
    remainingThrows(
      plan.throws.map((t, i) => ({ ...t, disc: t.discId, power: t.power ?? plan.power, i })),
      made.map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power })),
      plan.protocol,
    ).map((t) => t.i),
  )
  return new Set(plan.throws.flatMap((_, i) => (left.has(i) ? [] : [i])))
}

/** Another question proposes its strokes and powers; discs and angles stay those of the trial. */
function askedAnew(plan: Plan, kind: QuestionKind): Plan {
  const q = questionOf(kind)
  return {
    ...plan,
    kind,
    power: q.power,
    easedTo: q.easedTo ?? null,
    strokes: q.bothStrokes ? ['backhand', 'forehand'] : ['backhand'],
    windMps: q.wantsWind ? Math.max(3, plan.windMps) : plan.windMps,
  }
}

/** The trial after what somebody did to its plan; undefined where that cannot be: a round would need one disc twice. */
export function afterEvent(planning: Planning, event: PlanEvent): Trial | undefined {
  const { trial, plan, discs, throws, untold } = planning
  const counts = countsOf(plan, trial.discIds)
  const ordered = (next: Plan, all: readonly CellCount[] = counts) =>
    reordered(next, all, discs, madeSoFar(throws, next.protocol), trial.controlDiscId)
  const kept = (next: Plan | undefined, hyzerDegs = trial.hyzerDegs): Trial | undefined =>
    next && {
      ...trial,
      hyzerDegs,
      plan: untold ? { ...next, expected: [] } : next,
      plannedThrows: next.throws.length,
    }
  switch (event.did) {
    case 'shown':
      return kept(plan)
    case 'changed':
      return kept({ ...plan, ...event.change })
    case 'dealt':
      return kept(ordered({ ...plan, ...event.change }))
    case 'asked': {
      const next = kept(ordered(askedAnew(plan, event.kind)))
      return next && { ...next, question: wordsAsking(trial, plan.kind, event.kind) }
    }
    case 'worded':
      return { ...trial, plan, question: event.question.trim() }
    case 'chose protocol': {
      // another protocol throws other angles: as many throws of each disc as before
      const hyzerDegs = [...anglesFor(plan, event.protocol)]
      const next = { ...plan, protocol: event.protocol }
      return kept(ordered(next, overAngles(counts, trial.discIds, hyzerDegs)), hyzerDegs)
    }
    case 'stepped':
      return kept(ordered(plan, stepped(counts, event.disc, event.hyzerDeg, event.by)))
    case 'took counts':
      return kept(ordered(plan, event.counts))
    case 'evened': {
      const cells = trial.discIds.length * trial.hyzerDegs.length
      const each = Math.max(1, Math.round(plan.throws.length / cells))
      return kept(ordered(plan, evenCounts(trial.discIds, trial.hyzerDegs, each)))
    }
    case 'swapped':
      return kept(swapped(plan, event.one, event.other))
  }
}
