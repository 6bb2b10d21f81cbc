import { at } from '../../contract/api.ts'
import { useMemo } from 'react'
import { recordedThrow } from '../../contract/drill.ts'
import type { DrillAnswer } from '../../contract/drill.ts'
import { askedOfRecorded } from '../../core/drill/recorded.ts'
import type { RecordedThrow } from '../../core/drill/recorded.ts'
import { useRead } from './hooks.ts'
import { outbox, useWaiting } from './outbox.ts'
import { rowsOver } from './overlay.ts'

const NONE: readonly DrillAnswer[] = []

/** What eyes said so far, with what waits on this device; that alone where the server was never asked. */
export function useDrillAnswers() {
  const { data, error } = useRead(at('GET /api/drill-answers'))
  const waiting = useWaiting()
  const known = data ?? (error ? NONE : undefined)
  const answers = useMemo(() => known && rowsOver('drill-answers', known, waiting), [known, waiting])
  return { answers }
}

/** Recorded throws of one's own sessions of which something may be asked; none where the server was never asked. */
export function useRecorded(): readonly RecordedThrow[] {
  const { data } = useRead(at('GET /api/recorded-throws'))
  return useMemo(() => (data ?? []).map(recordedThrow).filter((t) => askedOfRecorded(t).length > 0), [data])
}

export const keepAnswer = (answer: DrillAnswer): Promise<unknown> => outbox.put('drill-answers', answer)
