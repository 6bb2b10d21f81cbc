import { STILL_AIR } from '../flight/air.ts'
import type { Stroke } from '../flight/hand.ts'
import { DEGREE } from '../flight/units.ts'
import type { Arm } from '../rating/evidence.ts'
import { alongOut, LEGS } from '../throw/leg.ts'
import type { Leg } from '../throw/leg.ts'
import type { Candidate } from './information.ts'
import { remainingThrows } from './order.ts'
import { dealOf } from './planning.ts'
import type { MadeThrow, RunPlan } from './planning.ts'

/** What is asked of a plan: the throws left of it, as many spread evenly, and all that could be thrown instead. */
export interface PlanQuestion {
  readonly planned: readonly Candidate[]
  readonly even: readonly Candidate[]
  readonly candidates: readonly Candidate[]
  /** Full speeds of whoever throws. */
  readonly arms: readonly Arm[]
}

/** So many of a list, at even distances, and all of it again where there are more. */
export function spreadOver<T>(list: readonly T[], count: number): T[] {
  const whole = Math.floor(count / Math.max(1, list.length))
  const rest = list.length === 0 ? 0 : count % list.length
  return [
    ...Array.from({ length: whole }, () => list).flat(),
    ...Array.from({ length: rest }, (_, i) => list[Math.floor(((i + 0.5) * list.length) / rest)]!),
  ]
}

/**
 * What a plan has to be weighed against. Every angle is called; the wind blows along the line as strongly as the plan
 * counts on.
 *
 * @param discs ids in the order of the trial; `codeOf` what the fit knows a disc by, undefined where it does not
 * @param armOf who throws with which stroke; a plan that names nobody is thrown by whoever `armOf(null, …)` is
 */
export function planQuestion(
  plan: RunPlan & { readonly windMps: number },
  made: readonly MadeThrow[],
  discs: readonly string[],
  hyzerDegs: readonly number[],
  codeOf: (discId: string) => string | undefined,
  armOf: (throwerId: string | null, stroke: Stroke) => Arm,
): PlanQuestion {
  const arms = new Map<string, Arm>()
  const thrownBy = (throwerId: string | null, stroke: Stroke): string => {
    const arm = armOf(throwerId, stroke)
    arms.set(arm.id, arm)
    return arm.id
  }
  const candidate = (code: string, hyzerDeg: number, leg: Leg, arm: string, power: number): Candidate => ({
    disc: code,
    arm,
    power,
    hyzerRad: hyzerDeg * DEGREE,
    air: { ...STILL_AIR, windAlongMps: -alongOut(leg) * plan.windMps },
    angleCalled: true,
  })
  const planned = remainingThrows(
    plan.throws.map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power })),
    made.filter((t) => t.counts).map((t) => ({ ...t, disc: t.discId })),
    plan.protocol,
  ).flatMap((t) => {
    const code = codeOf(t.disc)
    if (code === undefined) return []
    return [candidate(code, t.hyzerDeg, t.leg, thrownBy(t.throwerId, t.stroke), t.power)]
  })
  const { strokes, powers, throwers } = dealOf(plan)
  const who = throwers.length > 0 ? throwers : [null]
  const candidates = discs.flatMap((id) => {
    const code = codeOf(id)
    if (code === undefined) return []
    return hyzerDegs.flatMap((deg) =>
      LEGS.flatMap((leg) =>
        strokes.flatMap((stroke) =>
          powers.flatMap((power) => who.map((w) => candidate(code, deg, leg, thrownBy(w, stroke), power))),
        ),
      ),
    )
  })
  return { planned, even: spreadOver(candidates, planned.length), candidates, arms: [...arms.values()] }
}

/**
 * Telling throws as counts of a plan, beside those of its throws that are made.
 *
 * @param done places of the throws made
 */
export function countsTaken(
  plan: RunPlan,
  done: ReadonlySet<number>,
  telling: readonly Candidate[],
  idOf: (code: string) => string,
): { disc: string; hyzerDeg: number; leg: Leg; throws: number }[] {
  const tally = new Map<string, { disc: string; hyzerDeg: number; leg: Leg; throws: number }>()
  const add = (disc: string, hyzerDeg: number, leg: Leg) => {
    const key = `${disc} ${hyzerDeg} ${leg}`
    tally.set(key, { disc, hyzerDeg, leg, throws: (tally.get(key)?.throws ?? 0) + 1 })
  }
  plan.throws.forEach((t, i) => done.has(i) && add(t.discId, t.hyzerDeg, t.leg))
  for (const t of telling)
    add(idOf(t.disc), Math.round(t.hyzerRad / DEGREE), t.air.windAlongMps <= 0 ? 'out' : 'back')
  return [...tally.values()]
}
