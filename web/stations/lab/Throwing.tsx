import { memo } from 'react'
import type { ReactNode } from 'react'
import { LAB_RANGE } from '../../../contract/lab.ts'
import type { ByArm, KnownArm, LabSetup, LabThrown, Weather } from '../../../contract/lab.ts'
import { fadeSide, STROKES } from '../../../core/flight/hand.ts'
import { useArms, useThrowers } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords } from '../../data/units.ts'
import type { Measure } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { OnEdgeDial } from '../../parts/Disc.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { AirDial, ArmDial, clamp, SpinDial, Vane } from './dials.tsx'
import { habitWords } from '../../flown/words.ts'
import { airWords, armWords, noseWords, spinWords, labWindWords } from './words.ts'
import { Select } from '../../parts/Select.tsx'

type Shown = Pick<Measure, 'unit' | 'to' | 'from'>
const DEGREES: Shown = { unit: '°', to: (v) => v, from: (v) => v }
const PERCENT: Shown = { unit: '%', to: (v) => 100 * v, from: (v) => v / 100 }

interface ThrowingProps {
  readonly setup: LabSetup
  /** Whoever is set to throw, as far as known. */
  readonly who: KnownArm | undefined
  readonly onChange: (part: Partial<LabSetup>) => void
}

/** How it is thrown, and in what: pulled on six pictures, with the exact figures below them. */
export const ThrowingPanel = memo(function Throwing({ setup, who, onChange }: ThrowingProps) {
  const { throw: t, weather, fade } = setup
  const units = useUnits()
  const thrown = (part: Partial<LabThrown>) => onChange({ throw: { ...t, ...part } })
  const blown = (part: Partial<Weather>) => onChange({ weather: { ...weather, ...part } })
  const sign = fade === 'right' ? 1 : -1
  const toRight = sign * weather.windTowardFadeMps + 0
  const blows = (windAlongMps: number, right: number) =>
    blown({ windAlongMps, windTowardFadeMps: sign * right + 0 })
  const inThrow = (of: keyof LabThrown, label: string, shown: Shown): ExactProps => ({
    label,
    shown,
    value: t[of],
    range: LAB_RANGE[of],
    onSet: (v) => thrown({ [of]: v }),
  })
  const inWeather = (of: keyof Weather, label: string, shown: Shown): ExactProps => ({
    label,
    shown,
    value: weather[of],
    range: LAB_RANGE[of],
    onSet: (v) => blown({ [of]: v }),
  })
  const exact: readonly ExactProps[] = [
    inThrow('hyzerDeg', 'Release angle', DEGREES),
    inThrow('noseDeg', 'Nose up', DEGREES),
    inThrow('launchDeg', 'Launch', DEGREES),
    inThrow('power', 'Power', PERCENT),
    inThrow('aimDeg', 'Aim to fade side', DEGREES),
    inThrow('armMps', 'Arm, full speed', units.speed),
    inWeather('windAlongMps', 'Tailwind', units.speed),
    {
      ...inWeather('windTowardFadeMps', 'Wind to the right', units.speed),
      value: toRight,
      onSet: (right) => blows(weather.windAlongMps, right),
    },
    inThrow('spin', 'Spin', PERCENT),
    inWeather('temperatureC', 'Air', units.temperature),
    inWeather('altitudeM', 'Above the sea', units.length),
    inThrow('scatter', 'Scatter', PERCENT),
  ]
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
      <p className="mt-1 text-note text-quiet">Pull any of the pictures, or write the figure.</p>
      <div className="mt-2 grid grid-cols-3 gap-x-2 gap-y-3">
        <Picture seen="from behind" words={angleWords(t.hyzerDeg)}>
          <OnEdgeDial
            label="Release angle"
            words={angleWords(t.hyzerDeg)}
            hyzerDeg={t.hyzerDeg}
            fadeSide={fade}
            width={108}
            onTurn={(hyzerDeg) => thrown({ hyzerDeg })}
          />
        </Picture>
        <Picture seen="from the side" words={noseWords(t.noseDeg)}>
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
        </Picture>
        <Picture seen="arm and aim" words={armWords(t, fade)}>
          <ArmDial {...t} fade={fade} words={armWords(t, fade)} onPull={thrown} />
        </Picture>
        <Picture seen="from above" words={spinWords(t.spin)}>
          <SpinDial spin={t.spin} fade={fade} words={spinWords(t.spin)} onPull={(spin) => thrown({ spin })} />
        </Picture>
        <Picture seen="wind" words={labWindWords(weather, fade, units)}>
          <Vane alongMps={weather.windAlongMps} toRightMps={toRight} onPull={blows} />
        </Picture>
        <Picture seen="air" words={airWords(weather)}>
          <AirDial weather={weather} words={airWords(weather)} onPull={blown} />
        </Picture>
      </div>
      <div className="mt-3 grid grid-cols-3 gap-x-2 gap-y-1.5">
        {exact.map((e) => (
          <Exact key={e.label} {...e} />
        ))}
      </div>
      <ThrownBy setup={setup} who={who} onChange={onChange} />
    </Card>
  )
})

/** Whose arm throws: its speed and scatter are taken, and what it does besides what is meant. */
function ThrownBy({ setup, who, onChange }: ThrowingProps) {
  const units = useUnits()
  const { throwers = [] } = useThrowers()
  const arms = useArms() ?? []
  const choices = throwers.flatMap((thrower) =>
    STROKES.flatMap((stroke) => {
      const armMps = stroke === 'backhand' ? thrower.backhandMps : thrower.forehandMps
      const known = arms.find((a) => a.thrower === thrower.name && a.stroke === stroke)
      return armMps === null ? [] : [{ thrower, stroke, armMps, known }]
    }),
  )
  if (choices.length === 0) return null
  const keyOf = ({ thrower, stroke }: ByArm) => `${thrower} ${stroke}`
  const choose = (key: string | null) => {
    const chosen = choices.find((c) => keyOf({ thrower: c.thrower.name, stroke: c.stroke }) === key)
    if (!chosen) return onChange({ by: null })
    const { thrower, stroke, armMps, known } = chosen
    onChange({
      by: { thrower: thrower.name, stroke },
      throw: { ...setup.throw, armMps, scatter: clamp(known?.scatter ?? 1, LAB_RANGE.scatter) },
      fade: fadeSide(thrower.hand, stroke),
    })
  }
  return (
    <div className="mt-2">
      <Select
        label="Thrown by"
        value={setup.by ? keyOf(setup.by) : null}
        onChange={choose}
        options={[
          { value: null, words: 'Nobody in particular: as it is meant' },
          ...choices.map(({ thrower, stroke, armMps }) => ({
            value: keyOf({ thrower: thrower.name, stroke }),
            words: `${thrower.name}, ${stroke}, ${units.speed.show(armMps)}`,
          })),
        ]}
      />
      {setup.by && (
        <p className="mt-1 text-note text-quiet">
          {habitWords(setup.by, who, 'where it lands has that in it, and the chance what is not known of it')}
        </p>
      )}
    </div>
  )
}

/** A picture that is pulled, how it is seen, and what it says now. */
const Picture = ({ seen, words, children }: { seen: string; words: string; children: ReactNode }) => (
  <div className="flex flex-col items-center text-center">
    <div className="flex min-h-21 w-full items-center justify-center">{children}</div>
    <p className="text-note leading-4 text-quiet">{seen}</p>
    <p className="leading-5 font-medium">{words}</p>
  </div>
)

interface ExactProps {
  readonly label: string
  readonly shown: Shown
  readonly value: number
  readonly range: readonly [number, number]
  readonly onSet: (value: number) => void
}

/** The exact figure of something that is pulled, in the unit of whoever reads. */
const Exact = ({ label, shown: { unit, to, from }, value, range, onSet }: ExactProps) => (
  <FigureInput
    signed
    label={label}
    unit={unit}
    value={to(value)}
    onChange={(v) => v !== null && onSet(clamp(from(v), range))}
  />
)
