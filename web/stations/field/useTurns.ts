import { z } from 'zod'
import { useKept } from '../../data/useKept.ts'

const Ids = z.array(z.string())

/** Who throws by turns in a trial, as somebody who keeps the sheet for them has it on this device. */
export function useTurns(trialId: string) {
  const [throwerIds, set] = useKept('veer-line.turns', trialId, Ids, [])
  return {
    throwerIds,
    set,
    /** Whose turn it is after somebody threw; undefined where nobody takes turns. */
    after: (throwerId: string): string | undefined =>
      throwerIds.length < 2 ? undefined : throwerIds[(throwerIds.indexOf(throwerId) + 1) % throwerIds.length],
  }
}
export type TurnsOf = ReturnType<typeof useTurns>
