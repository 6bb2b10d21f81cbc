import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { v7 as newId } from 'uuid'
import { Trial } from '../../../contract/trials.ts'
import { useShelf } from '../../data/hooks.ts'
import { lineage } from '../../data/naming.ts'
import { write } from '../../data/api.ts'
import { mutate } from 'swr'
import { angleWords } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Chip } from '../../parts/Choice.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureInput, SelectInput, TextInput } from '../../parts/Inputs.tsx'
import { sayWrong } from '../../parts/Toasts.tsx'

const ANGLES = [15, 10, 5, 0, -8, -15] as const
/** Throws a disc and angle that tell neighbours apart in most trials. */
const A_CELL = 4

/** A new trial: one question, some discs, a control disc, the angles. */
export function StartTrial({ onClose }: { onClose: () => void }) {
  const go = useNavigate()
  const { view } = useShelf()
  const discs = useMemo(() => view?.discs.filter((d) => d.disc.removedAt === null) ?? [], [view])
  const [name, setName] = useState('')
  const [question, setQuestion] = useState('')
  const [chosen, setChosen] = useState<readonly string[]>([])
  const [control, setControl] = useState<string>('')
  const [angles, setAngles] = useState<readonly number[]>([10, 0, -8])
  const [planned, setPlanned] = useState<number | null>(null)
  const [errors, setErrors] = useState<Record<string, string>>({})
  const proposed = chosen.length * angles.length * A_CELL
  const toggle = <T,>(list: readonly T[], item: T) =>
    list.includes(item) ? list.filter((x) => x !== item) : [...list, item]

  const keep = async () => {
    const read = Trial.safeParse({
      id: newId(),
      name,
      question,
      discIds: chosen,
      controlDiscId: control === '' || !chosen.includes(control) ? null : control,
      hyzerDegs: angles,
      plannedThrows: Math.round(planned ?? proposed),
      finishedAt: null,
    })
    if (!read.success) {
      setErrors(Object.fromEntries(read.error.issues.map((i) => [String(i.path[0]), i.message])))
      return
    }
    try {
      // the field needs the trial on the server, so this one write does not wait in the queue
      await write(`/api/trials/${read.data.id}`, read.data)
      await mutate('/api/trials')
      go(`/trials/${read.data.id}/field`)
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }

  return (
    <Dialog open onClose={onClose} title="Start a trial" wide>
      <form
        className="space-y-4"
        onSubmit={(e) => {
          e.preventDefault()
          void keep()
        }}
      >
        <div className="grid gap-4 sm:grid-cols-2">
          <TextInput
            label="Name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            error={errors['name']}
            autoFocus
          />
          <TextInput
            label="Question"
            value={question}
            onChange={(e) => setQuestion(e.target.value)}
            placeholder="Which is more stable?"
            error={errors['question']}
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
                  onChange={() => setChosen(toggle(chosen, d.disc.id))}
                />
                <span className="figure">{d.disc.code}</span>
                <span className="truncate">{lineage(d)}</span>
              </label>
            ))}
          </div>
          {errors['discIds'] && (
            <p role="alert" className="mt-1 text-note font-medium text-accent">
              Discs: {errors['discIds']}
            </p>
          )}
        </fieldset>
        <div className="grid gap-4 sm:grid-cols-2">
          <SelectInput
            label="Control disc, well known, thrown in every session"
            value={control}
            onChange={(e) => {
              setControl(e.target.value)
              if (e.target.value !== '' && !chosen.includes(e.target.value))
                setChosen([...chosen, e.target.value])
            }}
            hint={
              control === ''
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
          <FigureInput
            label="Throws planned"
            digits={0}
            value={planned ?? proposed}
            onChange={setPlanned}
            hint={`${chosen.length} discs × ${angles.length} angles × ${A_CELL}`}
            error={errors['plannedThrows']}
          />
        </div>
        <fieldset>
          <legend className="mb-1 text-note text-quiet">
            Release angles; flat throws alone hardly tell turn from fade
          </legend>
          <div className="flex flex-wrap gap-2">
            {ANGLES.map((a) => (
              <Chip key={a} on={angles.includes(a)} onClick={() => setAngles(toggle(angles, a))}>
                {angleWords(a)}
              </Chip>
            ))}
          </div>
          {errors['hyzerDegs'] && (
            <p role="alert" className="mt-1 text-note font-medium text-accent">
              {errors['hyzerDegs']}
            </p>
          )}
        </fieldset>
        <Button kind="primary" type="submit">
          Start and throw
        </Button>
      </form>
    </Dialog>
  )
}
