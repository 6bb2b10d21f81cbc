import { useId, useState } from 'react'
import { armOfSpeed, USUAL_DISCS } from '../../core/flight/arm.ts'
import type { UsualDisc } from '../../core/flight/arm.ts'
import { STROKES } from '../../core/flight/hand.ts'
import type { Stroke } from '../../core/flight/hand.ts'
import { useUnits } from '../data/preferences.tsx'
import { FigureInput } from './Inputs.tsx'
import { Select, plainOptions } from './Select.tsx'
import { armOfUsual, likelyArm, USUAL_OPTIONS } from './usualDiscs.ts'

/** What somebody says of an arm: a disc of which class, how far it goes or how fast it leaves the hand, thrown how. */
interface Told {
  readonly stroke: Stroke
  readonly disc: UsualDisc
  readonly carryM: number | null
  readonly mps: number | null
}

/** Full power with a disc of speed 9, m/s, as somebody says it; undefined where no arm throws so. */
function armOf({ disc, carryM, mps }: Told): number | undefined {
  const arm =
    mps !== null
      ? likelyArm(armOfSpeed(mps, USUAL_DISCS[disc].speed))
      : carryM === null
        ? undefined
        : armOfUsual(disc, carryM)
  return arm === undefined ? undefined : Math.round(10 * arm) / 10
}

/**
 * Works out an arm nobody measured, or one measured with some other disc: how far it goes flat in calm air, or how fast it leaves
 * the hand, of a disc most people have thrown. What comes out is told as it is typed; undefined where nothing does.
 */
export function ArmFinder({ onFound }: { onFound: (stroke: Stroke, armMps: number | undefined) => void }) {
  const units = useUnits()
  const id = useId()
  const [told, setTold] = useState<Told>({ stroke: 'backhand', disc: 'midrange', carryM: null, mps: null })
  const { stroke, disc, carryM, mps } = told
  const known = armOf(told)
  const tell = (change: Partial<Told>) => {
    const next = { ...told, ...change }
    setTold(next)
    // what was said of the other stroke is taken out of it
    if (next.stroke !== stroke) onFound(stroke, undefined)
    onFound(next.stroke, armOf(next))
  }
  const shown = (metric: number | null, to: (v: number) => number) => (metric === null ? null : to(metric))
  return (
    <fieldset className="rounded-lg bg-tint p-3" aria-describedby={id}>
      <legend className="sr-only">Work the speed out</legend>
      <p id={id} className="mb-2 text-note text-quiet">
        Not known with a disc of speed 9? Say how far a usual disc goes at full power, flat and in calm air,
        or how fast it leaves the hand; the speed above is filled in from it.
      </p>
      <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-4">
        <Select
          label="My"
          value={stroke}
          onChange={(s) => tell({ stroke: s })}
          options={plainOptions(STROKES)}
        />
        <Select label="of a" value={disc} onChange={(d) => tell({ disc: d })} options={USUAL_OPTIONS} />
        <FigureInput
          label="goes"
          unit={units.length.unit}
          digits={0}
          value={shown(carryM, units.length.to)}
          onChange={(v) => tell({ carryM: v === null ? null : units.length.from(v), mps: null })}
        />
        <FigureInput
          label="or leaves the hand at"
          unit={units.speed.unit}
          value={shown(mps, units.speed.to)}
          onChange={(v) => tell({ mps: v === null ? null : units.speed.from(v), carryM: null })}
        />
      </div>
      <p className="mt-2 text-note text-quiet" aria-live="polite">
        {known !== undefined
          ? `That is ${units.speed.show(known)} with a disc of speed 9; it stands above as the ${stroke}.`
          : mps !== null || carryM !== null
            ? 'No arm throws it so; check the figure.'
            : 'Nothing said of it yet.'}
      </p>
    </fieldset>
  )
}
