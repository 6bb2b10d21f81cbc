import { UserPlus } from 'lucide-react'
import { useState } from 'react'
import type { Thrower } from '../../contract/trials.ts'
import { notFor } from '../data/me.ts'
import { Button } from './Button.tsx'
import type { LabelledProps } from './Labelled.tsx'
import { Select } from './Select.tsx'
import type { SelectOption } from './Select.tsx'
import { newThrower, ThrowerDialog } from './ThrowerDialog.tsx'

/** What stands for somebody who is not on the list. */
const ADD = 'add'

interface ThrowerSelectProps<T extends string | null> extends LabelledProps {
  readonly value: T
  readonly throwers: readonly Thrower[]
  /** Choices beside the throwers, before them. */
  readonly besides?: readonly SelectOption<T>[]
  readonly onChange: (throwerId: T | string) => void
  readonly boxClass?: string
}

/** One of the throwers; who is not among them is added here, and chosen. */
export function ThrowerSelect<T extends string | null>({
  value,
  throwers,
  besides = [],
  onChange,
  ...look
}: ThrowerSelectProps<T>) {
  const [added, setAdded] = useState<Thrower>()
  return (
    <>
      <Select<T | string>
        {...look}
        value={value}
        onChange={(v) => (v === ADD ? setAdded(newThrower()) : onChange(v))}
        options={[
          ...besides,
          ...throwers.map((t) => ({ value: t.id, words: t.name })),
          ...(notFor('throwers') === undefined ? [{ value: ADD, words: 'Add a thrower …' }] : []),
        ]}
      />
      {added && (
        <ThrowerDialog thrower={added} onKept={(t) => onChange(t.id)} onClose={() => setAdded(undefined)} />
      )}
    </>
  )
}

/** Adds somebody where several throwers are chosen. */
export function AddThrower({ onAdded }: { onAdded: (thrower: Thrower) => void }) {
  const [added, setAdded] = useState<Thrower>()
  if (notFor('throwers') !== undefined) return null
  return (
    <>
      <Button kind="quiet" className="!min-h-8 max-md:!min-h-11" onClick={() => setAdded(newThrower())}>
        <UserPlus size={16} aria-hidden /> Add a thrower
      </Button>
      {added && <ThrowerDialog thrower={added} onKept={onAdded} onClose={() => setAdded(undefined)} />}
    </>
  )
}
