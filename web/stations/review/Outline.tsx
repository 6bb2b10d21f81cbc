import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import type { DragEndEvent } from '@dnd-kit/core'
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import clsx from 'clsx'
import { Eye, EyeOff, GripVertical, Plus } from 'lucide-react'
import type { ReviewSection } from '../../../contract/reviews.ts'
import { Button } from '../../parts/Button.tsx'

interface OutlineProps {
  readonly sections: readonly ReviewSection[]
  /** A section that is put somewhere else, with its new place. */
  readonly onPlace: (section: ReviewSection, place: number) => void
  readonly onHidden: (section: ReviewSection) => void
  readonly onAdd: () => void
}

/** The sections in their order: dragged, left out, added to. */
export function Outline({ sections, onPlace, onHidden, onAdd }: OutlineProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const titleOf = (id: string | number) => sections.find((s) => s.id === id)?.title ?? ''
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || over.id === active.id) return
    const from = sections.findIndex((s) => s.id === active.id)
    const to = sections.findIndex((s) => s.id === over.id)
    const moved = arrayMove([...sections], from, to)
    const [before, after] = [moved[to - 1]?.place, moved[to + 1]?.place]
    onPlace(
      sections[from]!,
      before === undefined ? after! - 1 : after === undefined ? before + 1 : (before + after) / 2,
    )
  }
  return (
    <nav aria-label="Sections">
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={drop}
        accessibility={{
          announcements: {
            onDragStart: ({ active }) =>
              `${titleOf(active.id)} is lifted; arrows move it, space puts it down.`,
            onDragOver: ({ active, over }) =>
              over ? `${titleOf(active.id)} is at ${titleOf(over.id)}.` : undefined,
            onDragEnd: ({ active }) => `${titleOf(active.id)} was put down.`,
            onDragCancel: ({ active }) => `${titleOf(active.id)} is back where it was.`,
          },
        }}
      >
        <SortableContext items={sections.map((s) => s.id)} strategy={verticalListSortingStrategy}>
          <ol className="space-y-0.5">
            {sections.map((s) => (
              <Item key={s.id} section={s} onHidden={() => onHidden(s)} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <Button kind="quiet" className="mt-1" onClick={onAdd}>
        <Plus size={16} aria-hidden /> Add a section
      </Button>
    </nav>
  )
}

function Item({ section, onHidden }: { section: ReviewSection; onHidden: () => void }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: section.id,
  })
  const { title, hidden } = section
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: transform ? `translate3d(0, ${Math.round(transform.y)}px, 0)` : undefined,
        transition,
      }}
      className={clsx(
        'flex min-h-9 items-center rounded-lg hover:bg-tint',
        isDragging && 'relative z-10 bg-card shadow',
      )}
    >
      <button
        type="button"
        aria-label={`Move ${title}`}
        className="grid h-9 w-7 shrink-0 cursor-grab touch-none place-items-center text-quiet"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={16} aria-hidden />
      </button>
      <a
        href={`#section-${section.id}`}
        className={clsx('min-w-0 flex-1 truncate', hidden && 'text-quiet line-through')}
      >
        {title}
      </a>
      {/* where discs came from is never left out */}
      {section.kind !== 'disclosure' && (
        <button
          type="button"
          aria-pressed={hidden}
          aria-label={`Leave out ${title}`}
          className="grid size-9 shrink-0 place-items-center text-quiet"
          onClick={onHidden}
        >
          {hidden ? <EyeOff size={16} aria-hidden /> : <Eye size={16} aria-hidden />}
        </button>
      )}
    </li>
  )
}
