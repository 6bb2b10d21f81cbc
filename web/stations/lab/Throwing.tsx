import type { KeyboardEvent, PointerEvent } from 'react'
import { LAB_RANGE } from '../../../contract/lab.ts'
import type { LabSetup, Thrown, Weather } from '../../../contract/lab.ts'
import { useThrowers } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, figure } from '../../data/units.ts'
import type { Measure, Units } from '../../data/units.ts'
import { blowsWords } from '../../flown/words.ts'
import { Card } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { OnEdgeDial } from '../../parts/Disc.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'

type Range = readonly [number, number]
type Shown = (units: Units) => Pick<Measure, 'unit' | 'to' | 'from'>

/** Degrees, shares, and speeds in the unit of whoever pulls them. */
const AS_IT_IS: Shown = () => ({ unit: '°', to: (v) => v, from: (v) => v })
const PERCENT: Shown = () => ({ unit: '%', to: (v) => 100 * v, from: (v) => v / 100 })

/** What is pulled along a line, in the order it is thought of. */
const PULLED: readonly {
  readonly of: keyof Thrown
  readonly label: string
  readonly step: number
  readonly shown?: Shown
}[] = [
  { of: 'hyzerDeg', label: 'Release angle', step: 0.5 },
  { of: 'power', label: 'Power', step: 1, shown: PERCENT },
  { of: 'noseDeg', label: 'Nose up', step: 0.5 },
  { of: 'launchDeg', label: 'Launch', step: 0.5 },
  { of: 'aimDeg', label: 'Aim to the fade side', step: 0.5 },
  { of: 'spin', label: 'Spin', step: 1, shown: PERCENT },
  { of: 'armMps', label: 'Arm, full speed', step: 0.1, shown: (units) => units.speed },
  { of: 'scatter', label: 'Scatter of a practised arm', step: 5, shown: PERCENT },
]
/** The nose against the flight path. */
const noseWords = (deg: number): string =>
  deg === 0
    ? 'nose level'
    : `nose ${figure(Math.abs(deg), deg % 1 === 0 ? 0 : 1)}° ${deg > 0 ? 'up' : 'down'}`
const clamp = (v: number, [low, high]: Range) => Math.max(low, Math.min(high, v))

interface ThrowingProps {
  readonly setup: LabSetup
  readonly onChange: (part: Partial<LabSetup>) => void
}

/** How it is thrown, and in what: pulled on the disc, the vane and sliders, with the exact figure beside each. */
export function Throwing({ setup, onChange }: ThrowingProps) {
  const { throw: t, weather, fade } = setup
  const units = useUnits()
  const { throwers = [] } = useThrowers()
  const thrown = (part: Partial<Thrown>) => onChange({ throw: { ...t, ...part } })
  const blown = (part: Partial<Weather>) => onChange({ weather: { ...weather, ...part } })
  const toRight = fade === 'right' ? weather.windTowardFadeMps : -weather.windTowardFadeMps
  return (
    <Card className="p-3.5" label="The throw">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-lead">The throw</h2>
        <Choice
          label="The disc fades to the"
          value={fade}
          options={[
            { value: 'left', label: 'Fades left' },
            { value: 'right', label: 'Fades right' },
          ]}
          onChange={(value) => onChange({ fade: value })}
        />
      </div>
      <div className="mt-2 grid grid-cols-3 items-end gap-2">
        <div className="flex flex-col items-center text-center">
          <OnEdgeDial
            label="Release angle"
            words={angleWords(t.hyzerDeg)}
            hyzerDeg={t.hyzerDeg}
            fadeSide={fade}
            width={108}
            onTurn={(hyzerDeg) => thrown({ hyzerDeg })}
          />
          <p className="text-note text-quiet">from behind</p>
          <p className="font-medium">{angleWords(t.hyzerDeg)}</p>
        </div>
        <div className="flex flex-col items-center text-center">
          {/* flying to the right: pulled up in front, its nose is up */}
          <OnEdgeDial
            label="Nose"
            words={noseWords(t.noseDeg)}
            hyzerDeg={t.noseDeg}
            fadeSide="left"
            width={108}
            range={LAB_RANGE.noseDeg}
            step={0.5}
            onTurn={(noseDeg) => thrown({ noseDeg })}
          />
          <p className="text-note text-quiet">from the side</p>
          <p className="font-medium">{noseWords(t.noseDeg)}</p>
        </div>
        <div className="flex flex-col items-center text-center">
          <Vane
            alongMps={weather.windAlongMps}
            toRightMps={toRight}
            onPull={(windAlongMps, right) =>
              blown({ windAlongMps, windTowardFadeMps: fade === 'right' ? right : -right })
            }
          />
          <p className="font-medium">{blowsWords(weather.windAlongMps, toRight, units.speed.show)}</p>
        </div>
      </div>
      <div className="mt-2 grid gap-1.5">
        {PULLED.map(({ of, label, step, shown = AS_IT_IS }) => {
          const { unit, to, from } = shown(units)
          return (
            <Pulled
              key={of}
              {...{ label, unit, step }}
              value={to(t[of])}
              range={[to(LAB_RANGE[of][0]), to(LAB_RANGE[of][1])]}
              onPull={(v) => thrown({ [of]: from(v) })}
            />
          )
        })}
      </div>
      <div className="mt-3 grid grid-cols-2 gap-2">
        <FigureInput
          label="Tailwind"
          unit={units.speed.unit}
          value={units.speed.to(weather.windAlongMps)}
          onChange={(v) =>
            v !== null && blown({ windAlongMps: clamp(units.speed.from(v), LAB_RANGE.windAlongMps) })
          }
        />
        <FigureInput
          label="Wind to the right"
          unit={units.speed.unit}
          value={units.speed.to(toRight)}
          onChange={(v) => {
            if (v === null) return
            const right = clamp(units.speed.from(v), LAB_RANGE.windTowardFadeMps)
            blown({ windTowardFadeMps: fade === 'right' ? right : -right })
          }}
        />
        <FigureInput
          label="Air"
          unit={units.temperature.unit}
          value={units.temperature.to(weather.temperatureC)}
          onChange={(v) =>
            v !== null && blown({ temperatureC: clamp(units.temperature.from(v), LAB_RANGE.temperatureC) })
          }
        />
        <FigureInput
          label="Above the sea"
          unit={units.length.unit}
          digits={0}
          value={units.length.to(weather.altitudeM)}
          onChange={(v) =>
            v !== null && blown({ altitudeM: clamp(units.length.from(v), LAB_RANGE.altitudeM) })
          }
        />
      </div>
      {throwers.length > 0 && (
        <label className="mt-2 block text-note text-quiet">
          As thrown by
          <select
            className="mt-1 block min-h-10 w-full rounded-lg border border-edge bg-card px-2 text-body text-ink max-md:min-h-11"
            value=""
            onChange={(e) => {
              const who = throwers.find((x) => x.id === e.target.value)
              if (who?.backhandMps)
                onChange({
                  throw: { ...t, armMps: who.backhandMps },
                  fade: who.hand === 'right' ? 'left' : 'right',
                })
            }}
          >
            <option value="" disabled>
              Take somebody’s backhand …
            </option>
            {throwers
              .filter((x) => x.backhandMps !== null)
              .map((x) => (
                <option key={x.id} value={x.id}>
                  {x.name}, {units.speed.show(x.backhandMps!)}
                </option>
              ))}
          </select>
        </label>
      )}
    </Card>
  )
}

interface PulledProps {
  readonly label: string
  readonly unit: string
  readonly value: number
  readonly range: Range
  readonly step: number
  readonly onPull: (value: number) => void
}

/** Something that is pulled along a line, with its exact figure. */
function Pulled({ label, unit, value, range, step, onPull }: PulledProps) {
  return (
    <div className="grid grid-cols-[7.25rem_minmax(0,1fr)_6.25rem] items-center gap-2">
      <span className="text-note leading-4 text-quiet">{label}</span>
      <input
        type="range"
        aria-label={label}
        aria-valuetext={`${figure(value, 1)} ${unit}`}
        className="min-h-8 w-full accent-spruce max-md:min-h-11"
        min={range[0]}
        max={range[1]}
        step={step}
        value={value}
        onChange={(e) => onPull(Number(e.target.value))}
      />
      <FigureInput
        label={`${label}, exactly`}
        hideLabel
        unit={unit}
        value={value}
        onChange={(v) => v !== null && onPull(clamp(v, range))}
      />
    </div>
  )
}

/** The vane’s rim is so much wind, m/s. */
const RIM_MPS = 10
const RIM = 40
const STEP_MPS = 0.5

interface VaneProps {
  readonly alongMps: number
  readonly toRightMps: number
  readonly onPull: (alongMps: number, toRightMps: number) => void
}

/** The wind over the ground, seen from above with the aim line upward: pulled by its tip. */
function Vane({ alongMps, toRightMps, onPull }: VaneProps) {
  const pull = (e: PointerEvent<HTMLElement>) => {
    const r = e.currentTarget.getBoundingClientRect()
    const right = (e.clientX - r.left - r.width / 2) / (r.height / 2)
    const along = -(e.clientY - r.top - r.height / 2) / (r.height / 2)
    const part = (v: number) => clamp(Math.round(2 * 1.15 * RIM_MPS * v) / 2, LAB_RANGE.windAlongMps)
    onPull(part(along), part(right))
  }
  const keys = (e: KeyboardEvent) => {
    const by = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[e.key]
    if (!by) return
    e.preventDefault()
    const to = (v: number, way: number) => clamp(v + STEP_MPS * way, LAB_RANGE.windAlongMps)
    onPull(to(alongMps, by[0]!), to(toRightMps, by[1]!))
  }
  const [x, y] = [(RIM * toRightMps) / RIM_MPS, (-RIM * alongMps) / RIM_MPS]
  return (
    <div
      role="application"
      tabIndex={0}
      aria-label="Wind over the ground, the aim line upward; arrow keys pull it"
      className="mx-auto w-24 cursor-grab touch-none rounded-full outline-none focus-visible:outline-3 focus-visible:outline-water"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        pull(e)
      }}
      onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && pull(e)}
      onPointerUp={(e) => e.currentTarget.blur()}
      onKeyDown={keys}
    >
      <svg viewBox="-46 -46 92 92" aria-hidden className="block w-full">
        <circle r={RIM} style={{ fill: 'var(--mown)', stroke: 'var(--edge)' }} />
        <circle r={RIM / 2} fill="none" strokeDasharray="2 4" style={{ stroke: 'var(--edge)' }} />
        <line y1={RIM} y2={-RIM} strokeWidth="3" style={{ stroke: 'var(--chalk)' }} />
        <line x2={x} y2={y} strokeWidth="5" strokeLinecap="round" style={{ stroke: 'var(--water)' }} />
        <circle
          cx={x}
          cy={y}
          r="6"
          strokeWidth="2.5"
          style={{ fill: 'var(--card)', stroke: 'var(--water)' }}
        />
      </svg>
    </div>
  )
}
