import { ShortThrow } from '../../../contract/trials.ts'
import { wrongWords } from '../../../contract/words.ts'
import { NOTHING_OF_SHORT, seenInGame, SHORT_OBSERVED, stayingOf } from '../../../core/throw/short.ts'
import type { Game, ShortObserved } from '../../../core/throw/short.ts'

/** Which throw of a game is logged next, and what was seen of it so far; what holds from throw to throw stays. */
export interface ShortLog {
  /** Of the throw that is logged next: kept twice, by a screen that bounces, it is one. */
  readonly id: string
  readonly discId: string
  readonly throwerId: string
  readonly seen: ShortObserved
}

export type ShortEvent =
  | { readonly did: 'saw'; readonly change: Partial<ShortObserved> }
  | { readonly did: 'chose disc'; readonly discId: string }
  | { readonly did: 'chose thrower'; readonly throwerId: string }
  /** Another game: its distances are its own. */
  | { readonly did: 'chose game' }
  /** A throw was kept, as it was seen; the same shot goes round the discs. */
  | {
      readonly did: 'kept'
      readonly game: Game
      readonly seen: ShortObserved
      readonly discIds: readonly string[]
      /** Of the throw after it. */
      readonly nextId: string
    }

/** A course has no more holes. */
const [, MOST_HOLES] = SHORT_OBSERVED.hole.range

export const emptyLog = (id: string, discId: string, throwerId: string): ShortLog => ({
  id,
  discId,
  throwerId,
  seen: { ...NOTHING_OF_SHORT, hole: 1 },
})

/** The log after something was done to it. */
export function logAfter(log: ShortLog, event: ShortEvent): ShortLog {
  switch (event.did) {
    case 'saw':
      return { ...log, seen: { ...log.seen, ...event.change } }
    case 'chose disc':
      return { ...log, discId: event.discId }
    case 'chose thrower':
      return { ...log, throwerId: event.throwerId }
    case 'chose game':
      return { ...log, seen: emptyLog(log.id, log.discId, log.throwerId).seen }
    case 'kept': {
      // distance, effort, style and hole hold for the next; what was seen does not
      const staying = stayingOf(event.seen)
      const at = event.discIds.indexOf(log.discId)
      // putts are thrown with one disc until somebody takes another
      const next = event.game === 'putting' ? log.discId : event.discIds[(at + 1) % event.discIds.length]!
      const isRound = event.game === 'holes' && at === event.discIds.length - 1
      const hole = isRound ? Math.min(MOST_HOLES, (event.seen.hole ?? 0) + 1) : staying.hole
      return { ...log, id: event.nextId, discId: next, seen: { ...staying, hole } }
    }
  }
}

/** The throw that a log says, or what is wrong with it in a sentence. */
export function shortThrowOf(
  { id, discId, throwerId }: ShortLog,
  seen: ShortObserved,
  at: {
    readonly trialId: string
    readonly sessionId: string
    readonly game: Game
    readonly thrownAt: string
  },
): ShortThrow | string {
  const read = ShortThrow.safeParse({
    ...at,
    id,
    discId,
    throwerId,
    ...seenInGame(at.game, seen),
    takenBackAt: null,
  })
  return read.success ? read.data : `${wrongWords(read.error.issues[0]!)}.`
}
