import { arrayMove } from '@dnd-kit/sortable'
import clsx from 'clsx'
import { Eye, EyeOff, Plus } from 'lucide-react'
import type { ReviewSection } from '../../../contract/reviews.ts'
import { Button } from '../../parts/Button.tsx'
import { SortableList, SortableRow } from '../../parts/Sortable.tsx'

interface OutlineProps {
  readonly sections: readonly ReviewSection[]
  /** A section that is put somewhere else, with its new place. */
  readonly onPlace: (section: ReviewSection, place: number) => void
  readonly onHidden: (section: ReviewSection) => void
  readonly onAdd: () => void
}

/** The sections in their order: dragged, left out, added to. */
export function Outline({ sections, onPlace, onHidden, onAdd }: OutlineProps) {
  const move = (from: number, to: number) => {
    const moved = arrayMove([...sections], from, to)
    const [before, after] = [moved[to - 1]?.place, moved[to + 1]?.place]
    onPlace(
      sections[from]!,
      before === undefined ? after! - 1 : after === undefined ? before + 1 : (before + after) / 2,
    )
  }
  return (
    <nav aria-label="Sections">
      <SortableList
        ids={sections.map((s) => s.id)}
        nameOf={(id) => sections.find((s) => s.id === id)?.title ?? ''}
        className="space-y-0.5"
        onMove={move}
      >
        {sections.map((s) => (
          <SortableRow
            key={s.id}
            id={s.id}
            label={`Move ${s.title}`}
            className="hover:bg-tint"
            moving="bg-card shadow"
          >
            <a
              href={`#section-${s.id}`}
              className={clsx('min-w-0 flex-1 truncate', s.hidden && 'text-quiet line-through')}
            >
              {s.title}
            </a>
            {/* where discs came from is never left out */}
            {s.kind !== 'disclosure' && (
              <button
                type="button"
                aria-pressed={s.hidden}
                aria-label={`Leave out ${s.title}`}
                className="grid size-9 shrink-0 place-items-center text-quiet"
                onClick={() => onHidden(s)}
              >
                {s.hidden ? <EyeOff size={16} aria-hidden /> : <Eye size={16} aria-hidden />}
              </button>
            )}
          </SortableRow>
        ))}
      </SortableList>
      <Button kind="quiet" className="mt-1" onClick={onAdd}>
        <Plus size={16} aria-hidden /> Add a section
      </Button>
    </nav>
  )
}
