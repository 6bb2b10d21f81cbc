import { useState } from 'react'
import { z } from 'zod'

const KEY = 'veer-line.turns'
const Kept = z.object({ trialId: z.string(), throwerIds: z.array(z.string()) })

function stored(trialId: string): readonly string[] {
  try {
    const read = Kept.safeParse(JSON.parse(localStorage.getItem(KEY) ?? ''))
    return read.success && read.data.trialId === trialId ? read.data.throwerIds : []
  } catch {
    return []
  }
}

/** Who throws by turns in a trial, as somebody who keeps the sheet for them has it on this device. */
export function useTurns(trialId: string) {
  const [throwerIds, setIds] = useState(() => stored(trialId))
  return {
    throwerIds,
    set: (next: readonly string[]) => {
      localStorage.setItem(KEY, JSON.stringify({ trialId, throwerIds: next }))
      setIds(next)
    },
    /** Whose turn it is after somebody threw; undefined where nobody takes turns. */
    after: (throwerId: string): string | undefined =>
      throwerIds.length < 2 ? undefined : throwerIds[(throwerIds.indexOf(throwerId) + 1) % throwerIds.length],
  }
}
export type TurnsOf = ReturnType<typeof useTurns>
