import { useId, useState } from 'react'
import { armOfCarry, armOfSpeed } from '../../../core/flight/arm.ts'
import { SHEET_RANGE } from '../../../core/throw/ranges.ts'
import { DISC_CLASS_WORDS } from '../../../core/shelf/kinds.ts'
import { STROKES } from '../../../core/flight/hand.ts'
import type { Stroke } from '../../../core/flight/hand.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { Select } from '../../parts/Select.tsx'

/** A usual disc of each class: how far it goes says how fast an arm is. */
const USUAL = {
  putter: { speed: 2, glide: 3, turn: 0, fade: 1 },
  midrange: { speed: 5, glide: 5, turn: -1, fade: 1 },
  'fairway-driver': { speed: 7, glide: 5, turn: -1, fade: 2 },
  'distance-driver': { speed: 12, glide: 5, turn: -1, fade: 3 },
} as const
type Usual = keyof typeof USUAL

/**
 * Works out an arm nobody measured, or one measured with some other disc: how far it goes flat in calm air, or how fast it leaves
 * the hand, of a disc most people have thrown.
 */
export function ArmFinder({ onFound }: { onFound: (stroke: Stroke, armMps: number) => void }) {
  const units = useUnits()
  const told = useId()
  const [disc, setDisc] = useState<Usual>('midrange')
  const [carryM, setCarryM] = useState<number | null>(null)
  const [mps, setMps] = useState<number | null>(null)
  const arm =
    mps !== null
      ? armOfSpeed(mps, USUAL[disc].speed)
      : carryM === null
        ? undefined
        : armOfCarry(USUAL[disc], carryM)
  const [slowest, fastest] = SHEET_RANGE.fullSpeedMps
  const known = arm !== undefined && arm >= slowest && arm <= fastest ? Math.round(10 * arm) / 10 : undefined
  const asked = mps !== null || carryM !== null
  const shown = (metric: number | null, to: (v: number) => number) => (metric === null ? null : to(metric))
  return (
    <fieldset className="rounded-lg bg-tint p-3" aria-describedby={told}>
      <legend className="sr-only">Work the speed out</legend>
      <p id={told} className="mb-2 text-note text-quiet">
        Not known with a disc of speed 9? Say how far a usual disc goes at full power, flat and in calm air,
        or how fast it leaves the hand.
      </p>
      <div className="grid items-end gap-3 sm:grid-cols-3">
        <Select
          label="Disc"
          value={disc}
          onChange={setDisc}
          options={(Object.keys(USUAL) as Usual[]).map((name) => ({ value: name, words: DISC_CLASS_WORDS[name] }))}
        />
        <FigureInput
          label="goes"
          unit={units.length.unit}
          digits={0}
          value={shown(carryM, units.length.to)}
          onChange={(v) => {
            setCarryM(v === null ? null : units.length.from(v))
            setMps(null)
          }}
        />
        <FigureInput
          label="or leaves the hand at"
          unit={units.speed.unit}
          value={shown(mps, units.speed.to)}
          onChange={(v) => {
            setMps(v === null ? null : units.speed.from(v))
            setCarryM(null)
          }}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2" aria-live="polite">
        {known !== undefined ? (
          <>
            <span className="w-full">
              <span className="figure">{units.speed.show(known)}</span> with a disc of speed 9
            </span>
            {STROKES.map((stroke) => (
              <Button key={stroke} onClick={() => onFound(stroke, known)}>
                Use for {stroke}
              </Button>
            ))}
          </>
        ) : (
          <span className="text-note text-quiet">
            {asked ? 'No arm throws it so; check the figure.' : 'Nothing worked out yet.'}
          </span>
        )}
      </div>
    </fieldset>
  )
}
