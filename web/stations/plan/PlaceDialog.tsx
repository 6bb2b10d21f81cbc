import { zodResolver } from '@hookform/resolvers/zod'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { Place } from '../../../contract/trials.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureField } from '../../parts/FigureField.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { say, sayWrong } from '../../data/say.ts'

/** A field to throw on: how long it is, where its aim line points, what to mind. */
export function PlaceDialog({
  place,
  onClose,
  onKept,
}: {
  place: Place
  onClose: () => void
  onKept: (id: string) => void
}) {
  const units = useUnits()
  const { control, register, handleSubmit, formState, setValue } = useForm<
    z.input<typeof Place>,
    unknown,
    Place
  >({
    resolver: zodResolver(Place),
    defaultValues: { ...place, latDeg: place.latDeg ?? null, lonDeg: place.lonDeg ?? null },
  })
  const here = () => {
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        setValue('latDeg', Number(coords.latitude.toFixed(6)), { shouldDirty: true })
        setValue('lonDeg', Number(coords.longitude.toFixed(6)), { shouldDirty: true })
        if (coords.accuracy > 10) say(`The position is good to ${Math.round(coords.accuracy)} m.`)
      },
      (e) => sayWrong(`This device does not say where it is: ${e.message}`),
      { enableHighAccuracy: true, timeout: 20_000 },
    )
  }
  const keep = async (row: Place) => {
    await outbox.put('places', row)
    say(`${row.name} is kept.`)
    onKept(row.id)
    onClose()
  }
  return (
    <Dialog open onClose={onClose} title={place.name === '' ? 'A new place' : place.name}>
      <form className="space-y-4" noValidate onSubmit={(e) => void handleSubmit(keep)(e)}>
        <TextInput label="Name" {...register('name')} error={formState.errors.name?.message} autoFocus />
        <div className="grid gap-4 sm:grid-cols-3">
          <FigureField
            control={control}
            name="fieldLengthM"
            label="Field length"
            measure={units.length}
            digits={0}
          />
          <FigureField control={control} name="bearingDeg" label="Aim line, compass" unit="°" digits={0} />
          <FigureField
            control={control}
            name="altitudeM"
            signed
            label="Altitude"
            measure={units.length}
            digits={0}
          />
        </div>
        <div className="grid items-end gap-4 sm:grid-cols-[1fr_1fr_auto]">
          <FigureField
            control={control}
            name="latDeg"
            signed
            label="Throwing mark, latitude"
            unit="°"
            digits={6}
          />
          <FigureField control={control} name="lonDeg" signed label="longitude, east" unit="°" digits={6} />
          <Button onClick={here}>Where I stand</Button>
        </div>
        <TextInput
          label="Surface"
          {...register('surface')}
          placeholder="mown grass"
          error={formState.errors.surface?.message}
        />
        <TextInput
          label="Hazards"
          {...register('hazards')}
          placeholder="footpath, water, road"
          error={formState.errors.hazards?.message}
        />
        <Button kind="primary" type="submit">
          Keep the place
        </Button>
      </form>
    </Dialog>
  )
}
