import { zodResolver } from '@hookform/resolvers/zod'
import { useState } from 'react'
import { Controller, useForm } from 'react-hook-form'
import { v7 as newId } from 'uuid'
import type { z } from 'zod'
import { USUAL_LIMITS } from '../../../core/plan/armLoad.ts'
import { HANDS } from '../../../core/flight/hand.ts'
import { Thrower } from '../../../contract/trials.ts'
import { useThrowers } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureField } from '../../parts/FigureField.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { Offered } from '../../parts/Offered.tsx'
import { say } from '../../data/say.ts'
import { ArmFinder } from './ArmFinder.tsx'

const LIMITS = [
  ['throwsADay', 'Throws a day'],
  ['fullPowerADay', 'Full power a day'],
  ['throwsAWeek', 'Throws a week'],
  ['fullPowerAWeek', 'Full power a week'],
] as const

/** Who throws: hand, and full-power speed with a disc of speed 9 where it is known. */
export function Throwers() {
  const { throwers } = useThrowers()
  const units = useUnits()
  const [edited, setEdited] = useState<Thrower>()
  const speed = (v: number | null) => (v === null ? 'estimated' : units.speed.show(v))
  return (
    <Card className="p-5" label="Throwers">
      <div className="mb-2 flex items-baseline justify-between gap-4">
        <h2 className="text-title">Throwers</h2>
        <Button
          onClick={() =>
            setEdited({
              id: newId(),
              name: '',
              hand: 'right',
              backhandMps: null,
              forehandMps: null,
              budget: null,
            })
          }
        >
          Add a thrower
        </Button>
      </div>
      <ul>
        {throwers?.map((t) => (
          <li
            key={t.id}
            className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-0.5 border-t border-rule py-1.5 sm:grid-cols-[minmax(9rem,1fr)_6rem_22rem_auto]"
          >
            <span className="font-medium">{t.name}</span>
            <Button
              kind="quiet"
              className="row-span-2 sm:order-last sm:row-span-1"
              onClick={() => setEdited(t)}
              aria-label={`Edit ${t.name}`}
            >
              Edit
            </Button>
            <span className="text-quiet max-sm:hidden">{t.hand} hand</span>
            <span className="text-note text-quiet">
              <span className="sm:hidden">{t.hand} hand · </span>
              full power: backhand <span className="figure text-ink">{speed(t.backhandMps)}</span>, forehand{' '}
              <span className="figure text-ink">{speed(t.forehandMps)}</span>
            </span>
          </li>
        ))}
      </ul>
      <Offered kind="throwers" className="mt-3 p-4" />
      {edited && <ThrowerDialog thrower={edited} onClose={() => setEdited(undefined)} />}
    </Card>
  )
}

function ThrowerDialog({ thrower, onClose }: { thrower: Thrower; onClose: () => void }) {
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
    onClose()
  }
  return (
    <Dialog open onClose={onClose} title={thrower.name === '' ? 'Add a thrower' : thrower.name}>
      <form className="space-y-4" noValidate onSubmit={(e) => void handleSubmit(keep)(e)}>
        <TextInput label="Name" {...register('name')} error={formState.errors.name?.message} />
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
