import { zodResolver } from '@hookform/resolvers/zod'
import { Controller, useForm } from 'react-hook-form'
import { v7 as newId } from 'uuid'
import type { z } from 'zod'
import { EDGES, FEEL } from '../../../core/shelf/inspection.ts'
import { rimSection } from '../../../core/shelf/rim.ts'
import { Inspection } from '../../../contract/inspection.ts'
import type { Disc } from '../../../contract/shelf.ts'
import { outbox } from '../../data/outbox.ts'
import { today } from '../../data/outing.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureField } from '../../parts/FigureField.tsx'
import { say } from '../../data/say.ts'
import { RimDrawing } from '../../charts/RimDrawing.tsx'

interface InspectFormProps {
  readonly disc: Disc
  /** What was measured the time before; the figures start from it. */
  readonly last: Inspection | undefined
  readonly onClose: () => void
}

const LENGTHS = [
  ['diameterMm', 'Diameter'],
  ['heightMm', 'Height'],
  ['rimDepthMm', 'Rim depth'],
  ['rimWidthMm', 'Rim width'],
  ['partingLineMm', 'Parting line, from the base'],
  ['domeMm', 'Dome above the shoulder'],
  ['warpMm', 'Warp on a flat table'],
] as const

/** Measures a disc in the hand; the rim is drawn while figures come in. */
export function InspectForm({ disc, last, onClose }: InspectFormProps) {
  const units = useUnits()
  const { control, handleSubmit, watch } = useForm<z.input<typeof Inspection>, unknown, Inspection>({
    resolver: zodResolver(Inspection),
    defaultValues: {
      diameterMm: null,
      heightMm: null,
      rimDepthMm: null,
      rimWidthMm: null,
      partingLineMm: null,
      domeMm: null,
      noseDeg: null,
      warpMm: null,
      bead: null,
      edge: null,
      stiffness: null,
      grip: null,
      note: '',
      ...last,
      temperatureC: null,
      id: newId(),
      discId: disc.id,
      day: today(),
    },
  })
  const draft = watch()
  const section = rimSection(draft)
  const keep = async (row: Inspection) => {
    await outbox.put('inspections', row)
    say(`${disc.code} is inspected.`)
    onClose()
  }
  const step = (name: 'edge' | 'stiffness' | 'grip', label: string, scale: readonly string[]) => (
    <Controller
      control={control}
      name={name}
      render={({ field }) => (
        <Choice
          showLabel
          label={label}
          value={field.value}
          onChange={field.onChange}
          options={scale.map((word, value) => ({ value: value as number | null, label: word }))}
        />
      )}
    />
  )
  return (
    <Dialog open onClose={onClose} title={`Inspect ${disc.code}`} wide>
      <form className="space-y-4" noValidate onSubmit={(e) => void handleSubmit(keep)(e)}>
        <p className="text-quiet">
          Leave empty what you did not measure. The figures are of the rim at one place; measure two and take
          the middle.
        </p>
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
          {LENGTHS.map(([name, label]) => (
            <FigureField key={name} {...{ control, name, label }} unit="mm" />
          ))}
          <FigureField
            control={control}
            name="noseDeg"
            signed
            label="Lower face of the nose"
            unit="°"
            digits={0}
          />
        </div>
        <div className="rounded-lg border border-rule p-3">
          {'outline' in section ? (
            <RimDrawing rims={[{ section, look: 0 }]} align="base" />
          ) : (
            <p className="text-quiet" role="status">
              {section.conflict
                ? `This cannot be: ${section.conflict}.`
                : `Drawn once you have measured ${section.missing.join(', ')}.`}
            </p>
          )}
        </div>
        <div className="flex flex-wrap gap-4">
          {step('edge', 'Edge', EDGES)}
          <Controller
            control={control}
            name="bead"
            render={({ field }) => (
              <Choice
                showLabel
                label="Bead"
                value={field.value === null ? null : String(field.value)}
                onChange={(v) => field.onChange(v === 'true')}
                options={[
                  { value: 'false', label: 'none' },
                  { value: 'true', label: 'yes' },
                ]}
              />
            )}
          />
          {step('stiffness', 'Stiffness by feel', FEEL.stiffness)}
          {step('grip', 'Grip by feel', FEEL.grip)}
          <FigureField
            control={control}
            name="temperatureC"
            signed
            label="Felt at"
            measure={units.temperature}
            digits={0}
          />
        </div>
        <Button kind="primary" type="submit">
          Keep the inspection
        </Button>
      </form>
    </Dialog>
  )
}
