import type { KeyboardEvent } from 'react'
import { QUESTIONS } from '../../../core/drill/question.ts'
import type { Answer, Question } from '../../../core/drill/question.ts'
import { useUnits } from '../../data/preferences.tsx'
import { figure } from '../../data/units.ts'
import { Choice } from '../../parts/Choice.tsx'
import { Strip, useScale } from '../../strip/Strip.tsx'

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

/** What a call may be: least, most, steps, the widest it may be. */
const SPAN = {
  angle: { low: -30, high: 35, step: 1, widest: 25 },
  turn: { low: -5, high: 1, step: 0.1, widest: 3 },
  fade: { low: -0.5, high: 5, step: 0.1, widest: 3 },
} as const

/** The call a question begins with. */
export function firstCall({ kind }: Question): Call {
  if (kind === 'turn') return { ...FIRST_CALL, middle: -1.5, half: 1 }
  if (kind === 'fade') return { ...FIRST_CALL, middle: 1.5, half: 1 }
  return { ...FIRST_CALL, half: 8 }
}

/** A call as it is answered. */
export function answerOf({ kind }: Question, call: Call): Answer {
  const asked = QUESTIONS[kind]
  if (asked.answer === 'range')
    return { kind: 'range', low: call.middle - call.half, high: call.middle + call.half }
  if (asked.answer === 'circle') return { kind: 'circle', at: call.at, radiusM: call.radiusM }
  const n = asked.options.length
  const rest = (1 - call.sure) / (n - 1)
  return { kind: 'shares', shares: asked.options.map((_, i) => (i === call.option ? call.sure : rest)) }
}

interface AnsweringProps {
  readonly question: Question
  readonly call: Call
  readonly fade: 'left' | 'right'
  readonly onCall: (part: Partial<Call>) => void
}

/** Where a call is made: pulled, or set by keys. */
export function Answering({ question, call, fade, onCall }: AnsweringProps) {
  const { kind } = question
  const { length } = useUnits()
  const asked = QUESTIONS[kind]
  if (asked.answer === 'range') {
    const { low, high, step, widest } = SPAN[kind as keyof typeof SPAN]
    const said = (v: number) => `${figure(v, step < 1 ? 1 : 0)}${asked.unit}`
    return (
      <div className="grid gap-2">
        <Pull
          label={kind === 'angle' ? 'Angle, hyzer positive' : `Its ${kind}`}
          shown={said(call.middle)}
          {...{ min: low, max: high, step, value: call.middle }}
          onPull={(middle) => onCall({ middle })}
        />
        <Pull
          label="Four times in five within"
          shown={`± ${said(call.half)}`}
          {...{ min: step, max: widest, step, value: call.half }}
          onPull={(half) => onCall({ half })}
        />
      </div>
    )
  }
  if (asked.answer === 'circle')
    return (
      <div className="grid gap-2">
        <Where call={call} fade={fade} onCall={onCall} />
        <Pull
          label="Four times in five within"
          shown={length.show(call.radiusM, 0)}
          {...{ min: 2, max: 40, step: 1, value: call.radiusM }}
          onPull={(radiusM) => onCall({ radiusM })}
        />
      </div>
    )
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

/** Where it will land, on the field: tapped, dragged, or moved by arrow keys. */
function Where({ call, fade, onCall }: Omit<AnsweringProps, 'question'>) {
  const sign = fade === 'left' ? 1 : -1
  const key = (e: KeyboardEvent) => {
    const by = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key]
    if (!by) return
    e.preventDefault()
    onCall({ at: { downM: call.at.downM + by[0]!, sideM: call.at.sideM + sign * by[1]! } })
  }
  return (
    <Strip
      reach={FIELD}
      fade={fade}
      height={220}
      label="The field from above: where will it land?"
      onPoint={({ down, left }) => onCall({ at: { downM: down, sideM: sign * left } })}
      onKeyDown={key}
    >
      <Ring down={call.at.downM} left={sign * call.at.sideM} radiusM={call.radiusM} />
    </Strip>
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
