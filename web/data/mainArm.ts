import { armId } from '../../core/rating/fromSheet.ts'
import type { TrialView } from './hooks.ts'
import { powerWords } from './units.ts'

/** Whoever threw most of the throws that count, as an arm, with the power they mostly used. */
export function mainArm(view: TrialView) {
  const tally = new Map<string, { arm: string; who: string; power: number; throws: number }>()
  for (const t of view.throws) {
    const thrower = view.throwers.find((x) => x.id === t.throwerId)
    if (!t.counts || !thrower) continue
    const key = `${t.throwerId} ${t.hand} ${t.stroke} ${t.power}`
    const arm = armId({ thrower: thrower.name, hand: t.hand, stroke: t.stroke })
    const who = `${thrower.name}, ${t.stroke} at ${powerWords(t.power)}`
    tally.set(key, { arm, who, power: t.power, throws: (tally.get(key)?.throws ?? 0) + 1 })
  }
  return [...tally.values()].sort((a, b) => b.throws - a.throws)[0]
}
