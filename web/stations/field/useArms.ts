import { armLeft, USUAL_LIMITS } from '../../../core/plan/armLoad.ts'
import type { Thrower } from '../../../contract/trials.ts'
import { useArmDays } from '../../data/hooks.ts'

/** What an arm did today and what it has left. */
export interface ArmToday {
  readonly thrower: Thrower
  readonly done: number
  readonly left: number
  readonly fullPowerLeft: number
  /** Its budget is used up. */
  readonly spent: boolean
}

/**
 * What arms did today, on every trial, and what their budgets leave them.
 *
 * @param today the day of the outing, at its place
 */
export function useArmsHere(throwers: readonly Thrower[], today: string): readonly ArmToday[] {
  const days = useArmDays(today) ?? []
  return throwers.map((thrower) => {
    const own = days.filter((d) => d.throwerId === thrower.id)
    const room = armLeft(thrower.budget ?? USUAL_LIMITS, own, today)
    return {
      thrower,
      done: own.find((d) => d.day === today)?.throws ?? 0,
      left: room.throws,
      fullPowerLeft: room.fullPower,
      spent: room.throws === 0 || room.fullPower === 0,
    }
  })
}
