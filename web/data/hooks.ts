import { format, parseISO, subDays } from 'date-fns'
import { useMemo } from 'react'
import useSWR from 'swr'
import type { SWRConfiguration } from 'swr'
import { at } from '../../contract/api.ts'
import type { Address, AnswerOf, At } from '../../contract/api.ts'
import type { TrialCard } from '../../contract/cards.ts'
import type { KnownArm } from '../../contract/lab.ts'
import type { Shelf } from '../../contract/shelf.ts'
import type { ArmDay, Place, Session, ShortThrow, Thrower, TrialFile } from '../../contract/trials.ts'
import type { Throw, Trial, TrialSummary } from '../../contract/trials.ts'
import { ofAnotherTrial } from '../../core/rating/known.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import { ratedFromShelf, sheetOf, shelvedDiscs } from '../../contract/sheet.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import { read } from './api.ts'
import { armDaysOver, rowsOver, shelfOver, summariesOver, trialOver } from './overlay.ts'
import { useWaiting } from './outbox.ts'
import { isOf } from './queueStore.ts'

/** How soon something is read again that is not yet what it will be, ms. */
const SOON_MS = 800

/** The same as {@link useRead}, read again and again while it says that it is about to change. */
export const useReadWhile = <A extends Address>(
  to: At<A> | null,
  isChanging: (data: AnswerOf<A>) => boolean,
) => useRead(to, { refreshInterval: (now) => (now && isChanging(now) ? SOON_MS : 0) })

/** Something read from the server, as it was agreed on; nothing while null is asked. */
export function useRead<A extends Address>(to: At<A> | null, options?: SWRConfiguration<AnswerOf<A>, Error>) {
  const { data, error, mutate } = useSWR<AnswerOf<A>, Error>(to?.path ?? null, () => read(to!), options)
  return { data, error, mutate }
}

export interface ShelfView {
  readonly shelf: Shelf
  readonly discs: readonly ShelvedDisc[]
}

/** @param wanted false where it can wait for what is seen first */
export function useShelf(wanted = true) {
  const { data, error } = useRead(wanted ? at('GET /api/shelf') : null)
  const waiting = useWaiting()
  const view = useMemo<ShelfView | undefined>(() => {
    if (!data) return undefined
    const shelf = shelfOver(data, waiting)
    return { shelf, discs: shelvedDiscs(shelf) }
  }, [data, waiting])
  return { view, error }
}

export function useThrowers() {
  const { data, error } = useRead(at('GET /api/throwers'))
  const waiting = useWaiting()
  const throwers = useMemo(() => data && rowsOver('throwers', data, waiting), [data, waiting])
  return { throwers, error }
}

export function useSessions() {
  const { data } = useRead(at('GET /api/sessions'))
  const waiting = useWaiting()
  return useMemo(() => data && rowsOver('sessions', data, waiting), [data, waiting])
}

export function usePlaces(): readonly Place[] {
  const { data } = useRead(at('GET /api/places'))
  const waiting = useWaiting()
  return useMemo(() => rowsOver('places', data ?? [], waiting), [data, waiting])
}

/** Throws of the short game of a trial, oldest first. */
export function useShortThrows(trialId: string): readonly ShortThrow[] {
  const { data } = useRead(at('GET /api/trials/:id/short', { id: trialId }))
  const waiting = useWaiting()
  return useMemo(
    () =>
      rowsOver('short-throws', data ?? [], waiting, (t) => t.trialId === trialId)
        .filter((t) => t.takenBackAt === null)
        .sort((a, b) => Date.parse(a.thrownAt) - Date.parse(b.thrownAt)),
    [data, waiting, trialId],
  )
}

/** How many throws the discs of a trial had been through before it, as far as the shelf counted them, by id. */
export function useThrough(trialId: string): ReadonlyMap<string, number> {
  const { data } = useRead(at('GET /api/trials/:id/worn', { id: trialId }))
  return useMemo(() => new Map((data ?? []).map((d) => [d.discId, d.throws])), [data])
}

/** Arms as all their throws have shown them; undefined while they are read. */
export const useArms = (): readonly KnownArm[] | undefined => useRead(at('GET /api/arms')).data

/** What every arm threw in the seven days before one and on it. */
export function useArmDays(day: string): readonly ArmDay[] | undefined {
  const since = format(subDays(parseISO(day), 7), 'yyyy-MM-dd')
  const { data } = useRead(at('GET /api/arm-days', { since }))
  const waiting = useWaiting()
  return useMemo(() => data && armDaysOver(data, waiting, since), [data, waiting, since])
}

const isAtHand = ({ trial }: TrialSummary) => trial.removedAt === null

/** Every trial with how far it is: those on the bench, and those that were put away. */
export function useTrials() {
  const { data, error } = useRead(at('GET /api/trials'))
  const waiting = useWaiting()
  return useMemo(() => {
    const all = data && summariesOver(data, waiting)
    return { trials: all?.filter(isAtHand), putAway: all?.filter((t) => !isAtHand(t)), error }
  }, [data, waiting, error])
}

const BEHIND_ALL = [
  'makers',
  'molds',
  'plastics',
  'runs',
  'discs',
  'entries',
  'shelf-edits',
  'throwers',
] as const
/**
 * What some trials say so far, as the server has worked it out, by trial: of those whose card is behind, or of which
 * something waits on this device, there is none. Undefined while they are asked for.
 */
export function useCards(ids: readonly string[]): ReadonlyMap<string, TrialCard> | undefined {
  const { data, error } = useRead(ids.length === 0 ? null : at('GET /api/cards', { trials: ids.join() }))
  const waiting = useWaiting()
  return useMemo(() => {
    if (!data && !error && ids.length > 0) return undefined
    // what waits of the shelf is behind every trial: it is weighed here
    if (waiting.some((w) => isOf(w, ...BEHIND_ALL))) return new Map()
    const changed = new Set(waiting.flatMap((w) => (isOf(w, 'throws') ? w.body.trialId : w.body.id)))
    return new Map((data ?? []).filter((c) => !changed.has(c.trialId)).map((c) => [c.trialId, c]))
    // ids are those the cards were asked for by
  }, [data, error, waiting, ids.length])
}

/** What is known of a trial's discs besides its own throws: other trials' throws, as lines, and every disc in them. */
export interface Known {
  readonly sheet: readonly SheetThrow[]
  readonly discs: readonly RatedDisc[]
}

const NOTHING_KNOWN: Known = { sheet: [], discs: [] }

/** Undefined while it is read; nothing where the server is away and this device never read it. */
export function useKnown(view: TrialView | undefined): Known | undefined {
  const { data, error } = useRead(view ? at('GET /api/trials/:id/known', { id: view.trial.id }) : null)
  const { view: shelf } = useShelf()
  const { throwers } = useThrowers()
  const trial = view?.trial
  return useMemo(() => {
    if (!data && error) return NOTHING_KNOWN
    if (!data || !shelf || !throwers || !trial) return undefined
    const own = new Set(trial.discIds)
    const thrown = new Set(data.throws.map((t) => t.discId))
    const discs = shelf.discs.filter((d) => thrown.has(d.disc.id))
    const file = { ...data, trial }
    return {
      sheet: sheetOf(file, discs, throwers).map(ofAnotherTrial),
      discs: discs.filter((d) => !own.has(d.disc.id)).map((d) => ratedFromShelf(d, trial.controlDiscId)),
    }
  }, [data, error, shelf, throwers, trial])
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
  const { data, error } = useRead(at('GET /api/trials/:id', { id }))
  const { view: shelf, error: shelfError } = useShelf()
  const { throwers } = useThrowers()
  const sessions = useSessions()
  const waiting = useWaiting()
  const view = useMemo<TrialView | undefined>(() => {
    const over = trialOver(id, data, waiting)
    if (!over || !shelf || !throwers || !sessions) return undefined
    const all = [...new Map([...over.sessions, ...sessions].map((s) => [s.id, s])).values()]
    const file = { ...over, sessions: all }
    const byTime = [...over.throws].sort((a, b) => Date.parse(a.thrownAt) - Date.parse(b.thrownAt))
    return {
      trial: over.trial,
      file,
      throws: byTime.filter((t) => t.takenBackAt === null),
      takenBack: byTime.filter((t) => t.takenBackAt !== null),
      discs: over.trial.discIds.flatMap((d) => shelf.discs.find((s) => s.disc.id === d) ?? []),
      throwers,
      sessions: all,
    }
  }, [data, shelf, throwers, sessions, waiting, id])
  return { view, error: error ?? shelfError }
}
