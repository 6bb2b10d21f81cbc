import { useSyncExternalStore } from 'react'
import { mutate } from 'swr'
import type { ShortThrow, Throw, Trial, TrialFile } from '../../contract/trials.ts'
import { ApiProblem, write } from './api.ts'
import { Queue } from './queue.ts'
import type { Refused, Row, Waiting } from './queue.ts'
import { remember } from './remembered.ts'

/** Puts an acknowledged row into what was read before, so that nothing blinks when it leaves the queue. */
async function settle({ path }: Waiting, body: Row): Promise<void> {
  const [, , kind] = path.split('/')
  const into = <T extends { readonly id: string }>(rows: readonly T[] | undefined) =>
    rows && [...rows.filter((r) => r.id !== body.id), body as unknown as T]
  // a mutation makes a reading under way void, so what is not there yet has to be asked for again
  const keep = { revalidate: (data: unknown) => data === undefined }
  const changed = async <T>(key: string, change: (data: T | undefined) => T | undefined) => {
    const data = await mutate<T>(key, change, keep)
    if (data !== undefined) await remember(key, data)
  }
  if (kind === 'throws') {
    const row = body as Throw
    await changed<TrialFile>(`/api/trials/${row.trialId}`, (f) => f && { ...f, throws: into(f.throws)! })
  } else if (kind === 'short-throws') {
    await changed<readonly Row[]>(`/api/trials/${(body as unknown as ShortThrow).trialId}/short`, into)
  } else if (kind === 'trials') {
    await changed<TrialFile>(path, (f) => f && { ...f, trial: body as unknown as Trial })
  } else if (kind === 'preferences') {
    await changed<Row>(path, () => body)
  } else {
    await changed<readonly Row[]>(`/api/${kind}`, into)
  }
  if (kind === 'throws' || kind === 'trials') void mutate('/api/trials')
  if (kind === 'throws') void mutate((key) => typeof key === 'string' && key.startsWith('/api/arm-days'))
}

export const outbox = new Queue({
  name: 'veer-line',
  send: (path, body, signal) => write<Row>(path, body, signal),
  refusal: (e) => (e instanceof ApiProblem ? e.problem : undefined),
  onSent: settle,
  onRefused: ({ stored }) => {
    const { trialId } = (stored ?? {}) as Partial<Throw>
    if (trialId !== undefined) void mutate(`/api/trials/${trialId}`)
  },
  retryMs: 3000,
})

export const useWaiting = (): readonly Waiting[] => useSyncExternalStore(outbox.subscribe, outbox.waiting)
export const useRefused = (): readonly Refused[] => useSyncExternalStore(outbox.subscribe, outbox.refused)

/** Rows the server sent with those that still wait laid over them. */
export function overlaid<T extends { readonly id: string }>(
  rows: readonly T[],
  waiting: readonly Waiting[],
  belongs: (w: Waiting) => boolean,
): T[] {
  const byId = new Map(rows.map((r) => [r.id, r]))
  for (const w of waiting) if (belongs(w)) byId.set(w.body.id, w.body as unknown as T)
  return [...byId.values()]
}
