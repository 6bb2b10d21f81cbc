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

/** A call while it is being made: a middle and how far about it, or an option and how sure. */
export interface Call {
  readonly middle: number
  readonly half: number
  readonly option: number
  readonly sure: number
  readonly at: { readonly downM: number; readonly sideM: number }
  readonly radiusM: number
}
export const FIRST_CALL: Call = {
  middle: 0,
  half: 3,
  option: 0,
  sure: 0.6,
  at: { downM: 70, sideM: 0 },
  radiusM: 10,
}

/** What a call may be: least, most, steps, the widest it may be, and what lies at either end. */
const SPAN = {
  angle: { low: -30, high: 35, step: 1, widest: 25, ends: ['anhyzer', 'hyzer'] },
  turn: { low: -5, high: 1, step: 0.1, widest: 3, ends: ['turns much', 'turns none'] },
  fade: { low: -0.5, high: 5, step: 0.1, widest: 3, ends: ['fades none', 'fades much'] },
} as const

/** The call a question begins with. */
export function firstCall({ kind }: DrillQuestion): Call {
  if (kind === 'turn') return { ...FIRST_CALL, middle: -1.5, half: 1 }
  if (kind === 'fade') return { ...FIRST_CALL, middle: 1.5, half: 1 }
  return { ...FIRST_CALL, half: 8 }
}

/** A call as it is answered. */
export function replyOf({ kind }: DrillQuestion, call: Call): DrillReply {
  const asked = QUESTIONS[kind]
  if (asked.answer === 'range')
    return { kind: 'range', low: call.middle - call.half, high: call.middle + call.half }
  if (asked.answer === 'circle') return { kind: 'circle', at: call.at, radiusM: call.radiusM }
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
        {kind === 'angle' && (
          <DiscOnEdge
            hyzerDeg={isTold && truth.kind === 'range' ? truth.value : call.middle}
            fadeSide={fade}
            width={110}
          />
        )}
        <div className="min-w-0 flex-1 basis-80">
          {!isTold && (
            <p className="text-quiet">
              You say {said(call.middle - call.half)} to {said(call.middle + call.half)}, meant to hold it
              four times in five
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
        <Pull
          label="Four times in five within"
          shown={length.show(call.radiusM, 0)}
          {...{ min: 2, max: 40, step: 1, value: call.radiusM }}
          onPull={(radiusM) => onCall({ radiusM })}
        />
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
      <Pull
        label="How sure"
        shown={`${Math.round(100 * call.sure)} %`}
        {...{ min: 100 / asked.options.length, max: 100, step: 1, value: 100 * call.sure }}
        onPull={(v) => onCall({ sure: v / 100 })}
      />
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
    onCall({ at: { downM: call.at.downM + by[0]!, sideM: call.at.sideM + sign * by[1]! } })
  }
  const spot = (p: Call['at']) => ({ down: p.downM, left: sign * p.sideM })
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
        <Ring {...spot(call.at)} radiusM={call.radiusM} />
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
