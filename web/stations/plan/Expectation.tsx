import { arrayMove } from '@dnd-kit/sortable'
import { DiscDot } from '../../parts/Disc.tsx'
import { SortableList, SortableRow } from '../../parts/Sortable.tsx'

interface ExpectationProps {
  /** Disc ids, most stable first. */
  readonly expected: readonly string[]
  readonly nameOf: (id: string) => string
  readonly lookOf: (id: string) => number
  readonly locked: boolean
  readonly onOrder: (expected: string[]) => void
}

/** The order of stability somebody expects. */
export const Expectation = ({ expected, nameOf, lookOf, locked, onOrder }: ExpectationProps) => (
  <SortableList
    ids={expected}
    nameOf={nameOf}
    locked={locked}
    className="space-y-1.5"
    onMove={(from, to) => onOrder(arrayMove([...expected], from, to))}
  >
    {expected.map((id, i) => (
      <SortableRow
        key={id}
        id={id}
        locked={locked}
        label={`Move ${nameOf(id)}, expected ${i + 1}`}
        className="gap-2 border border-rule bg-card pr-2"
        moving="border-edge"
      >
        <span className="figure w-4 text-quiet">{i + 1}</span>
        <DiscDot look={lookOf(id)} />
        <span className="truncate font-medium">{nameOf(id)}</span>
      </SortableRow>
    ))}
  </SortableList>
)
