import { zodResolver } from '@hookform/resolvers/zod'
import { Controller, useForm } from 'react-hook-form'
import { v7 as newId } from 'uuid'
import type { z } from 'zod'
import { USUAL_LIMITS } from '../../core/plan/armLoad.ts'
import { HANDS } from '../../core/flight/hand.ts'
import { Thrower } from '../../contract/trials.ts'
import { outbox } from '../data/outbox.ts'
import { useUnits } from '../data/preferences.tsx'
import { say } from '../data/say.ts'
import { ArmFinder } from './ArmFinder.tsx'
import { Button } from './Button.tsx'
import { Choice } from './Choice.tsx'
import { Dialog } from './Dialog.tsx'
import { FigureField } from './FigureField.tsx'
import { TextInput } from './Inputs.tsx'

const LIMITS = [
  ['throwsADay', 'Throws a day'],
  ['fullPowerADay', 'Full power a day'],
  ['throwsAWeek', 'Throws a week'],
  ['fullPowerAWeek', 'Full power a week'],
] as const

/** Somebody of whom nothing is known yet. */
export const newThrower = (): Thrower => ({
  id: newId(),
  name: '',
  hand: 'right',
  backhandMps: null,
  forehandMps: null,
  budget: null,
})

interface ThrowerDialogProps {
  readonly thrower: Thrower
  readonly onKept?: (thrower: Thrower) => void
  readonly onClose: () => void
}

/** Who somebody is who throws: hand, arm, and what that arm may take. */
export function ThrowerDialog({ thrower, onKept, onClose }: ThrowerDialogProps) {
  const units = useUnits()
  const { control, register, handleSubmit, formState, setValue } = useForm<
    z.input<typeof Thrower>,
    unknown,
    Thrower
  >({
    resolver: zodResolver(Thrower),
    defaultValues: { ...thrower, budget: thrower.budget ?? { ...USUAL_LIMITS } },
  })
  const speed = (name: 'backhandMps' | 'forehandMps', label: string) => (
    <FigureField
      {...{ control, name, label }}
      measure={units.speed}
      hint="Leave empty to have it estimated"
    />
  )
  const keep = async (row: Thrower) => {
    await outbox.put('throwers', row)
    say(`${row.name} is on the list.`)
    onKept?.(row)
    onClose()
  }
  return (
    <Dialog open onClose={onClose} title={thrower.name === '' ? 'Add a thrower' : thrower.name}>
      <form
        className="space-y-4"
        noValidate
        onSubmit={(e) => {
          // where throwers are chosen there may be a form around it
          e.stopPropagation()
          void handleSubmit(keep)(e)
        }}
      >
        <TextInput label="Name" autoFocus {...register('name')} error={formState.errors.name?.message} />
        <Controller
          control={control}
          name="hand"
          render={({ field }) => (
            <Choice
              showLabel
              label="Hand"
              value={field.value}
              onChange={field.onChange}
              options={HANDS.map((value) => ({ value, label: value }))}
            />
          )}
        />
        <div className="grid gap-4 sm:grid-cols-2">
          {speed('backhandMps', 'Full power with a disc of speed 9, backhand')}
          {speed('forehandMps', 'Full power with a disc of speed 9, forehand')}
        </div>
        <ArmFinder
          onFound={(stroke, mps) => {
            const name = stroke === 'backhand' ? 'backhandMps' : 'forehandMps'
            setValue(name, mps ?? thrower[name], { shouldDirty: true })
          }}
        />
        <fieldset>
          <legend className="mb-1 text-note text-quiet">
            What this arm may take; plans say so when they ask for more. No medical advice: stop on pain.
          </legend>
          <div className="grid gap-3 sm:grid-cols-4">
            {LIMITS.map(([name, label]) => (
              <FigureField key={name} {...{ control, label }} name={`budget.${name}`} digits={0} />
            ))}
          </div>
        </fieldset>
        <Button kind="primary" type="submit">
          Keep
        </Button>
      </form>
    </Dialog>
  )
}
