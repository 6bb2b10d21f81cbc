import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import type { Announcements, DragEndEvent, Over } from '@dnd-kit/core'
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import clsx from 'clsx'
import { GripVertical } from 'lucide-react'
import { DiscDot } from '../../parts/Disc.tsx'

interface ExpectationProps {
  /** Disc ids, most stable first. */
  readonly expected: readonly string[]
  readonly nameOf: (id: string) => string
  readonly placeOf: (id: string) => number
  readonly locked: boolean
  readonly onOrder: (expected: string[]) => void
}

/** The order of stability somebody expects, dragged with the mouse or moved with space and arrows. */
export function Expectation({ expected, nameOf, placeOf, locked, onOrder }: ExpectationProps) {
  const sensors = useSensors(
    useSensor(PointerSensor),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return
    const at = (id: unknown) => expected.indexOf(String(id))
    onOrder(arrayMove([...expected], at(active.id), at(over.id)))
  }
  /** What is said to those who cannot see it move. */
  const place = (over: Over | null) =>
    over ? `at place ${expected.indexOf(String(over.id)) + 1} of ${expected.length}` : 'off the list'
  const announcements: Announcements = {
    onDragStart: ({ active }) =>
      `${nameOf(String(active.id))} is lifted; arrows move it, space puts it down.`,
    onDragOver: ({ active, over }) => `${nameOf(String(active.id))} is ${place(over)}.`,
    onDragEnd: ({ active, over }) => `${nameOf(String(active.id))} was put down ${place(over)}.`,
    onDragCancel: ({ active }) => `${nameOf(String(active.id))} is back where it was.`,
  }
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={drop}
      accessibility={{ announcements }}
    >
      <SortableContext items={[...expected]} strategy={verticalListSortingStrategy} disabled={locked}>
        <ol className="space-y-1.5">
          {expected.map((id, i) => (
            <Row key={id} id={id} rank={i + 1} name={nameOf(id)} place={placeOf(id)} locked={locked} />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  )
}

interface RowProps {
  readonly id: string
  readonly rank: number
  readonly name: string
  readonly place: number
  readonly locked: boolean
}

function Row({ id, rank, name, place, locked }: RowProps) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: transform ? `translate3d(0, ${Math.round(transform.y)}px, 0)` : undefined,
        transition,
      }}
      className={clsx(
        'flex min-h-9 items-center gap-2 rounded-lg border border-rule bg-card pr-2',
        isDragging && 'relative z-10 border-edge',
      )}
    >
      <button
        type="button"
        disabled={locked}
        aria-label={`Move ${name}, expected ${rank}`}
        className="grid h-9 w-8 shrink-0 cursor-grab touch-none place-items-center text-quiet disabled:cursor-default disabled:opacity-40"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={16} aria-hidden />
      </button>
      <span className="figure w-4 text-quiet">{rank}</span>
      <DiscDot place={place} />
      <span className="truncate font-medium">{name}</span>
    </li>
  )
}
