import { Crosshair } from 'lucide-react'
import { useState } from 'react'
import type { Throw } from '../../../contract/trials.ts'
import { useUnits } from '../../data/preferences.tsx'
import { aside } from '../../data/units.ts'
import { Choice } from '../../parts/Choice.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { landingOf } from './draft.ts'
import type { DraftSpot, Seen } from './draft.ts'
import { Select } from '../../parts/Select.tsx'

interface TypedLandingProps {
  readonly seen: Seen
  /** The throw before, which discs are often measured from. */
  readonly last: Throw | undefined
  /** Either of the two may be typed first. */
  readonly onLanding: (change: Partial<Pick<Seen, 'carryM' | 'rightM'>>) => void
  /** Has a range finder measure it. */
  readonly onRange: () => void
}

/** The landing as figures: from the tee, or from where the last disc lies. */
export function TypedLanding({ seen, last, onLanding, onRange }: TypedLandingProps) {
  const landing = landingOf(seen)
  const [from, setFrom] = useState<'tee' | 'last'>('tee')
  const origin: DraftSpot = from === 'last' && last ? last : { carryM: 0, rightM: 0 }
  const units = useUnits()
  return (
    <div data-typed className="space-y-1.5">
      <div className="flex items-center justify-between gap-1.5">
        {last ? (
          <Choice
            label="Measured from"
            value={from}
            options={[
              { value: 'tee', label: 'from the tee' },
              { value: 'last', label: 'the last disc' },
            ]}
            onChange={setFrom}
          />
        ) : (
          <span className="text-note text-quiet">Measured from the tee</span>
        )}
        <button
          type="button"
          aria-label="Range it"
          title={landing ? 'The range finder measures it from the tee (R)' : 'Tap about where it lies first'}
          disabled={landing === null}
          onClick={onRange}
          className="grid size-9 shrink-0 place-items-center rounded-lg border border-edge hover:bg-tint disabled:opacity-45 phone:size-11"
        >
          <Crosshair size={17} aria-hidden />
        </button>
      </div>
      {from === 'last' && last && (
        <p className="text-note text-quiet">
          it lies at {units.length.show(last.carryM)}, {aside(units, last.rightM)}
        </p>
      )}
      {from === 'last' && last ? (
        <div className="grid grid-cols-2 gap-1.5">
          <Offset
            label="along"
            words={['short', 'long']}
            value={landing && landing.carryM - origin.carryM}
            onChange={(v) =>
              onLanding({ carryM: origin.carryM + v, rightM: landing?.rightM ?? origin.rightM })
            }
          />
          <Offset
            label="aside"
            words={['left', 'right']}
            value={landing && landing.rightM - origin.rightM}
            onChange={(v) =>
              onLanding({ carryM: landing?.carryM ?? origin.carryM, rightM: origin.rightM + v })
            }
          />
        </div>
      ) : (
        <FromTee {...{ seen, onLanding }} />
      )}
    </div>
  )
}

/** A distance one way or the other. */
function Offset({
  label,
  words: [minus, plus],
  value,
  onChange,
}: {
  label: string
  words: readonly [string, string]
  value: number | null
  onChange: (value: number) => void
}) {
  const units = useUnits()
  const [side, setSide] = useState(-1)
  const sign = value === null || value === 0 ? side : value > 0 ? 1 : -1
  return (
    <div className="grid grid-cols-[1fr_auto] items-end gap-1">
      <FigureInput
        label={`From the last disc, ${label}`}
        unit={units.length.unit}
        value={value === null ? null : Math.abs(units.length.to(value))}
        onChange={(v) => onChange(sign * units.length.from(Math.abs(v ?? 0)))}
      />
      <Select
        hideLabel
        label={`Which way ${label}`}
        value={sign}
        onChange={(next) => {
          setSide(next)
          if (value !== null) onChange(next * Math.abs(value))
        }}
        options={[
          { value: -1, words: minus },
          { value: 1, words: plus },
        ]}
      />
    </div>
  )
}

function FromTee({ seen: { carryM, rightM }, onLanding }: Pick<TypedLandingProps, 'seen' | 'onLanding'>) {
  const units = useUnits()
  const [leaning, setLeaning] = useState<number>(-1)
  const side = rightM === null || rightM === 0 ? leaning : rightM > 0 ? 1 : -1
  return (
    <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-1.5">
      <FigureInput
        label="Landed, down"
        unit={units.length.unit}
        value={carryM === null ? null : units.length.to(carryM)}
        onChange={(v) =>
          onLanding(v === null ? { carryM: null } : { carryM: units.length.from(v), rightM: rightM ?? 0 })
        }
      />
      <FigureInput
        label="off the line"
        unit={units.length.unit}
        value={rightM === null ? null : Math.abs(units.length.to(rightM))}
        onChange={(v) => onLanding({ rightM: v === null ? null : side * Math.abs(units.length.from(v)) })}
      />
      <Select
        hideLabel
        label="Side of the line"
        value={side}
        onChange={(v) => {
          setLeaning(v)
          if (rightM !== null) onLanding({ rightM: v * Math.abs(rightM) })
        }}
        options={[
          { value: -1, words: 'left' },
          { value: 1, words: 'right' },
        ]}
      />
    </div>
  )
}
