import { format } from 'date-fns'
import { Pencil, X } from 'lucide-react'
import type { ReactNode } from 'react'

interface LogEntryProps {
  readonly day: string
  /** What is said of the button that takes it back. */
  readonly takesBack: string
  readonly onTakeBack: () => void
  /** A button that changes it, and what is said of it. */
  readonly changes?: { readonly label: string; readonly onPress: () => void }
  readonly children: ReactNode
}

const BUTTON = 'grid size-8 shrink-0 place-items-center rounded-md hover:bg-tint max-md:size-11'

/** A line of a log: its day, what happened, and buttons that change it and take it back. */
export function LogEntry({ day, takesBack, onTakeBack, changes, children }: LogEntryProps) {
  return (
    <li className="flex items-center gap-3 border-t border-rule py-1 first:border-t-0">
      <span className="w-24 shrink-0 text-quiet">{format(day, 'd MMM yyyy')}</span>
      {children}
      {changes && (
        <button type="button" aria-label={changes.label} className={BUTTON} onClick={changes.onPress}>
          <Pencil size={15} aria-hidden />
        </button>
      )}
      <button type="button" aria-label={takesBack} className={BUTTON} onClick={onTakeBack}>
        <X size={16} aria-hidden />
      </button>
    </li>
  )
}
