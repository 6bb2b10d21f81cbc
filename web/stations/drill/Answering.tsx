import type { KeyboardEvent } from 'react'
import { QUESTIONS } from '../../../core/drill/question.ts'
import { labFlightOf } from '../../../core/lab/flight.ts'
import type { DrillReply, DrillQuestion } from '../../../core/drill/question.ts'
import { useUnits } from '../../data/preferences.tsx'
import { figure } from '../../data/units.ts'
import { Choice } from '../../parts/Choice.tsx'
import { DiscOnEdge } from '../../parts/Disc.tsx'
import { EndLabels, Flight } from '../../strip/layers.tsx'
import { Strip, useScale } from '../../strip/Strip.tsx'
import { useWidth } from '../../strip/useWidth.ts'
import { CallBand } from './CallBand.tsx'

/** A call while it is being made: a middle and how far about it, or an option and how sure; null is not said yet. */
export interface Call {
  readonly middle: number | null
  readonly half: number
  readonly option: number | null
  readonly sure: number
  readonly at: { readonly downM: number; readonly sideM: number } | null
  readonly radiusM: number
}

/** What a call may be: least, most, steps, the widest it may be, where keys begin, and what lies at either end. */
const SPAN = {
  angle: { low: -30, high: 35, step: 1, widest: 25, start: 0, ends: ['anhyzer', 'hyzer'] },
  turn: { low: -5, high: 1, step: 0.1, widest: 3, start: -1.5, ends: ['turns much', 'turns none'] },
  fade: { low: -0.5, high: 5, step: 0.1, widest: 3, start: 1.5, ends: ['fades none', 'fades much'] },
} as const
/** Where keys begin on the field. */
const FIELD_START = { downM: 70, sideM: 0 }

/** The call a question begins with: nothing is said, and nobody is surer of one option than of another. */
export function firstCall({ kind }: DrillQuestion): Call {
  const asked = QUESTIONS[kind]
  const sure = asked.answer === 'shares' ? 1 / asked.options.length : 1
  return { middle: null, half: kind === 'angle' ? 8 : 1, option: null, sure, at: null, radiusM: 10 }
}

/** A call as it is answered; undefined where nothing was said yet. */
export function replyOf({ kind }: DrillQuestion, call: Call): DrillReply | undefined {
  const asked = QUESTIONS[kind]
  if (asked.answer === 'range')
    return call.middle === null
      ? undefined
      : { kind: 'range', low: call.middle - call.half, high: call.middle + call.half }
  if (asked.answer === 'circle')
    return call.at === null ? undefined : { kind: 'circle', at: call.at, radiusM: call.radiusM }
  if (call.option === null) return undefined
  const n = asked.options.length
  const rest = (1 - call.sure) / (n - 1)
  return { kind: 'shares', shares: asked.options.map((_, i) => (i === call.option ? call.sure : rest)) }
}

interface AnsweringProps {
  readonly question: DrillQuestion
  readonly call: Call
  readonly fade: 'left' | 'right'
  /** Answered: what was true stands beside what was said. */
  readonly isTold: boolean
  readonly onCall: (part: Partial<Call>) => void
}

/** Where a call is made: pulled, or set by keys; and what was true, once it is told. */
export function Answering({ question, call, fade, isTold, onCall }: AnsweringProps) {
  const { kind } = question
  const { length } = useUnits()
  const asked = QUESTIONS[kind]
  if (asked.answer === 'range') {
    const { step, ...span } = SPAN[kind as keyof typeof SPAN]
    const said = (v: number) => `${figure(v, step < 1 ? 1 : 0)}${asked.unit}`
    const { truth } = question
    return (
      <div className="flex flex-wrap items-center gap-x-4">
        {kind === 'angle' && (isTold || call.middle !== null) && (
          <DiscOnEdge
            hyzerDeg={isTold && truth.kind === 'range' ? truth.value : (call.middle ?? 0)}
            fadeSide={fade}
            width={110}
          />
        )}
        <div className="min-w-0 flex-1 basis-80">
          {!isTold && (
            <p className="text-quiet">
              {call.middle === null
                ? 'Tap the scale where it is, then pull an end until it holds it four times in five'
                : `You say ${said(call.middle - call.half)} to ${said(call.middle + call.half)}, meant to hold it four times in five`}
            </p>
          )}
          <CallBand
            label={kind === 'angle' ? 'Angle, hyzer positive' : `Its ${kind}`}
            {...span}
            {...{ step, said }}
            middle={call.middle}
            half={call.half}
            {...(isTold && truth.kind === 'range' && { truth: truth.value })}
            onPull={onCall}
          />
        </div>
      </div>
    )
  }
  if (asked.answer === 'circle')
    return isTold ? (
      <Where {...{ question, call, fade, isTold, onCall }} />
    ) : (
      <div className="grid gap-2">
        <Where {...{ question, call, fade, isTold, onCall }} />
        {call.at === null ? (
          <p className="text-quiet">Tap where it will land</p>
        ) : (
          <Pull
            label="Four times in five within"
            shown={length.show(call.radiusM, 0)}
            {...{ min: 2, max: 40, step: 1, value: call.radiusM }}
            onPull={(radiusM) => onCall({ radiusM })}
          />
        )}
      </div>
    )
  if (isTold) return null
  return (
    <div className="grid gap-2">
      <Choice
        label={asked.asks}
        value={call.option}
        options={asked.options.map((o, value) => ({ value, label: `${value + 1} · ${o}` }))}
        onChange={(option) => onCall({ option })}
      />
      {call.option !== null && (
        <Pull
          label="How sure"
          shown={`${Math.round(100 * call.sure)} %`}
          {...{ min: 100 / asked.options.length, max: 100, step: 1, value: 100 * call.sure }}
          onPull={(v) => onCall({ sure: v / 100 })}
        />
      )}
    </div>
  )
}

interface PullProps {
  readonly label: string
  readonly shown: string
  readonly min: number
  readonly max: number
  readonly step: number
  readonly value: number
  readonly onPull: (value: number) => void
}
function Pull({ label, shown, onPull, ...range }: PullProps) {
  return (
    <label className="grid grid-cols-[11rem_minmax(0,1fr)_5rem] items-center gap-3 max-md:grid-cols-[minmax(0,1fr)_5rem]">
      <span className="text-quiet max-md:col-span-2">{label}</span>
      <input
        type="range"
        aria-valuetext={shown}
        className="min-h-10 w-full accent-spruce max-md:min-h-11"
        {...range}
        onChange={(e) => onPull(Number(e.target.value))}
      />
      <span className="figure text-right">{shown}</span>
    </label>
  )
}

const FIELD = { down: 130, left: 32, right: 32 }
/** As high as the field is drawn: no more than what there is to see takes, px. */
const HIGHEST = 280
const AROUND = { along: 28, across: 38 }
const heightFor = (width: number) =>
  Math.min(
    HIGHEST,
    AROUND.across + ((FIELD.left + FIELD.right) * Math.max(0, width - AROUND.along)) / FIELD.down,
  )

/** Where it will land, on the field: tapped, dragged, or moved by arrow keys; and where it did. */
function Where({ question, call, fade, isTold, onCall }: AnsweringProps) {
  const sign = fade === 'left' ? 1 : -1
  const key = (e: KeyboardEvent) => {
    const by = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key]
    if (!by) return
    e.preventDefault()
    const from = call.at ?? FIELD_START
    onCall({ at: { downM: from.downM + by[0]!, sideM: from.sideM + sign * by[1]! } })
  }
  const spot = (p: NonNullable<Call['at']>) => ({ down: p.downM, left: sign * p.sideM })
  const { truth } = question
  const flight = isTold ? (question.recorded?.flight ?? labFlightOf(question.flights[0]!)) : undefined
  const { box, width } = useWidth()
  return (
    <div ref={box}>
      <Strip
        reach={FIELD}
        fade={fade}
        height={heightFor(width)}
        label={isTold ? 'The field from above: where it landed' : 'The field from above: where will it land?'}
        {...(!isTold && {
          onPoint: ({ down, left }) => onCall({ at: { downM: down, sideM: sign * left } }),
          onKeyDown: key,
        })}
      >
        {flight && (
          <Flight
            path={flight.downM.map((downM, i) => spot({ downM, sideM: flight.sideM[i]! }))}
            hue="var(--accent)"
          />
        )}
        {call.at && <Ring {...spot(call.at)} radiusM={call.radiusM} />}
        {isTold && truth.kind === 'circle' && (
          <EndLabels ends={[{ at: spot(truth.at), hue: 'var(--accent)', words: 'it landed here' }]} />
        )}
      </Strip>
    </div>
  )
}
function Ring({ down, left, radiusM }: { down: number; left: number; radiusM: number }) {
  const scale = useScale()
  return (
    <g>
      <circle
        cx={scale.x(down)}
        cy={scale.y(left)}
        r={radiusM * scale.along}
        fillOpacity="0.15"
        style={{ fill: 'var(--water)', stroke: 'var(--water)' }}
      />
      <circle cx={scale.x(down)} cy={scale.y(left)} r="6" style={{ fill: 'var(--water)' }} />
    </g>
  )
}
