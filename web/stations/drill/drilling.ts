import type { DrillAnswer } from '../../../contract/drill.ts'
import { drillQuestionOf } from '../../../core/drill/deal.ts'
import { DRILL_KINDS } from '../../../core/drill/question.ts'
import type { DrillKind, DrillQuestion, DrillReply } from '../../../core/drill/question.ts'
import { askedOfRecorded, questionOfRecorded } from '../../../core/drill/recorded.ts'
import type { RecordedThrow } from '../../../core/drill/recorded.ts'
import { isRight, pointsOf } from '../../../core/drill/scoring.ts'
import { levelAfter } from '../../../core/drill/staircase.ts'
import { likeOf } from '../../../core/drill/watcher.ts'

/** How long a session lasts; it ends with the answer after that, ms. */
const SESSION_MS = 5 * 60_000
export const FLIGHT_SOURCES = ['made up', 'recorded'] as const
export type FlightSource = (typeof FLIGHT_SOURCES)[number]

export interface DrillSession {
  /** ms since 1970. */
  readonly startedAt: number
  readonly question: DrillQuestion
  /** Questions before this one. */
  readonly asked: number
  readonly given: readonly DrillAnswer[]
}

/** Who is drilled in what, and the session that runs or the one that is over. */
export interface Drilling {
  /** Whose eye; null is nobody in particular. */
  readonly who: string | null
  readonly source: FlightSource
  /** What is asked; never nothing. */
  readonly kinds: readonly DrillKind[]
  readonly session: DrillSession | undefined
  readonly over: readonly DrillAnswer[] | undefined
}

export type DrillEvent =
  | { readonly did: 'chose eye'; readonly who: string | null }
  | { readonly did: 'chose source'; readonly source: FlightSource }
  | { readonly did: 'turned kind'; readonly kind: DrillKind }
  | { readonly did: 'began'; readonly atMs: number; readonly question: DrillQuestion }
  | { readonly did: 'answered'; readonly answer: DrillAnswer }
  | { readonly did: 'went on'; readonly atMs: number; readonly question: DrillQuestion }
  | { readonly did: 'ended' }

export const NO_DRILL: Drilling = {
  who: null,
  source: 'made up',
  kinds: DRILL_KINDS,
  session: undefined,
  over: undefined,
}

/** What is left of a session, in whole minutes begun; 0 once its time is over. */
export const minutesLeft = ({ startedAt }: DrillSession, nowMs: number): number =>
  Math.max(0, Math.ceil((startedAt + SESSION_MS - nowMs) / 60_000))

/** The drill after something was done. */
export function drillAfter(drill: Drilling, event: DrillEvent): Drilling {
  const { session, kinds } = drill
  switch (event.did) {
    case 'chose eye':
      return { ...drill, who: event.who }
    case 'chose source':
      return { ...drill, source: event.source }
    case 'turned kind': {
      const left = kinds.includes(event.kind) ? kinds.filter((k) => k !== event.kind) : [...kinds, event.kind]
      return left.length === 0 ? drill : { ...drill, kinds: left }
    }
    case 'began':
      return {
        ...drill,
        over: undefined,
        session: { startedAt: event.atMs, question: event.question, asked: 0, given: [] },
      }
    case 'answered':
      return session ? { ...drill, session: { ...session, given: [...session.given, event.answer] } } : drill
    case 'went on':
      if (!session) return drill
      return event.atMs - session.startedAt > SESSION_MS
        ? drillAfter(drill, { did: 'ended' })
        : { ...drill, session: { ...session, asked: session.asked + 1, question: event.question } }
    case 'ended':
      return session ? { ...drill, session: undefined, over: session.given } : drill
  }
}

/** Recorded throws of which something may be asked that is to be asked. */
export const askableOf = (
  { kinds }: Pick<Drilling, 'kinds'>,
  recorded: readonly RecordedThrow[],
): readonly RecordedThrow[] => recorded.filter((t) => kinds.some((k) => askedOfRecorded(t).includes(k)))

/**
 * The next question, as hard as the eye has come to.
 *
 * @param own answers of this eye, oldest first
 * @param chance 0…1, anew at each call
 * @throws RangeError where no flight is found to ask about
 */
export function questionFor(
  { source, kinds, session }: Drilling,
  own: readonly DrillAnswer[],
  recorded: readonly RecordedThrow[],
  chance: () => number,
): DrillQuestion {
  const one = <T>(of: readonly T[]): T | undefined => of[Math.floor(chance() * of.length)]
  const thrown = source === 'recorded' ? one(askableOf({ kinds }, recorded)) : undefined
  const kind = one(thrown ? kinds.filter((k) => askedOfRecorded(thrown).includes(k)) : kinds)!
  // what was answered a moment ago may not have come round yet
  const known = new Set(own.map((a) => a.id))
  const all = [...own, ...(session?.given ?? []).filter((a) => !known.has(a.id))]
  const level = levelAfter(all.filter((a) => a.kind === kind).map((a) => a.right))
  return thrown ? questionOfRecorded(kind, level, thrown) : drillQuestionOf(kind, level, chance())
}

/** An answer as it is kept. @param answeredAt ISO 8601 */
export const answerGiven = (
  question: DrillQuestion,
  reply: DrillReply,
  by: Pick<DrillAnswer, 'id' | 'throwerId' | 'answeredAt'>,
): DrillAnswer => ({
  ...by,
  kind: question.kind,
  level: question.level,
  truth: question.truth,
  answer: reply as DrillAnswer['answer'],
  like: likeOf(question),
  right: isRight(question.truth, reply),
  points: pointsOf(question, reply),
})

/** What answers earned on average, of 100; undefined where there is none. */
export const meanPoints = (given: readonly DrillAnswer[]): number | undefined =>
  given.length === 0 ? undefined : given.reduce((s, a) => s + a.points, 0) / given.length
