import clsx from 'clsx'
import { Settings2 } from 'lucide-react'
import { useState } from 'react'
import type { Session } from '../../../contract/trials.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import type { FieldStanding } from './draft.ts'
import { METHODS } from '../../data/methodWords.ts'
import { OutingDialog } from './OutingDialog.tsx'
import type { LiveWind } from './useLiveWind.ts'
import { Select } from '../../parts/Select.tsx'

interface WindAirProps {
  readonly standing: FieldStanding
  readonly session: Session
  readonly onStanding: (change: Partial<FieldStanding>) => void
  readonly onSession: (session: Session) => void
  readonly onTurn: () => void
  /** Whether the anemometer is listened to, and what it says. */
  readonly listening: boolean
  readonly onListening: (on: boolean) => void
  readonly live: LiveWind
  /** On a phone: it stands above the field, to be changed; else below everything that is called. */
  readonly above: boolean
}

/** Wind at release and the air of the outing. Head and tail are named; nobody has to think in signs. */
export function WindAir({
  standing,
  session,
  onStanding,
  onSession,
  onTurn,
  listening,
  onListening,
  live,
  above,
}: WindAirProps) {
  const units = useUnits()
  const [editing, setEditing] = useState(false)
  /** A wind is a strength and where it comes from. */
  const wind = (key: 'windAlongMps' | 'windAcrossMps', label: string, minus: string, plus: string) => {
    const value = standing[key]
    const sign = value !== null && value >= 0 && !Object.is(value, -0) ? 1 : -1
    return (
      <div className="flex items-end gap-1.5">
        <FigureInput
          label={label}
          hideLabel
          className="w-17"
          unit={units.speed.unit}
          value={value === null ? null : Math.abs(units.speed.to(value))}
          onChange={(v) =>
            onStanding({
              [key]: v === null ? null : sign * units.speed.from(Math.abs(v)),
              // what somebody types is not what was logged
              windSdMps: null,
            })
          }
        />
        <Select
          hideLabel
          label={`${label}, from`}
          value={sign}
          onChange={(v) => onStanding({ [key]: v * Math.abs(value ?? 0) })}
          options={[
            { value: -1, words: minus },
            { value: 1, words: plus },
          ]}
        />
      </div>
    )
  }
  return (
    <Card
      className={clsx(
        'flex flex-wrap items-center gap-x-2 gap-y-2 px-3 py-2.5 phone:mx-3',
        above ? 'phone:order-2' : 'phone:order-5',
      )}
      label="Wind and air"
    >
      <span className="text-note font-semibold desk:sr-only">Wind</span>
      {listening ? (
        <LiveReading live={live} />
      ) : (
        <>
          {wind('windAlongMps', 'Wind along', 'head', 'tail')}
          {wind('windAcrossMps', 'Wind across', 'from right', 'from left')}
        </>
      )}
      <Button className="!px-2.5" aria-pressed={listening} onClick={() => onListening(!listening)}>
        {listening ? 'By hand' : 'Live'}
      </Button>
      <Button className="!px-2.5" onClick={onTurn} keyHint="W">
        Turn
      </Button>
      <button
        type="button"
        onClick={() => setEditing(true)}
        className="ml-auto flex min-h-11 min-w-0 items-center gap-2 rounded-lg px-1 text-left text-note hover:bg-tint"
      >
        <span>
          <span className="block font-semibold">{session.place}</span>
          <span className="text-quiet">
            {session.temperatureC === null
              ? 'air not noted'
              : units.temperature.show(session.temperatureC, 0)}
            , {METHODS[session.method].words}
          </span>
        </span>
        <Settings2 size={18} aria-hidden />
        <span className="sr-only">Edit the outing</span>
      </button>
      {editing && <OutingDialog session={session} onClose={() => setEditing(false)} onKeep={onSession} />}
    </Card>
  )
}

const [SPARK_WIDTH, SPARK_HEIGHT] = [72, 30]

/** What the anemometer says now, and the wind along of the last two minutes. */
function LiveReading({ live: { now, recent, lost, device } }: { live: LiveWind }) {
  const units = useUnits()
  if (lost) return <span className="text-accent">The anemometer does not answer; note the wind by hand.</span>
  if (!now) return <span className="text-quiet">Listening to the anemometer …</span>
  const [low, high] = [Math.min(0, ...recent), Math.max(0, ...recent)]
  const y = (v: number) => 2 + (SPARK_HEIGHT - 4) * (1 - (v - low) / Math.max(0.5, high - low))
  const x = (i: number) => (SPARK_WIDTH * i) / Math.max(1, recent.length - 1)
  const along = units.speed.show(Math.abs(now.alongMps))
  const across = units.speed.show(Math.abs(now.acrossMps))
  return (
    <span className="flex items-center gap-3" data-testid="live-wind">
      <span className="figure whitespace-nowrap">
        {along} <span className="font-sans font-normal">{now.alongMps < 0 ? 'head' : 'tail'}</span>, {across}{' '}
        <span className="font-sans font-normal">{now.acrossMps > 0 ? 'from left' : 'from right'}</span>
        <span className="block font-sans text-note font-normal text-quiet">{device}</span>
      </span>
      <svg width={SPARK_WIDTH} height={SPARK_HEIGHT} aria-hidden className="phone:hidden">
        <line x1="0" x2={SPARK_WIDTH} y1={y(0)} y2={y(0)} style={{ stroke: 'var(--rule)' }} />
        <polyline
          points={recent.map((v, i) => `${x(i)},${y(v)}`).join(' ')}
          fill="none"
          strokeWidth="1.5"
          style={{ stroke: 'var(--water)' }}
        />
      </svg>
    </span>
  )
}
