import { useMemo } from 'react'
import { z } from 'zod'
import { fadeSide, HANDS, STROKES } from '../../../core/flight/hand.ts'
import { useKept } from '../../data/useKept.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { Select, plainOptions } from '../../parts/Select.tsx'
import { armOfUsual, USUAL, USUAL_OPTIONS } from '../../parts/usualDiscs.ts'
import type { AskedAcross } from '../../workers/rating.worker.ts'

/** What whoever reads says of their own arm: the hand, the stroke, and how far a usual disc goes. */
const Arm = z.object({
  hand: z.enum(HANDS).nullable(),
  stroke: z.enum(STROKES),
  disc: z.enum(USUAL),
  carryM: z.number().nullable(),
})
type Arm = z.infer<typeof Arm>
export const NO_ARM: Arm = { hand: null, stroke: 'backhand', disc: 'midrange', carryM: null }

/** The arm of whoever reads on this device, as it was said last. */
export const useYourArm = () => useKept('veer-line.your-arm', 'this device', Arm, NO_ARM)

/** Whom answers are told to; undefined where nothing was said of them. */
export const useListener = ({ hand, stroke, disc, carryM }: Arm): AskedAcross['listener'] =>
  useMemo(() => {
    if (hand === null && carryM === null) return undefined
    const armMps = carryM === null ? undefined : armOfUsual(disc, carryM)
    return {
      name: 'you',
      fadeSide: fadeSide(hand ?? 'right', stroke),
      ...(armMps !== undefined && { armMps }),
    }
  }, [hand, stroke, disc, carryM])

interface YourArmProps {
  readonly arm: Arm
  readonly onArm: (arm: Arm) => void
  /** Full power with a disc of speed 9, m/s, as what was said comes to; undefined where no arm throws so. */
  readonly known: number | undefined
}

/** Whoever reads says how they throw: the discs are then flown for that arm too, to the side it sees. */
export function YourArm({ arm, onArm, known }: YourArmProps) {
  const { length, speed } = useUnits()
  const { hand, stroke, disc, carryM } = arm
  const tell = (change: Partial<Arm>) => onArm({ ...arm, ...change })
  const said = hand !== null || carryM !== null
  return (
    <fieldset className="mb-3 rounded-lg bg-tint p-3">
      <legend className="sr-only">Your own arm</legend>
      <div className="flex flex-wrap items-end gap-3">
        <Select
          label="You throw"
          className="w-40"
          value={hand}
          placeholder="with which hand"
          onChange={(v) => tell({ hand: v })}
          options={HANDS.map((value) => ({ value, words: `${value}-handed` }))}
        />
        <Select
          label="your"
          className="w-36"
          value={stroke}
          onChange={(v) => tell({ stroke: v })}
          options={plainOptions(STROKES)}
        />
        <Select
          label="of a"
          className="w-44"
          value={disc}
          onChange={(v) => tell({ disc: v })}
          options={USUAL_OPTIONS}
        />
        <FigureInput
          label="goes, flat in calm air"
          className="w-40"
          unit={length.unit}
          digits={0}
          value={carryM === null ? null : length.to(carryM)}
          onChange={(v) => tell({ carryM: v === null ? null : length.from(v) })}
        />
        {said && (
          <Button kind="quiet" onClick={() => onArm(NO_ARM)}>
            Clear
          </Button>
        )}
      </div>
      {carryM !== null && (
        <p className="mt-2 text-note text-quiet" role="status">
          {known === undefined
            ? 'No arm throws it so; check the figure.'
            : `That is an arm of ${speed.show(known)} with a disc of speed 9.`}
        </p>
      )}
    </fieldset>
  )
}
