import { useEffect, useState } from 'react'
import { v7 as newId } from 'uuid'
import { drillQuestionOf } from '../../../core/drill/deal.ts'
import { DRILL_KINDS } from '../../../core/drill/question.ts'
import type { DrillReply, DrillQuestion, DrillKind } from '../../../core/drill/question.ts'
import { askedOfRecorded, questionOfRecorded } from '../../../core/drill/recorded.ts'
import { isRight, pointsOf } from '../../../core/drill/scoring.ts'
import { levelAfter } from '../../../core/drill/staircase.ts'
import { likeOf } from '../../../core/drill/watcher.ts'
import { fadeSide } from '../../../core/flight/hand.ts'
import type { DrillAnswer } from '../../../contract/drill.ts'
import { keepAnswer, useDrillAnswers, useRecorded } from '../../data/drill.ts'
import { useThrowers } from '../../data/hooks.ts'
import { figure } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card, WaitingNote } from '../../parts/Card.tsx'
import { Chip, Choice } from '../../parts/Choice.tsx'

import { sayWrong } from '../../data/say.ts'
import { Asking } from './Asking.tsx'
import { InRatings } from './InRatings.tsx'
import { DRILL_WORDS } from './kinds.ts'
import { Report } from './Report.tsx'
import { Select } from '../../parts/Select.tsx'

const SESSION_MS = 5 * 60_000
const NOBODY = ''
const SOURCES = ['made up', 'recorded'] as const
const one = <T,>(of: readonly T[]): T | undefined => of[Math.floor(Math.random() * of.length)]

interface Session {
  readonly startedAt: number
  readonly question: DrillQuestion
  readonly key: number
  readonly given: readonly DrillAnswer[]
}

/** Five minutes of flights that are called, and what they say of the eye that called them. */
export default function Drill() {
  const { answers } = useDrillAnswers()
  const { throwers = [] } = useThrowers()
  const [who, setWho] = useState(NOBODY)
  const recorded = useRecorded()
  const [source, setSource] = useState<(typeof SOURCES)[number]>('made up')
  const isOwn = source === 'recorded'
  const [kinds, setKinds] = useState<readonly DrillKind[]>(DRILL_KINDS)
  const [session, setSession] = useState<Session>()
  const [over, setOver] = useState<readonly DrillAnswer[]>()
  if (!answers) return <WaitingNote what="what your eye said so far" />
  const watcher = throwers.find((t) => t.id === who)
  const own = answers
    .filter((a) => (a.throwerId ?? NOBODY) === who)
    .toSorted((a, b) => a.answeredAt.localeCompare(b.answeredAt))
  const fade = watcher ? fadeSide(watcher.hand, 'backhand') : 'left'
  const askable = recorded.filter((t) => kinds.some((k) => askedOfRecorded(t).includes(k)))
  const ask = (given: readonly DrillAnswer[]): DrillQuestion => {
    const thrown = isOwn ? one(askable) : undefined
    const kind = one(thrown ? kinds.filter((k) => askedOfRecorded(thrown).includes(k)) : kinds)!
    const ids = new Set(own.map((a) => a.id))
    const all = [...own, ...given.filter((a) => !ids.has(a.id))]
    const level = levelAfter(all.filter((a) => a.kind === kind).map((a) => a.right))
    return thrown ? questionOfRecorded(kind, level, thrown) : drillQuestionOf(kind, level, Math.random())
  }
  const begin = () => {
    setOver(undefined)
    setSession({ startedAt: Date.now(), question: ask([]), key: 0, given: [] })
  }
  const end = (given: readonly DrillAnswer[]) => {
    setSession(undefined)
    setOver(given)
  }
  const answered = async (now: Session, answer: DrillReply) => {
    const { question } = now
    const row: DrillAnswer = {
      id: newId(),
      throwerId: watcher?.id ?? null,
      answeredAt: new Date().toISOString(),
      kind: question.kind,
      level: question.level,
      truth: question.truth,
      answer: answer as DrillAnswer['answer'],
      like: likeOf(question),
      right: isRight(question.truth, answer),
      points: pointsOf(question, answer),
    }
    setSession({ ...now, given: [...now.given, row] })
    try {
      await keepAnswer(row)
    } catch (e) {
      sayWrong(`This answer could not be kept: ${(e as Error).message}`)
    }
  }
  const next = ({ startedAt, given, key }: Session) =>
    Date.now() - startedAt > SESSION_MS
      ? end(given)
      : setSession({ startedAt, given, key: key + 1, question: ask(given) })
  const turn = (kind: DrillKind) => {
    const left = kinds.includes(kind) ? kinds.filter((k) => k !== kind) : [...kinds, kind]
    if (left.length > 0) setKinds(left)
  }
  return (
    <div className="mx-auto max-w-4xl p-3 md:p-4">
      <div className="mb-3 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-title">Eye drill</h1>
          {!session && (
            <p className="text-quiet">Call flights whose truth is known, and learn what your eye does.</p>
          )}
        </div>
        {session && (
          <div className="flex items-center gap-3">
            <span className="text-quiet" data-testid="so-far">
              {session.given.length} answered{sumWords(session.given)}
              <TimeLeft startedAt={session.startedAt} />
            </span>
            <Button onClick={() => end(session.given)}>End the session</Button>
          </div>
        )}
      </div>
      {session ? (
        <Asking
          key={session.key}
          question={session.question}
          fade={fade}
          onAnswer={(answer) => void answered(session, answer)}
          onNext={() => next(session)}
        />
      ) : (
        <div className="grid gap-3">
          {over && (
            <Card className="p-4" label="The session">
              <p className="text-lead" role="status">
                {over.length === 0
                  ? 'The session is over; nothing was answered.'
                  : `The session is over: ${over.length} answered${sumWords(over)}.`}
              </p>
            </Card>
          )}
          <Card className="p-4" label="A session">
            <h2 className="text-lead">Five minutes</h2>
            <p className="text-quiet">
              You see flights from behind the tee and say what you saw, and how sure you are. Sure and right
              earns most, 100 points; having seen nothing earns none; sure and wrong costs most. It gets
              harder while you are right three times in four.
            </p>
            <div className="mt-3 flex flex-wrap items-end gap-3">
              {throwers.length > 0 && (
                <Select
                  label="Whose eye"
                  value={who}
                  onChange={setWho}
                  className="w-56"
                  options={[
                    { value: NOBODY, words: 'Nobody in particular' },
                    ...throwers.map((t) => ({ value: t.id, words: t.name })),
                  ]}
                />
              )}
              <Choice
                label="Flights"
                value={source}
                options={SOURCES.map((value) => ({
                  value,
                  label: value === 'recorded' ? `recorded of yours (${recorded.length})` : value,
                }))}
                onChange={setSource}
              />
              <Button kind="primary" disabled={isOwn && askable.length === 0} onClick={begin}>
                Begin
              </Button>
            </div>
            {isOwn && (
              <p className="mt-2 text-quiet">
                {recorded.length === 0
                  ? 'No throw of which the whole path was recorded, with times and heights, is here yet. The field takes such files.'
                  : askable.length > 0
                    ? 'Of a recorded throw its landing is known, and turn and fade where all throws of its disc say them surely.'
                    : 'Of a recorded throw only its landing, turn and fade may be asked: choose one of them.'}
              </p>
            )}
            <div className="mt-3 flex flex-wrap gap-1.5" role="group" aria-label="What is asked">
              {DRILL_KINDS.map((k) => (
                <Chip key={k} on={kinds.includes(k)} onClick={() => turn(k)}>
                  {DRILL_WORDS[k]}
                </Chip>
              ))}
            </div>
          </Card>
          <Report answers={own} />
          {watcher && own.length > 0 && <InRatings watcher={watcher} answers={own} />}
        </div>
      )}
    </div>
  )
}

/** How much of the session is left: “, 4 min left”. It ends with the answer after that. */
function TimeLeft({ startedAt }: { startedAt: number }) {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000)
    return () => clearInterval(timer)
  }, [])
  const minutes = Math.ceil((startedAt + SESSION_MS - now) / 60_000)
  return minutes > 0 ? `, ${minutes} min left` : ', the last question'
}

/** What answers earned on average: “, 71 points on average”. */
const sumWords = (given: readonly DrillAnswer[]): string =>
  given.length === 0
    ? ''
    : `, ${figure(given.reduce((s, a) => s + a.points, 0) / given.length, 0)} points on average`
