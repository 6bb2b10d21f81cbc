import { useState } from 'react'
import type { Verdicts } from '../../../contract/reviews.ts'
import { TextInput } from '../../parts/Inputs.tsx'
import { Choice } from '../../parts/Choice.tsx'

/** In an order of this page’s: the database has one of its own. */
const KEYS = ['slot', 'overlaps', 'forWhom', 'notForMe', 'again']

/** What no throw says: whether it earns a slot, for whom it is, whether one would buy it again. */
export function VerdictForm({
  verdicts: stored,
  onVerdicts,
}: {
  readonly verdicts: Verdicts
  readonly onVerdicts: (verdicts: Verdicts) => void
}) {
  // what is typed is shown at once; what another device said takes its place once it comes
  const [verdicts, setVerdicts] = useState(stored)
  const [own, setOwn] = useState<readonly string[]>([])
  const coming = JSON.stringify(stored, KEYS)
  const [told, setTold] = useState(coming)
  if (coming !== told) {
    setTold(coming)
    if (!own.includes(coming)) setVerdicts(stored)
  }
  const set = (change: Partial<Verdicts>) => {
    const next = { ...verdicts, ...change }
    setVerdicts(next)
    setOwn([...own, JSON.stringify(next, KEYS)])
    onVerdicts(next)
  }
  return (
    <div className="mb-3 grid gap-3 rounded-lg border border-rule p-3 md:grid-cols-2">
      <Choice
        label="Slot"
        showLabel
        value={verdicts.slot ?? ''}
        onChange={(v) => set({ slot: v === '' ? null : v })}
        options={[
          { value: 'earns-a-slot', label: 'Earns a slot' },
          { value: 'earns-no-slot', label: 'No slot' },
          { value: '', label: 'Not said' },
        ]}
      />
      <Choice
        label="Would buy again"
        showLabel
        value={verdicts.again ?? ''}
        onChange={(v) => set({ again: v === '' ? null : v })}
        options={[
          { value: 'would-buy-again', label: 'Yes' },
          { value: 'would-not-buy-again', label: 'No' },
          { value: '', label: 'Not said' },
        ]}
      />
      <TextInput
        label="Overlaps with"
        value={verdicts.overlaps}
        maxLength={200}
        onChange={(e) => set({ overlaps: e.target.value })}
      />
      <TextInput
        label="For whom"
        value={verdicts.forWhom}
        maxLength={400}
        placeholder="slower arms that want a straight driver"
        onChange={(e) => set({ forWhom: e.target.value })}
      />
      <label className="flex min-h-9 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-[var(--water)]"
          checked={verdicts.notForMe}
          onChange={(e) => set({ notForMe: e.target.checked })}
        />
        Not for me
      </label>
    </div>
  )
}
