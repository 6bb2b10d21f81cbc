import { CircleX, FlaskConical, Trash2 } from 'lucide-react'
import type { ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { WEAR_STATES } from '../../../contract/shelf.ts'
import { SOURCE_WORDS } from '../../../core/shelf/kinds.ts'
import type { Disc } from '../../../contract/shelf.ts'
import { changeDiscs } from '../../data/shelfPage.ts'
import { Button } from '../../parts/Button.tsx'
import { useAddresses } from '../../parts/StationLink.tsx'
import { Select, plainOptions, wordedOptions } from '../../parts/Select.tsx'
import type { SelectOption } from '../../parts/Select.tsx'

interface BulkBarProps {
  readonly chosen: readonly Disc[]
  /** Discs found that are not all chosen. */
  readonly others: number
  readonly onAll: () => void
  readonly onClear: () => void
}

/** What can be done with several discs at once. */
export function BulkBar({ chosen, others, onAll, onClear }: BulkBarProps) {
  const go = useNavigate()
  const to = useAddresses()
  const count = chosen.length === 1 ? '1 disc' : `${chosen.length} discs`
  const off = chosen.every((d) => d.removedAt !== null)
  const pick = <T extends string>(
    label: string,
    options: readonly SelectOption<T>[],
    change: (v: T) => Partial<Disc>,
  ): ReactNode => (
    <Select<T | null>
      hideLabel
      label={`${label} of all chosen`}
      value={null}
      placeholder={`${label} …`}
      onChange={(v) =>
        v !== null &&
        void changeDiscs(chosen, change(v), `${count}: ${options.find((o) => o.value === v)!.words}.`)
      }
      options={options}
    />
  )
  return (
    <div
      role="region"
      aria-label="Chosen discs"
      className="sticky bottom-3 z-10 mx-3 mb-3 flex flex-wrap items-center gap-2 rounded-xl border border-edge bg-card p-2.5 pl-4 shadow-lg"
    >
      <strong className="mr-2">{count} chosen</strong>
      {others > 0 && (
        <Button kind="quiet" onClick={onAll}>
          All {chosen.length + others} found
        </Button>
      )}
      {!off && (
        <>
          <Button
            kind="primary"
            disabled={chosen.length > 60}
            onClick={() => void go(`${to('bench') ?? '/'}?start=${chosen.map((d) => d.id).join(',')}`)}
          >
            <FlaskConical size={16} aria-hidden /> Start a trial
          </Button>
          {pick('Wear', plainOptions(WEAR_STATES), (wear) => ({ wear }))}
          {pick('Came from', wordedOptions(SOURCE_WORDS), (source) => ({ source }))}
        </>
      )}
      <Button
        onClick={() => {
          onClear()
          void changeDiscs(
            chosen,
            { removedAt: off ? null : new Date().toISOString() },
            off ? `${count} back on the shelf.` : `${count} taken off the shelf.`,
          )
        }}
      >
        <Trash2 size={16} aria-hidden /> {off ? 'Restore' : 'Take off'}
      </Button>
      <Button kind="quiet" className="ml-auto" onClick={onClear} aria-label="Choose none">
        <CircleX size={18} aria-hidden />
      </Button>
    </div>
  )
}
