import { useState } from 'react'
import { v7 as newId } from 'uuid'
import { fadeSign } from '../../../core/flight/hand.ts'
import { REFERENCE_ARM_MPS } from '../../../core/flight/arm.ts'
import { flownBy } from '../../../core/rotation/job.ts'
import { JobRow, numbersOf } from '../../../contract/rotation.ts'
import type { Board } from '../../../contract/rotation.ts'
import type { Thrower } from '../../../contract/trials.ts'
import { useThrowers } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureInput, SelectInput, TextInput } from '../../parts/Inputs.tsx'
import { say } from '../../data/say.ts'
import { WantedStrip } from './WantedStrip.tsx'

/** Near enough where nothing else is said, m. */
const USUAL_WITHIN = { at60M: 3, finishM: 7, carryM: 10 }
const FLAT = { hyzerDeg: 0, power: 1, windAlongMps: 0 }

interface DefineJobProps {
  readonly board: Board
  /** The one that is changed; otherwise it is a new one. */
  readonly job: JobRow | undefined
  readonly onClose: () => void
}

/** What a disc is wanted for: by whose arm, thrown how, flying where, and how far from it is near enough. */
export function DefineJob({ board, job, onClose }: DefineJobProps) {
  const { throwers = [] } = useThrowers()
  const units = useUnits()
  const [draft, setDraft] = useState<JobRow>(
    job ?? {
      id: newId(),
      name: '',
      throwerId: null,
      throwing: { armMps: REFERENCE_ARM_MPS, ...FLAT },
      wanted: { at60M: 0, finishM: 5, carryM: 90 },
      within: USUAL_WITHIN,
      rank: 1 + Math.max(0, ...board.jobs.map((j) => j.rank)),
      removedAt: null,
    },
  )
  const [discId, setDiscId] = useState('')
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({})
  const arms = throwers.filter((t): t is Thrower & { backhandMps: number } => t.backhandMps !== null)
  const thrower = throwers.find((t) => t.id === draft.throwerId)
  const { throwing, wanted, within } = draft
  /** Another way of throwing has the disc it is taken from fly elsewhere. */
  const take = (from: string, thrown: JobRow['throwing']) => {
    const disc = board.discs.find((d) => d.id === from)
    const flown = disc && flownBy(numbersOf(disc), thrown)
    setDraft({ ...draft, throwing: thrown, ...(flown && { wanted: rounded(flown) }) })
  }
  const throwIt = (part: Partial<JobRow['throwing']>) => take(discId, { ...throwing, ...part })
  const keep = async () => {
    const read = JobRow.safeParse(draft)
    if (!read.success)
      return setErrors(Object.fromEntries(read.error.issues.map((i) => [i.path.join('.'), i.message])))
    await outbox.put('jobs', read.data)
    say(job ? `${read.data.name} was changed.` : `${read.data.name} is on the board.`)
    onClose()
  }
  const remove = async () => {
    await outbox.put('jobs', { ...draft, removedAt: new Date().toISOString() })
    say(`${draft.name} was taken off the board.`, {
      label: 'Undo',
      run: () => void outbox.put('jobs', { ...draft, removedAt: null }),
    })
    onClose()
  }
  const { length, speed } = units
  const metres = (
    label: string,
    path: 'wanted' | 'within',
    part: 'at60M' | 'finishM' | 'carryM',
    hint?: string,
  ) => {
    const value = draft[path][part]
    return (
      <FigureInput
        label={label}
        unit={length.unit}
        value={value === null ? null : length.to(value)}
        {...(hint !== undefined && { hint })}
        error={errors[`${path}.${part}`]}
        onChange={(v) =>
          setDraft({ ...draft, [path]: { ...draft[path], [part]: v === null ? null : length.from(v) } })
        }
      />
    )
  }
  const fade = thrower && fadeSign(thrower.hand, 'backhand') > 0 ? 'right' : 'left'
  return (
    <Dialog open onClose={onClose} title={job ? `Change ${job.name}` : 'New job'} wide>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextInput
          label="What the disc is for"
          placeholder="Late turn driver"
          value={draft.name}
          error={errors['name']}
          onChange={(e) => setDraft({ ...draft, name: e.target.value })}
        />
        <SelectInput
          label="At whose arm"
          value={draft.throwerId ?? ''}
          onChange={(e) => {
            const found = arms.find((t) => t.id === e.target.value)
            const thrown = { ...throwing, armMps: found?.backhandMps ?? REFERENCE_ARM_MPS }
            const disc = board.discs.find((d) => d.id === discId)
            const flown = disc && flownBy(numbersOf(disc), thrown)
            setDraft({
              ...draft,
              throwerId: found?.id ?? null,
              throwing: thrown,
              ...(flown && { wanted: rounded(flown) }),
            })
          }}
        >
          <option value="">The arm the numbers are made for</option>
          {arms.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}, {speed.show(t.backhandMps, 0)}
            </option>
          ))}
        </SelectInput>
      </div>
      <div className="mt-3 grid grid-cols-2 gap-3 sm:grid-cols-[1fr_7rem_7rem_8rem]">
        <SelectInput
          label="Flies as this disc does now"
          className="max-sm:col-span-2"
          value={discId}
          onChange={(e) => {
            setDiscId(e.target.value)
            take(e.target.value, throwing)
          }}
        >
          <option value="">Drawn by hand</option>
          {board.discs
            .filter((d) => d.tests.length > 0 || d.jobId !== null)
            .map((d) => (
              <option key={d.id} value={d.id}>
                {d.code}, {d.mold} {d.plastic}
              </option>
            ))}
        </SelectInput>
        <FigureInput
          label="Hyzer"
          unit="°"
          digits={0}
          value={throwing.hyzerDeg}
          error={errors['throwing.hyzerDeg']}
          onChange={(v) => throwIt({ hyzerDeg: v ?? 0 })}
        />
        <FigureInput
          label="Power"
          unit="%"
          digits={0}
          value={100 * throwing.power}
          error={errors['throwing.power']}
          onChange={(v) => throwIt({ power: (v ?? 100) / 100 })}
        />
        <FigureInput
          label="Into a wind of"
          unit={speed.unit}
          value={speed.to(-throwing.windAlongMps)}
          error={errors['throwing.windAlongMps']}
          onChange={(v) => throwIt({ windAlongMps: v === null || v === 0 ? 0 : -speed.from(v) })}
        />
      </div>
      <WantedStrip
        wanted={wanted}
        within={within}
        fade={fade}
        onDraw={(drawn) => {
          setDiscId('')
          setDraft({ ...draft, wanted: rounded(drawn) })
        }}
      />
      <div className="grid grid-cols-3 gap-3">
        {metres('At 60 %, to the fade side', 'wanted', 'at60M')}
        {metres('Finishes, to the fade side', 'wanted', 'finishM')}
        {metres('Carry', 'wanted', 'carryM')}
        {metres('Near enough, either way', 'within', 'at60M')}
        {metres('Near enough, either way', 'within', 'finishM')}
        {metres('Near enough, either way', 'within', 'carryM', 'Empty where the carry does not matter.')}
      </div>
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        {job && (
          <Button kind="quiet" className="mr-auto" onClick={() => void remove()}>
            Take it off the board
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
        <Button kind="primary" onClick={() => void keep()}>
          {job ? 'Keep the change' : 'Put it on the board'}
        </Button>
      </div>
    </Dialog>
  )
}

const rounded = ({ at60M, finishM, carryM }: JobRow['wanted']): JobRow['wanted'] => {
  const to = (v: number) => Math.round(2 * v) / 2 + 0
  return { at60M: to(at60M), finishM: to(finishM), carryM: to(carryM) }
}
