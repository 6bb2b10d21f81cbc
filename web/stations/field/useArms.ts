import { format, subDays } from 'date-fns'
import useSWR from 'swr'
import { armLeft, USUAL_LIMITS } from '../../../core/plan/armLoad.ts'
import type { ArmDay, Thrower } from '../../../contract/trials.ts'
import { read } from '../../data/api.ts'

/** What an arm did today and what it has left. */
export interface ArmToday {
  readonly thrower: Thrower
  readonly done: number
  readonly left: number
  readonly fullPowerLeft: number
  /** Its budget is used up. */
  readonly spent: boolean
}

/** What arms did today, on every trial, and what their budgets leave them. */
export function useArms(throwers: readonly Thrower[]): readonly ArmToday[] {
  const today = format(new Date(), 'yyyy-MM-dd')
  const { data } = useSWR<ArmDay[]>(
    `/api/arm-days?since=${format(subDays(new Date(), 7), 'yyyy-MM-dd')}`,
    read,
  )
  return throwers.map((thrower) => {
    const own = (data ?? []).filter((d) => d.throwerId === thrower.id)
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
