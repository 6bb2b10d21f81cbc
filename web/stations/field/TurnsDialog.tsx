import type { Thrower } from '../../../contract/trials.ts'
import { Button } from '../../parts/Button.tsx'
import { Chip } from '../../parts/Choice.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { AddThrower } from '../../parts/ThrowerSelect.tsx'
import type { TurnsOf } from './useTurns.ts'

interface TurnsDialogProps {
  readonly throwers: readonly Thrower[]
  readonly turns: TurnsOf
  readonly onClose: () => void
}

/** Who throws by turns: a helper keeps the sheet, and nobody has to say who is next. */
export function TurnsDialog({ throwers, turns: { throwerIds, set }, onClose }: TurnsDialogProps) {
  return (
    <Dialog open onClose={onClose} title="Who throws by turns?">
      <p className="mb-3 text-quiet">
        After each throw the next one is the other’s, with their own hand, arm and release. A plan that says
        who throws goes first.
      </p>
      <div className="mb-4 flex flex-wrap gap-2">
        {throwers.map((t) => (
          <Chip
            key={t.id}
            on={throwerIds.includes(t.id)}
            onClick={() =>
              set(throwerIds.includes(t.id) ? throwerIds.filter((id) => id !== t.id) : [...throwerIds, t.id])
            }
          >
            {t.name}
          </Chip>
        ))}
        <AddThrower onAdded={(t) => set([...throwerIds, t.id])} />
      </div>
      <Button kind="primary" onClick={onClose}>
        {throwerIds.length > 1 ? `The ${throwerIds.length} of them take turns` : 'Nobody takes turns'}
      </Button>
    </Dialog>
  )
}
