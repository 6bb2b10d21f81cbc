import { useMemo } from 'react'
import { DrillAnswers } from '../../contract/drill.ts'
import type { DrillAnswer } from '../../contract/drill.ts'
import { useRead } from './hooks.ts'
import { outbox, useWaiting } from './outbox.ts'
import { rowsOver } from './overlay.ts'

const NONE: readonly DrillAnswer[] = []

/** What eyes said so far, with what waits on this device; that alone where the server was never asked. */
export function useDrillAnswers() {
  const { data, error } = useRead('/api/drill-answers', DrillAnswers)
  const waiting = useWaiting()
  const known = data ?? (error ? NONE : undefined)
  const answers = useMemo(() => known && rowsOver('drill-answers', known, waiting), [known, waiting])
  return { answers }
}

export const keepAnswer = (answer: DrillAnswer): Promise<unknown> => outbox.put('drill-answers', answer)
