import { Play } from 'lucide-react'
import { useEffect, useMemo, useState } from 'react'
import { useKey } from '../../parts/keys.ts'
import { DRILL_KEYS } from './keys.ts'
import { QUESTIONS } from '../../../core/drill/question.ts'
import type { DrillReply, DrillQuestion } from '../../../core/drill/question.ts'
import { pointsOf } from '../../../core/drill/scoring.ts'
import { labFlightOf } from '../../../core/lab/flight.ts'
import { sideWord } from '../../../core/judge/statements.ts'
import { capital } from '../../../contract/words.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, figure, percent } from '../../data/units.ts'
import type { Units } from '../../data/units.ts'
import { usePlaying } from '../../flown/usePlaying.ts'
import { FromBehind } from '../../flown/Views.tsx'
import { blowsWords } from '../../flown/words.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { entersWhatHasFocus, spacePressesWhatHasFocus } from '../../parts/focusKeys.ts'
import { Answering, replyOf, firstCall } from './Answering.tsx'

interface AskingProps {
  readonly question: DrillQuestion
  readonly fade: 'left' | 'right'
  readonly onAnswer: (answer: DrillReply) => void
  readonly onNext: () => void
}

/** One question: the flight as it is seen, the call, and what was true. */
export function Asking({ question, fade, onAnswer, onNext }: AskingProps) {
  const units = useUnits()
  const [call, setCall] = useState(() => firstCall(question))
  const [answer, setAnswer] = useState<DrillReply>()
  const flights = useMemo(
    () => (question.recorded ? [question.recorded.flight] : question.flights.map((f) => labFlightOf(f)!)),
    [question],
  )
  const isCause = question.kind === 'cause'
  const shown = (isCause ? flights.slice(1) : flights).map((flight, i) => ({
    name: flights.length === 2 && !isCause ? ['the first', 'the second'][i]! : 'the flight',
    look: i,
    flight,
  }))
  const lastsS = question.shownPart * Math.max(...shown.map((f) => f.flight.hangS))
  const playing = usePlaying(lastsS)
  const { toggle } = playing
  // it flies as soon as it is asked about
  // eslint-disable-next-line react-hooks/exhaustive-deps
  useEffect(() => toggle(), [])
  const asked = QUESTIONS[question.kind]
  const said = replyOf(question, call)
  const say = () => {
    if (answer) return onNext()
    if (!said) return
    setAnswer(said)
    onAnswer(said)
  }
  const again = () => {
    playing.scrub(0)
    playing.toggle()
  }
  const options = 'options' in asked ? asked.options.length : 0
  useKey(DRILL_KEYS.again, (e) => {
    if (spacePressesWhatHasFocus(e)) return
    e.preventDefault()
    again()
  })
  useKey(
    DRILL_KEYS.answer,
    (e) => {
      if (entersWhatHasFocus(e)) return
      e.preventDefault()
      say()
    },
    { enableOnFormTags: true },
  )
  useKey(DRILL_KEYS.choose, (e) => {
    const option = Number(e.key) - 1
    if (!answer && option < options) setCall((c) => ({ ...c, option }))
  })
  const { air } = question.recorded?.thrown ?? question.flights[0]!
  return (
    <Card className="p-4" label="The question">
      <h2 className="text-title">{asked.asks}</h2>
      <p className="text-quiet">
        {question.windShown
          ? `Wind: ${blowsWords(air.windAlongMps, (fade === 'right' ? 1 : -1) * air.windTowardFadeMps, units.speed.show)}.`
          : 'The wind is not told.'}{' '}
        {question.recorded && 'A throw of yours, as it was recorded; how the disc was tilted was not. '}
        {isCause && 'Dotted: how it was meant.'}
        {question.kind === 'more-stable' && 'Both were thrown as alike as a hand throws.'}
      </p>
      <div className="my-3">
        <FromBehind
          flights={shown}
          before={isCause ? { name: 'as meant', look: 0, flight: flights[0]! } : undefined}
          obstacles={[]}
          atS={answer ? undefined : (playing.atS ?? 0)}
          fade={fade}
          height={question.kind === 'landing' ? 200 : 320}
          discPx={20}
          {...(!answer && { untilS: playing.atS ?? 0 })}
        />
        {shown.length === 2 && (
          <p className="mt-1.5 flex gap-4 text-quiet">
            {shown.map(({ name, look }) => (
              <span key={name} className="flex items-center gap-1.5">
                <DiscDot look={look} size={14} /> {name}
              </span>
            ))}
          </p>
        )}
      </div>
      {answer && (
        <div role="status">
          <p className="text-lead">{toldWords(question, units, fade)}</p>
          {question.recorded && <p>It was {question.recorded.name}.</p>}
          <p className="text-quiet">{saidWords(question, answer, units)}</p>
        </div>
      )}
      <Answering
        question={question}
        call={call}
        fade={fade}
        isTold={answer !== undefined}
        onCall={(part) => setCall((c) => ({ ...c, ...part }))}
      />
      <div className="mt-4 flex flex-wrap gap-2">
        <Button kind="primary" keyHint="Enter" disabled={!answer && !said} onClick={say}>
          {answer ? 'Next' : 'Answer'}
        </Button>
        {!answer && (
          <Button keyHint="Space" onClick={again}>
            <Play size={16} aria-hidden /> {playing.playing ? 'Start it over' : 'See it again'}
          </Button>
        )}
      </div>
    </Card>
  )
}

/** What was true, in a sentence. */
function toldWords(
  { kind, truth, flights }: DrillQuestion,
  { length }: Units,
  fade: 'left' | 'right',
): string {
  if (truth.kind === 'circle') {
    const { downM, sideM } = truth.at
    return `It landed ${length.show(downM, 0)} out, ${length.show(Math.abs(sideM), 0)} ${sideWord(fade, sideM > 0)}.`
  }
  if (truth.kind === 'range')
    return kind === 'angle'
      ? `It was released ${angleWords(truth.value)}.`
      : `Its ${kind} is ${figure(truth.value, 1)}.`
  const asked = QUESTIONS[kind]
  const option = 'options' in asked ? asked.options[truth.option]! : ''
  switch (kind) {
    case 'nose':
      return `The nose was ${option}, by ${Math.abs(flights[0]!.throw.noseDeg).toFixed(0)}°.`
    case 'cause':
      return `It was ${option}.`
    case 'more-stable':
      return `${capital(option)} is more stable.`
    default:
      return `${capital(option)}.`
  }
}

/** What was said, and what it earned. */
function saidWords(question: DrillQuestion, answer: DrillReply, { length }: Units): string {
  const points = Math.round(pointsOf(question, answer))
  const earned = `${figure(points, 0)} of 100 points.`
  if (answer.kind === 'range') {
    const said = (v: number) => (question.kind === 'angle' ? `${figure(v, 0)}°` : figure(v, 1))
    return `You said ${said(answer.low)} to ${said(answer.high)}: ${earned}`
  }
  if (answer.kind === 'circle')
    return `You said within ${length.show(answer.radiusM, 0)} of a place: ${earned}`
  const { truth } = question
  const held = truth.kind === 'shares' ? answer.shares[truth.option]! : 0
  return `You held it likely at ${percent(held)}: ${earned}`
}
