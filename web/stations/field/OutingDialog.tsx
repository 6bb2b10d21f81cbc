import { zodResolver } from '@hookform/resolvers/zod'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { airDensity } from '../../../core/flight/air.ts'
import { MEASURING_METHODS } from '../../../core/throw/method.ts'
import { Session } from '../../../contract/trials.ts'
import { usePlaces } from '../../data/hooks.ts'
import { atPlace } from '../../data/outing.ts'
import { useUnits } from '../../data/preferences.tsx'
import { methodWords } from '../../data/methodWords.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureField } from '../../parts/FigureField.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { Select } from '../../parts/Select.tsx'
import { SelectField } from '../../parts/SelectField.tsx'

interface OutingDialogProps {
  readonly session: Session
  readonly onClose: () => void
  readonly onKeep: (s: Session) => void
}

/** The outing: where, which day, in which air, how landings are measured. */
export function OutingDialog({ session, onClose, onKeep }: OutingDialogProps) {
  const units = useUnits()
  const { control, register, handleSubmit, formState, setValue, watch } = useForm<
    z.input<typeof Session>,
    unknown,
    Session
  >({
    resolver: zodResolver(Session),
    defaultValues: session,
  })
  const { errors } = formState
  const places = usePlaces()
  const [temperatureC, altitudeM, placeId] = watch(['temperatureC', 'altitudeM', 'placeId'])
  return (
    <Dialog open onClose={onClose} title="This outing">
      <form
        className="space-y-4"
        noValidate
        onSubmit={(e) =>
          void handleSubmit((row) => {
            onKeep(row)
            onClose()
          })(e)
        }
      >
        <div className="grid gap-4 sm:grid-cols-2">
          <Select
            label="Place"
            value={placeId ?? null}
            onChange={(v) => {
              const chosen = places.find((p) => p.id === v)
              for (const [key, value] of Object.entries(atPlace(chosen)))
                setValue(key as keyof Session, value)
              if (chosen) setValue('altitudeM', chosen.altitudeM)
            }}
            options={[
              { value: null, words: 'another place' },
              ...places
                .filter((p) => p.removedAt === null || p.id === placeId)
                .map((p) => ({ value: p.id, words: p.name })),
            ]}
          />
          {placeId == null && (
            <TextInput label="Its name" {...register('place')} error={errors.place?.message} />
          )}
          <TextInput label="Day" type="date" {...register('day')} error={errors.day?.message} />
          <FigureField
            control={control}
            name="temperatureC"
            signed
            label="Temperature"
            measure={units.temperature}
            hint={
              temperatureC === null
                ? 'Cold air is denser: every disc turns more. Not noted means 20 °C at sea level.'
                : `air of ${airDensity(temperatureC, altitudeM ?? 0).toFixed(3)} kg/m³`
            }
          />
          <FigureField
            control={control}
            name="altitudeM"
            signed
            label="Altitude"
            measure={units.length}
            digits={0}
          />
          <SelectField
            control={control}
            name="method"
            label="How landings are measured"
            options={MEASURING_METHODS.map((m) => ({ value: m, words: methodWords(m) }))}
          />
        </div>
        <Button kind="primary" type="submit">
          Keep
        </Button>
      </form>
    </Dialog>
  )
}
