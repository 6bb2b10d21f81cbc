import { useSyncExternalStore } from 'react'
import { mutate } from 'swr'
import type { ReviewFile } from '../../contract/reviews.ts'
import type { Board } from '../../contract/rotation.ts'
import type { Shelf } from '../../contract/shelf.ts'
import type { DiscRecord } from '../../contract/shelfPage.ts'
import type { TrialFile } from '../../contract/trials.ts'
import { addressOf, writeOf } from '../../contract/writes.ts'
import type { ShownItsOwnWay, WriteKind, Written } from '../../contract/writes.ts'
import { putRow, saidAgainst } from './api.ts'
import { learnClock } from './clock.ts'
import { notFor } from './me.ts'
import { boardOver, recordAfter, shelfAfter } from './overlay.ts'
import { Queue } from './queue.ts'
import type { Refused, Waiting } from './queueStore.ts'
import type { Row } from '../../contract/row.ts'
import { remember } from './remembered.ts'

/** Changes something that was read, here and where it is kept for when the server is away. */
async function changed<T>(key: string, change: (data: T | undefined) => T | undefined): Promise<void> {
  // a mutation makes a reading under way void, so what is not there yet has to be asked for again
  const data = await mutate<T>(key, change, { revalidate: (now: unknown) => now === undefined })
  if (data !== undefined) await remember(key, data)
}
const into =
  <T extends { readonly id: string }>(row: T) =>
  (rows: readonly T[] | undefined) =>
    rows && [...rows.filter((r) => r.id !== row.id), row]
/** Has everything read again whose address begins like this, without waiting for it. */
const again = (...starts: readonly string[]) =>
  void mutate((key) => typeof key === 'string' && starts.some((s) => key.startsWith(s)))

/** A review is read again: something of it was frozen or published. */
export const reviewChanged = (id: string) => again(addressOf('reviews', id), '/api/reviews?')

/** Whatever was read of discs is read again. */
export const shelfChanged = () => again('/api/discs', '/api/shelf', '/api/inspections')

const shelf = (kind: WriteKind) => async (body: Row) => {
  await changed<Shelf>('/api/shelf', (s) => s && shelfAfter(s, { key: 0, wire: 0, kind, body }))
  shelfChanged()
}
/** Where discs are shows at once; how surely they do their jobs is asked again. */
const onBoard = (kind: WriteKind) => async (body: Row) => {
  await changed<Board>('/api/rotation', (b) => b && boardOver(b, [{ key: 0, wire: 0, kind, body }]))
  again('/api/rotation')
}
/** What is known of a disc has it at once; what follows from it is asked again. */
const onRecord =
  <K extends 'inspections' | 'wear-notes'>(kind: K) =>
  async (body: Written<K>) => {
    await changed<DiscRecord>(
      `/api/discs/${body.discId}/record`,
      (r) => r && recordAfter(r, [{ key: 0, wire: 0, kind, body }]),
    )
    shelfChanged()
  }
const listed =
  (address: string) =>
  async (row: Row): Promise<void> =>
    await changed<readonly Row[]>(address, into(row))

/** What an acknowledged row of other kinds than those in a list goes into, so that nothing blinks when it leaves the queue. */
const REFRESH: { readonly [K in ShownItsOwnWay]: (row: Written<K>) => Promise<void> | void } = {
  preferences: (row) => changed(addressOf('preferences', row.id), () => row),
  trials: async (trial) => {
    await changed<TrialFile>(addressOf('trials', trial.id), (f) => ({
      sessions: [],
      throws: [],
      ...f,
      trial,
    }))
    again('/api/trials')
  },
  throws: async (row) => {
    await changed<TrialFile>(
      addressOf('trials', row.trialId),
      (f) => f && { ...f, throws: into(row)(f.throws)! },
    )
    void mutate('/api/trials')
    void mutate(`${addressOf('trials', row.trialId)}/loggers`)
    again('/api/cards')
    again('/api/arm-days')
    again('/api/demo')
  },
  'short-throws': (row) => {
    again('/api/demo')
    return changed(`${addressOf('trials', row.trialId)}/short`, into(row))
  },
  makers: shelf('makers'),
  molds: shelf('molds'),
  plastics: shelf('plastics'),
  runs: shelf('runs'),
  discs: shelf('discs'),
  entries: shelf('entries'),
  'shelf-edits': shelf('shelf-edits'),
  inspections: onRecord('inspections'),
  'wear-notes': async (note) => {
    await onBoard('wear-notes')(note)
    await onRecord('wear-notes')(note)
  },
  jobs: onBoard('jobs'),
  'disc-events': onBoard('disc-events'),
  'plastic-wear': onBoard('plastic-wear'),
  photos: () => shelfChanged(),
  reviews: async (review) => {
    await changed<ReviewFile>(addressOf('reviews', review.id), (f) => ({
      sections: [],
      revisions: [],
      ...f,
      review,
    }))
    again('/api/reviews?')
  },
  'review-sections': async (section) => {
    await changed<ReviewFile>(
      addressOf('reviews', section.reviewId),
      (f) => f && { ...f, sections: into(section)(f.sections)! },
    )
    // what another device wrote meanwhile stands beside it
    again(addressOf('reviews', section.reviewId))
  },
}

/** Has what is read show a row as the server has it, whoever wrote it. */
export function takenIn(kind: WriteKind, row: Row): Promise<void> | void {
  const { shown } = writeOf(kind)
  if (shown === null) return
  return shown === 'its own way' ? REFRESH[kind as ShownItsOwnWay](row as never) : listed(shown)(row)
}

let whenPutRight: (offMs: number) => void = () => {}
/** Has something done whenever times that a wrong clock gave were put right. */
export const onPutRight = (act: (offMs: number) => void): void => void (whenPutRight = act)

export const outbox = new Queue({
  name: 'veer-line',
  send: (kind, body, signal) => putRow(kind, body, signal),
  refusal: saidAgainst,
  clock: learnClock,
  onPutRight: (offMs) => whenPutRight(offMs),
  against: notFor,
  onSent: async ({ kind }, stored) => await takenIn(kind, stored),
  onRefused: ({ kind, body, stored }) => {
    const { trialId } = (stored ?? body) as { trialId?: string }
    if (trialId !== undefined) again(addressOf('trials', trialId))
    else if (kind === 'trials') again('/api/trials')
    else shelfChanged()
  },
  alone: async (work, signal) => {
    // a browser without locks has its pages send beside each other; a row is one row however often it is sent
    if (!('locks' in navigator)) return await work()
    await navigator.locks.request('veer-line sends', { signal }, work)
  },
  retryMs: 1000,
  longestMs: 20_000,
})

export const useWaiting = (): readonly Waiting[] => useSyncExternalStore(outbox.subscribe, outbox.waiting)
export const useRefused = (): readonly Refused[] => useSyncExternalStore(outbox.subscribe, outbox.refused)
/** Why what waits could not be sent. */
export const useHeld = (): string | undefined => useSyncExternalStore(outbox.subscribe, outbox.held)
