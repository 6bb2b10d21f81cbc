import { useMemo } from 'react'
import useSWR from 'swr'
import type { Shelf } from '../../contract/shelf.ts'
import type {
  Place,
  Session,
  ShortThrow,
  Throw,
  Thrower,
  Trial,
  TrialFile,
  TrialSummary,
} from '../../contract/trials.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import { read } from './api.ts'
import { overlaid, useWaiting } from './outbox.ts'

export interface ShelfView {
  readonly shelf: Shelf
  readonly discs: readonly ShelvedDisc[]
}

export function useShelf() {
  const { data, error, mutate } = useSWR<Shelf>('/api/shelf', read)
  const view = useMemo<ShelfView | undefined>(
    () => data && { shelf: data, discs: shelvedDiscs(data) },
    [data],
  )
  return { view, error: error as Error | undefined, reload: mutate }
}

export function useThrowers() {
  const { data, error } = useSWR<Thrower[]>('/api/throwers', read)
  const waiting = useWaiting()
  const throwers = useMemo(
    () => data && overlaid(data, waiting, (w) => w.path.startsWith('/api/throwers/')),
    [data, waiting],
  )
  return { throwers, error: error as Error | undefined }
}

export function useSessions() {
  const { data } = useSWR<Session[]>('/api/sessions', read)
  const waiting = useWaiting()
  return useMemo(
    () => data && overlaid(data, waiting, (w) => w.path.startsWith('/api/sessions/')),
    [data, waiting],
  )
}

export function usePlaces(): readonly Place[] {
  const { data } = useSWR<Place[]>('/api/places', read)
  const waiting = useWaiting()
  return useMemo(
    () => overlaid(data ?? [], waiting, (w) => w.path.startsWith('/api/places/')),
    [data, waiting],
  )
}

/** Throws of the short game of a trial, oldest first. */
export function useShortThrows(trialId: string): readonly ShortThrow[] {
  const { data } = useSWR<ShortThrow[]>(`/api/trials/${trialId}/short`, read)
  const waiting = useWaiting()
  return useMemo(
    () =>
      overlaid(
        data ?? [],
        waiting,
        (w) => w.path.startsWith('/api/short-throws/') && (w.body as Partial<ShortThrow>).trialId === trialId,
      )
        .filter((t) => t.takenBackAt === null)
        .sort((a, b) => Date.parse(a.thrownAt) - Date.parse(b.thrownAt)),
    [data, waiting, trialId],
  )
}

export function useTrials() {
  const { data, error } = useSWR<TrialSummary[]>('/api/trials', read)
  return { trials: data, error: error as Error | undefined }
}

/** A trial with everything needed to throw for it and to read it. */
export interface TrialView {
  readonly trial: Trial
  readonly file: TrialFile
  /** Throws not taken back, oldest first. */
  readonly throws: readonly Throw[]
  readonly takenBack: readonly Throw[]
  /** Discs of the trial, in its order. */
  readonly discs: readonly ShelvedDisc[]
  readonly throwers: readonly Thrower[]
  readonly sessions: readonly Session[]
}

export function useTrial(id: string): { view: TrialView | undefined; error: Error | undefined } {
  const { data, error } = useSWR<TrialFile>(`/api/trials/${id}`, read)
  const { view: shelf, error: shelfError } = useShelf()
  const { throwers } = useThrowers()
  const sessions = useSessions()
  const waiting = useWaiting()
  const view = useMemo<TrialView | undefined>(() => {
    if (!data || !shelf || !throwers || !sessions) return undefined
    const [trial] = overlaid([data.trial], waiting, (w) => w.path === `/api/trials/${id}`)
    const thrown = overlaid(data.throws, waiting, (w) => (w.body as Partial<Throw>).trialId === id)
    const all = [...new Map([...data.sessions, ...sessions].map((s) => [s.id, s])).values()]
    const file: TrialFile = { trial: trial!, sessions: all, throws: thrown }
    const byTime = [...thrown].sort((a, b) => Date.parse(a.thrownAt) - Date.parse(b.thrownAt))
    return {
      trial: trial!,
      file,
      throws: byTime.filter((t) => t.takenBackAt === null),
      takenBack: byTime.filter((t) => t.takenBackAt !== null),
      discs: trial!.discIds.flatMap((d) => shelf.discs.find((s) => s.disc.id === d) ?? []),
      throwers,
      sessions: all,
    }
  }, [data, shelf, throwers, sessions, waiting, id])
  return { view, error: (error as Error | undefined) ?? shelfError }
}
