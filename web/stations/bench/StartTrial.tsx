import { zodResolver } from '@hookform/resolvers/zod'
import { useMemo } from 'react'
import { useForm } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { v7 as newId } from 'uuid'
import type { TrialSent } from '../../../contract/trials.ts'
import { Trial } from '../../../contract/trials.ts'
import { useShelf } from '../../data/hooks.ts'
import { lineage } from '../../data/naming.ts'
import { write } from '../../data/api.ts'
import { mutate } from 'swr'
import { angleWords } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Chip } from '../../parts/Choice.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureField } from '../../parts/FigureField.tsx'
import { SelectInput, TextInput } from '../../parts/Inputs.tsx'
import { sayWrong } from '../../parts/Toasts.tsx'

const ANGLES = [15, 10, 5, 0, -8, -15] as const
/** Throws a disc and angle that tell neighbours apart in most trials. */
const A_CELL = 4

/** A new trial: one question, some discs, a control disc, the angles. */
export default function StartTrial({ onClose }: { onClose: () => void }) {
  const go = useNavigate()
  const { view } = useShelf()
  const discs = useMemo(() => view?.discs.filter((d) => d.disc.removedAt === null) ?? [], [view])
  const { control, register, handleSubmit, formState, watch, setValue } = useForm<TrialSent, unknown, Trial>({
    resolver: zodResolver(Trial),
    defaultValues: {
      id: newId(),
      name: '',
      question: '',
      discIds: [],
      controlDiscId: null,
      hyzerDegs: [10, 0, -8],
      plannedThrows: 0,
      finishedAt: null,
    },
  })
  const { errors, dirtyFields, isSubmitted } = formState
  const [chosen, angles, anchor] = watch(['discIds', 'hyzerDegs', 'controlDiscId'])
  const toggled = <T,>(list: readonly T[], item: T) =>
    list.includes(item) ? list.filter((x) => x !== item) : [...list, item]
  /** The plan follows what is chosen until somebody sets it. */
  const choose = (discIds: string[], hyzerDegs: number[], controlDiscId: string | null) => {
    const again = { shouldValidate: isSubmitted }
    setValue('discIds', discIds, again)
    setValue('hyzerDegs', hyzerDegs, again)
    setValue(
      'controlDiscId',
      controlDiscId !== null && discIds.includes(controlDiscId) ? controlDiscId : null,
      again,
    )
    if (!dirtyFields.plannedThrows) setValue('plannedThrows', discIds.length * hyzerDegs.length * A_CELL)
  }

  const keep = async (trial: Trial) => {
    try {
      // the field needs the trial on the server, so this one write does not wait in the queue
      await write(`/api/trials/${trial.id}`, trial)
      await mutate('/api/trials')
      go(`/trials/${trial.id}/plan`)
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }

  return (
    <Dialog open onClose={onClose} title="Start a trial" wide>
      <form className="space-y-4" noValidate onSubmit={(e) => void handleSubmit(keep)(e)}>
        <div className="grid gap-4 sm:grid-cols-2">
          <TextInput label="Name" {...register('name')} error={errors.name?.message} autoFocus />
          <TextInput
            label="Question"
            {...register('question')}
            placeholder="Which is more stable?"
            error={errors.question?.message}
          />
        </div>
        <fieldset>
          <legend className="mb-1 text-note text-quiet">Discs, two or more to compare</legend>
          <div className="grid max-h-56 gap-1 overflow-y-auto rounded-lg border border-rule p-2 sm:grid-cols-2">
            {discs.map((d) => (
              <label key={d.disc.id} className="flex min-h-9 items-center gap-2 rounded px-2 hover:bg-tint">
                <input
                  type="checkbox"
                  className="size-4.5 accent-spruce"
                  checked={chosen.includes(d.disc.id)}
                  onChange={() => choose(toggled(chosen, d.disc.id), angles, anchor)}
                />
                <span className="figure">{d.disc.code}</span>
                <span className="truncate">{lineage(d)}</span>
              </label>
            ))}
          </div>
          {errors.discIds && (
            <p role="alert" className="mt-1 text-note font-medium text-accent">
              Discs: {errors.discIds.message}
            </p>
          )}
        </fieldset>
        <div className="grid gap-4 sm:grid-cols-2">
          <SelectInput
            label="Control disc, well known, thrown in every session"
            value={anchor ?? ''}
            onChange={(e) => {
              const id = e.target.value === '' ? null : e.target.value
              choose(id !== null && !chosen.includes(id) ? [...chosen, id] : chosen, angles, id)
            }}
            hint={
              anchor === null
                ? 'Without one, a habit and a bias shared by all discs cannot be told apart.'
                : 'It anchors the thrower’s habits.'
            }
          >
            <option value="">none</option>
            {discs.map((d) => (
              <option key={d.disc.id} value={d.disc.id}>
                {d.disc.code} {lineage(d)}
              </option>
            ))}
          </SelectInput>
          <FigureField
            control={control}
            name="plannedThrows"
            label="Throws planned"
            digits={0}
            hint={`${chosen.length} discs × ${angles.length} angles × ${A_CELL} would be ${chosen.length * angles.length * A_CELL}`}
          />
        </div>
        <fieldset>
          <legend className="mb-1 text-note text-quiet">
            Release angles; flat throws alone hardly tell turn from fade
          </legend>
          <div className="flex flex-wrap gap-2">
            {ANGLES.map((a) => (
              <Chip
                key={a}
                on={angles.includes(a)}
                onClick={() => choose(chosen, toggled(angles, a), anchor)}
              >
                {angleWords(a)}
              </Chip>
            ))}
          </div>
          {errors.hyzerDegs && (
            <p role="alert" className="mt-1 text-note font-medium text-accent">
              {errors.hyzerDegs.message}
            </p>
          )}
        </fieldset>
        <Button kind="primary" type="submit">
          Start and plan
        </Button>
      </form>
    </Dialog>
  )
}
