import { useState } from 'react'
import { z } from 'zod'

const KEY = 'veer-line.pauses'
const Pauses = z.object({
  /** Which outing: a trial on a day. */
  outing: z.string(),
  /** From and to, ms; the last may still go on. */
  spans: z.array(z.tuple([z.number(), z.number().nullable()])),
})
type Spans = z.infer<typeof Pauses>['spans']

function stored(outing: string): Spans {
  try {
    const read = Pauses.safeParse(JSON.parse(localStorage.getItem(KEY) ?? ''))
    return read.success && read.data.outing === outing ? read.data.spans : []
  } catch {
    return []
  }
}

/** Pauses of an outing on this device; they outlive a reload. */
export function usePauses(trialId: string, day: string) {
  const outing = `${trialId} ${day}`
  const [spans, setSpans] = useState(() => stored(outing))
  const keep = (next: Spans) => {
    localStorage.setItem(KEY, JSON.stringify({ outing, spans: next }))
    setSpans(next)
  }
  const last = spans.at(-1)
  const since = last && last[1] === null ? last[0] : undefined
  return {
    /** When the pause that goes on began, ms. */
    since,
    /** Whether some pause touches the time from one moment to another, ms. */
    between: (from: number, to: number) => spans.some(([a, b]) => a < to && (b ?? Infinity) > from),
    pause: () => since === undefined && keep([...spans, [Date.now(), null]]),
    goOn: () => since !== undefined && keep([...spans.slice(0, -1), [since, Date.now()]]),
  }
}
export type PausesOf = ReturnType<typeof usePauses>
