import { z } from 'zod'
import { useKept } from '../../data/useKept.ts'

/** From and to, ms; the last may still go on. */
const Spans = z.array(z.tuple([z.number(), z.number().nullable()]))

/** Pauses of an outing, a trial on a day, on this device. */
export function usePauses(trialId: string, day: string) {
  const [spans, keep] = useKept('veer-line.pauses', `${trialId} ${day}`, Spans, [])
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
