import { useEffect, useReducer, useState } from 'react'
import { v7 as newId } from 'uuid'
import { DRILL_KINDS } from '../../../core/drill/question.ts'
import type { DrillReply } from '../../../core/drill/question.ts'
import { fadeSide } from '../../../core/flight/hand.ts'
import type { DrillAnswer } from '../../../contract/drill.ts'
import type { Thrower } from '../../../contract/trials.ts'
import { keepAnswer, useDrillAnswers, useRecorded } from '../../data/drill.ts'
import { useThrowers } from '../../data/hooks.ts'
import { sayWrong } from '../../data/say.ts'
import { figure } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card, WaitingNote } from '../../parts/Card.tsx'
import { Chip, Choice } from '../../parts/Choice.tsx'
import { ThrowerSelect } from '../../parts/ThrowerSelect.tsx'
import { Asking } from './Asking.tsx'
import {
  answerGiven,
  askableOf,
  drillAfter,
  FLIGHT_SOURCES,
  meanPoints,
  minutesLeft,
  NO_DRILL,
  questionFor,
} from './drilling.ts'
import type { Drilling, DrillEvent, DrillSession } from './drilling.ts'
import { InRatings } from './InRatings.tsx'
import { DRILL_WORDS } from './kinds.ts'
import { Report } from './Report.tsx'

/** Five minutes of flights that are called, and what they say of the eye that called them. */
export default function Drill() {
  const { answers } = useDrillAnswers()
  const { throwers = [] } = useThrowers()
  const recorded = useRecorded()
  const [drill, tell] = useReducer(drillAfter, NO_DRILL)
  if (!answers) return <WaitingNote what="what your eye said so far" />
  const { session, over } = drill
  const watcher = throwers.find((t) => t.id === drill.who)
  const own = answers
    .filter((a) => a.throwerId === drill.who)
    .toSorted((a, b) => a.answeredAt.localeCompare(b.answeredAt))
  const next = () => ({ atMs: Date.now(), question: questionFor(drill, own, recorded, Math.random) })
  const answered = async (now: DrillSession, reply: DrillReply) => {
    const by = { id: newId(), throwerId: watcher?.id ?? null, answeredAt: new Date().toISOString() }
    const answer = answerGiven(now.question, reply, by)
    tell({ did: 'answered', answer })
    try {
      await keepAnswer(answer)
    } catch (e) {
      sayWrong(`This answer could not be kept: ${(e as Error).message}`)
    }
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
              {session.given.length} answered{pointsWords(session.given)}
              <TimeLeft session={session} />
            </span>
            <Button onClick={() => tell({ did: 'ended' })}>End the session</Button>
          </div>
        )}
      </div>
      {session ? (
        <Asking
          key={session.asked}
          question={session.question}
          fade={watcher ? fadeSide(watcher.hand, 'backhand') : 'left'}
          onAnswer={(reply) => void answered(session, reply)}
          onNext={() => tell({ did: 'went on', ...next() })}
        />
      ) : (
        <div className="grid gap-3">
          {over && (
            <Card className="p-4" label="The session">
              <p className="text-lead" role="status">
                {over.length === 0
                  ? 'The session is over; nothing was answered.'
                  : `The session is over: ${over.length} answered${pointsWords(over)}.`}
              </p>
            </Card>
          )}
          <Begin
            drill={drill}
            throwers={throwers}
            recorded={recorded}
            tell={tell}
            onBegin={() => tell({ did: 'began', ...next() })}
          />
          <Report answers={own} />
          {watcher && own.length > 0 && <InRatings watcher={watcher} answers={own} />}
        </div>
      )}
    </div>
  )
}

interface BeginProps {
  readonly drill: Drilling
  readonly throwers: readonly Thrower[]
  readonly recorded: ReturnType<typeof useRecorded>
  readonly tell: (event: DrillEvent) => void
  readonly onBegin: () => void
}

/** Whose eye is drilled, in what, and the button that begins. */
function Begin({ drill, throwers, recorded, tell, onBegin }: BeginProps) {
  const isOwn = drill.source === 'recorded'
  const askable = askableOf(drill, recorded)
  return (
    <Card className="p-4" label="A session">
      <h2 className="text-lead">Five minutes</h2>
      <p className="text-quiet">
        You see flights from behind the tee and say what you saw, and how sure you are. Sure and right earns
        most, 100 points; having seen nothing earns none; sure and wrong costs most. It gets harder while you
        are right three times in four.
      </p>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <ThrowerSelect
          label="Whose eye"
          value={drill.who}
          throwers={throwers}
          besides={[{ value: null, words: 'Nobody in particular' }]}
          onChange={(who) => tell({ did: 'chose eye', who })}
          className="w-56"
        />
        <Choice
          label="Flights"
          value={drill.source}
          options={FLIGHT_SOURCES.map((value) => ({
            value,
            label: value === 'recorded' ? `recorded of yours (${recorded.length})` : value,
          }))}
          onChange={(source) => tell({ did: 'chose source', source })}
        />
        <Button kind="primary" disabled={isOwn && askable.length === 0} onClick={onBegin}>
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
          <Chip key={k} on={drill.kinds.includes(k)} onClick={() => tell({ did: 'turned kind', kind: k })}>
            {DRILL_WORDS[k]}
          </Chip>
        ))}
      </div>
    </Card>
  )
}

/** How much of the session is left: “, 4 min left”. It ends with the answer after that. */
function TimeLeft({ session }: { session: DrillSession }) {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000)
    return () => clearInterval(timer)
  }, [])
  const minutes = minutesLeft(session, now)
  return minutes > 0 ? `, ${minutes} min left` : ', the last question'
}

/** What answers earned on average: “, 71 points on average”. */
function pointsWords(given: readonly DrillAnswer[]): string {
  const mean = meanPoints(given)
  return mean === undefined ? '' : `, ${figure(mean, 0)} points on average`
}
