import { rollups } from 'd3'
import type { FlightNumbers } from '../flight/disc.ts'
import type { Stroke } from '../flight/hand.ts'
import { LEGS } from '../throw/leg.ts'
import type { Leg } from '../throw/leg.ts'
import { deal } from './deal.ts'
import type { Deal } from './deal.ts'
import { LINE_DEG, orderThrows } from './order.ts'
import type { CellCount, FixedOrder, Protocol } from './order.ts'
import { questionOf } from './questions.ts'
import type { QuestionKind } from './questions.ts'

/** A throw of a plan, in its place. */
export interface PlanThrow {
  discId: string
  hyzerDeg: number
  leg: Leg
  round: number
  stroke: Stroke
  /** Share of full power; the plan's own where null. */
  power: number | null
  throwerId: string | null
}

/** How a trial is to be thrown, as far as its throws are concerned. */
export interface RunPlan {
  kind: QuestionKind
  throws: PlanThrow[]
  order: 'shuffled' | 'fixed'
  fixedBy: FixedOrder
  seed: number
  power: number
  protocol: Protocol
  strokes: Stroke[]
  /** A second share of full power, thrown by turns with the first. */
  easedTo: number | null
  throwerIds: string[]
  /** True once somebody moved throws by hand: the shuffle no longer makes this order. */
  moved: boolean
}

/** A disc as a plan sees it. */
export interface PlanDisc {
  readonly id: string
  readonly numbers: FlightNumbers
  /** Fresh off the shelf. */
  readonly isNew: boolean
}

/** A throw already made, as a plan sees it. */
export interface MadeThrow {
  readonly discId: string
  readonly hyzerDeg: number
  readonly stroke: Stroke
  readonly power: number
  readonly throwerId: string
  readonly leg: Leg | null
  readonly counts: boolean
}

/** Stability of the published numbers in force. */
const published = (d: PlanDisc) => d.numbers.turn + d.numbers.fade

/** Throws per disc, angle and leg, in the order of the discs given. */
export function countsOf(plan: RunPlan, discIds: readonly string[]): CellCount[] {
  return rollups(
    plan.throws,
    (list) => list.length,
    (t) => t.discId,
    (t) => t.hyzerDeg,
    (t) => t.leg,
  )
    .flatMap(([disc, byAngle]) =>
      byAngle.flatMap(([hyzerDeg, byLeg]) => byLeg.map(([leg, throws]) => ({ disc, hyzerDeg, leg, throws }))),
    )
    .sort((a, b) => discIds.indexOf(a.disc) - discIds.indexOf(b.disc))
}

/** So many throws of every disc at every angle, shared between the legs. */
export function evenCounts(
  discIds: readonly string[],
  hyzerDegs: readonly number[],
  throws: number,
): CellCount[] {
  return discIds.flatMap((disc, d) =>
    hyzerDegs.flatMap((hyzerDeg, a) =>
      LEGS.map((leg, l) => ({
        disc,
        hyzerDeg,
        leg,
        // an odd throw goes out for one cell and back for the next
        throws: Math.floor(throws / 2) + (throws % 2 === 1 && (d + a + l) % 2 === 0 ? 1 : 0),
      })),
    ),
  )
}

/**
 * Throws already made that count, as the first rounds of a plan: another round begins where the leg turns or a disc comes
 * again.
 */
export function madeSoFar(throws: readonly MadeThrow[], protocol: Protocol): PlanThrow[] {
  const made: PlanThrow[] = []
  for (const t of throws) {
    if (!t.counts) continue
    const last = made[made.length - 1]
    const leg = t.leg ?? last?.leg ?? 'out'
    const same = last?.leg === leg && !made.some((m) => m.round === last.round && m.discId === t.discId)
    made.push({
      discId: t.discId,
      hyzerDeg: protocol === 'same-line' ? LINE_DEG : t.hyzerDeg,
      stroke: t.stroke,
      power: t.power,
      throwerId: t.throwerId,
      leg,
      round: last === undefined ? 0 : same ? last.round : last.round + 1,
    })
  }
  return made
}

/** Counts less what is made, leg or no leg. */
function stillToMake(counts: readonly CellCount[], made: readonly PlanThrow[]): CellCount[] {
  const left = counts.map((c) => ({ ...c }))
  for (const m of made) {
    const like = left.filter((c) => c.disc === m.discId && c.hyzerDeg === m.hyzerDeg && c.throws > 0)
    const cell = like.find((c) => c.leg === m.leg) ?? like[0]
    if (cell) cell.throws--
  }
  return left
}

/** Discs in a fixed order. */
function fixedOrder(plan: RunPlan, discs: readonly PlanDisc[], controlDiscId: string | null): string[] {
  const least = [...discs].sort((a, b) => published(a) - published(b)).map((d) => d.id)
  // known are the control disc and worn-in discs; the candidate is the first of the trial, which it was started for
  const known = (id: string) => {
    const d = discs.find((x) => x.id === id)!
    return id === controlDiscId ? 0 : d.isNew ? 2 : 1
  }
  const candidate = discs[0]?.id
  switch (plan.fixedBy) {
    case 'least-to-most-stable':
      return least
    case 'known-before-unknown':
      return [...least].sort((a, b) => known(a) - known(b))
    case 'candidate-last':
      return [...least.filter((id) => id !== candidate), ...(candidate === undefined ? [] : [candidate])]
  }
}

/** Angles a trial throws by a protocol: one that stands for every disc’s own, or those its question proposes. */
export const anglesFor = (plan: Pick<RunPlan, 'kind'>, protocol: Protocol): readonly number[] =>
  protocol === 'same-line' ? [LINE_DEG] : questionOf(plan.kind).hyzerDegs

/** As many throws of each disc as before, over other angles. */
export function overAngles(
  counts: readonly CellCount[],
  discIds: readonly string[],
  hyzerDegs: readonly number[],
): CellCount[] {
  const perDisc = discIds.map((id) => counts.reduce((n, c) => n + (c.disc === id ? c.throws : 0), 0))
  return discIds.flatMap((disc, d) =>
    evenCounts([disc], hyzerDegs, Math.max(1, Math.round(perDisc[d]! / hyzerDegs.length))),
  )
}

/** What a plan deals: its strokes, its powers, its throwers. */
export const dealOf = (plan: Pick<RunPlan, 'strokes' | 'power' | 'easedTo' | 'throwerIds'>): Deal => ({
  strokes: plan.strokes,
  powers: plan.easedTo === null ? [plan.power] : [plan.power, plan.easedTo],
  throwers: plan.throwerIds,
})

/** Counts as they are always dealt from, whatever order they came in: the same seed makes the same order again. */
const inOneOrder = (counts: readonly CellCount[], discs: readonly PlanDisc[]): CellCount[] => {
  const places = new Map(discs.map((d, i) => [d.id, i]))
  const place = (c: CellCount) => places.get(c.disc) ?? discs.length
  return counts.toSorted(
    (a, b) => place(a) - place(b) || b.hyzerDeg - a.hyzerDeg || LEGS.indexOf(a.leg) - LEGS.indexOf(b.leg),
  )
}

/** The plan with other counts: what is made stays first, the rest is put in order again from the same seed. */
export function reordered<P extends RunPlan>(
  plan: P,
  all: readonly CellCount[],
  discs: readonly PlanDisc[],
  made: readonly PlanThrow[],
  controlDiscId: string | null = null,
): P {
  const counts = inOneOrder(stillToMake(all, made), discs)
  const rounds = made.length === 0 ? 0 : made[made.length - 1]!.round + 1
  const fixed = fixedOrder(plan, discs, controlDiscId)
  const sorted =
    plan.order === 'fixed'
      ? [...counts].sort((a, b) => fixed.indexOf(a.disc) - fixed.indexOf(b.disc))
      : counts
  const order =
    plan.order === 'fixed' ? ({ kind: 'fixed' } as const) : ({ kind: 'shuffled', seed: plan.seed } as const)
  return {
    ...plan,
    moved: false,
    throws: [
      ...made,
      ...deal(orderThrows(sorted, order), dealOf(plan)).map(({ disc, round, thrower, power, ...t }) => ({
        ...t,
        discId: disc,
        round: round + rounds,
        power: power === plan.power ? null : power,
        throwerId: thrower,
      })),
    ],
  }
}

/** Two throws of a plan change places, each round staying on its leg; undefined where a round would need one disc twice. */
export function swapped<P extends RunPlan>(plan: P, a: number, b: number): P | undefined {
  const throws = plan.throws.map((t) => ({ ...t }))
  const [x, y] = [throws[a], throws[b]]
  if (!x || !y || a === b) return undefined
  const place = ({ leg, round, throwerId }: PlanThrow) => ({ leg, round, throwerId })
  throws[a] = { ...y, ...place(x) }
  throws[b] = { ...x, ...place(y) }
  const twice = [a, b].some((i) =>
    throws.some((t, k) => k !== i && t.round === throws[i]!.round && t.discId === throws[i]!.discId),
  )
  return twice ? undefined : { ...plan, throws, moved: true }
}

/** Slow discs thrown first to warm the arm: the control disc where it is slow, else the slowest by turns. */
export function warmUpsOf(discs: readonly PlanDisc[], controlDiscId: string | null): string[] {
  const speed = (d: PlanDisc) => d.numbers.speed
  const fastest = Math.max(0, ...discs.map(speed))
  const slow = discs
    .filter((d) => speed(d) <= Math.max(SLOW, fastest - 2))
    .sort((a, b) => speed(a) - speed(b))
  const control = slow.find((d) => d.id === controlDiscId)
  const by = control ? [control] : slow
  return by.length === 0 ? [] : Array.from({ length: WARM_UPS }, (_, i) => by[i % by.length]!.id)
}
/** Discs of this speed load no arm much. */
const SLOW = 5
const WARM_UPS = 4

/** What a plan is proposed for. */
interface ProposedFor {
  readonly discIds: readonly string[]
  readonly controlDiscId: string | null
  readonly hyzerDegs: readonly number[]
  /** Throws it is to have; 0 where the question says. */
  readonly plannedThrows: number
}

/** The plan a trial starts from: what its question proposes, or as many throws as it was given. */
export function proposed(
  trial: ProposedFor,
  discs: readonly PlanDisc[],
  kind: QuestionKind,
  seed: number,
  made: readonly PlanThrow[],
): ProposedPlan {
  const question = questionOf(kind)
  const cells = trial.discIds.length * trial.hyzerDegs.length
  const each =
    trial.plannedThrows > 0 && cells > 0
      ? Math.max(1, Math.round(trial.plannedThrows / cells))
      : question.throwsACell
  const empty: ProposedPlan = {
    kind,
    throws: [],
    order: 'shuffled',
    fixedBy: 'least-to-most-stable',
    seed,
    power: question.power,
    windMps: question.wantsWind ? 3 : 2,
    protocol: 'same-release',
    expected: [],
    warmUps: warmUpsOf(discs, trial.controlDiscId),
    strokes: question.bothStrokes ? ['backhand', 'forehand'] : ['backhand'],
    easedTo: question.easedTo ?? null,
    throwerIds: [],
    moved: false,
  }
  return reordered(empty, evenCounts(trial.discIds, trial.hyzerDegs, each), discs, made, trial.controlDiscId)
}
/** A plan as it is proposed: with the wind it counts on and warm-up throws; nothing is expected until somebody says so. */
export interface ProposedPlan extends RunPlan {
  windMps: number
  expected: string[]
  warmUps: string[]
}

/** One throw more or fewer of a disc at an angle: added where there are fewer, taken where there are more. */
export function stepped(
  counts: readonly CellCount[],
  disc: string,
  hyzerDeg: number,
  by: 1 | -1,
): CellCount[] {
  const at = LEGS.map(
    (leg) => counts.find((c) => c.disc === disc && c.hyzerDeg === hyzerDeg && c.leg === leg)?.throws ?? 0,
  )
  const leg = by > 0 ? (at[0]! <= at[1]! ? 0 : 1) : at[0]! > at[1]! ? 0 : 1
  const rest = counts.filter((c) => !(c.disc === disc && c.hyzerDeg === hyzerDeg))
  return [
    ...rest,
    ...LEGS.map((l, i) => ({
      disc,
      hyzerDeg,
      leg: l,
      throws: Math.max(0, at[i]! + (i === leg ? by : 0)),
    })),
  ].filter((c) => c.throws > 0)
}
