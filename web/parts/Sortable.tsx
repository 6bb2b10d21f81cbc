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
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import clsx from 'clsx'
import { GripVertical } from 'lucide-react'
import type { ReactNode } from 'react'

interface SortableListProps {
  /** In their order. */
  readonly ids: readonly string[]
  readonly nameOf: (id: string) => string
  readonly locked?: boolean
  readonly className: string
  /** Something was put down at another place. */
  readonly onMove: (from: number, to: number) => void
  /** A {@link SortableRow} for every id. */
  readonly children: ReactNode
}

/** A finger or a mouse that only presses moves nothing, px. */
const MOVED_PX = 4

/** A list whose rows are put into another order, dragged with the mouse or moved with space and arrows. */
export function SortableList({
  ids,
  nameOf,
  locked = false,
  className,
  onMove,
  children,
}: SortableListProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: MOVED_PX } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onMove(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)))
  }
  /** What is said to those who cannot see it move. */
  const place = (over: Over | null) =>
    over ? `at place ${ids.indexOf(String(over.id)) + 1} of ${ids.length}` : 'off the list'
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
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy} disabled={locked}>
        <ol className={className}>{children}</ol>
      </SortableContext>
    </DndContext>
  )
}

interface SortableRowProps {
  readonly id: string
  /** Names the handle. */
  readonly label: string
  readonly locked?: boolean
  readonly className: string
  /** While it is on its way. */
  readonly moving: string
  readonly children: ReactNode
}

/** A row of a {@link SortableList}, with the handle it is moved by. */
export function SortableRow({ id, label, locked = false, className, moving, children }: SortableRowProps) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: transform ? `translate3d(0, ${Math.round(transform.y)}px, 0)` : undefined,
        transition,
      }}
      className={clsx(
        'flex min-h-9 items-center rounded-lg',
        className,
        isDragging && `relative z-10 ${moving}`,
      )}
    >
      <button
        type="button"
        disabled={locked}
        aria-label={label}
        className="grid h-9 w-8 shrink-0 cursor-grab touch-none place-items-center text-quiet disabled:cursor-default disabled:opacity-40"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={16} aria-hidden />
      </button>
      {children}
    </li>
  )
}
