import { format } from 'date-fns'
import { X } from 'lucide-react'
import type { ReactNode } from 'react'

interface LogEntryProps {
  readonly day: string
  /** What is said of the button that takes it back. */
  readonly takesBack: string
  readonly onTakeBack: () => void
  readonly children: ReactNode
}

/** A line of a log: its day, what happened, and a button that takes it back. */
export function LogEntry({ day, takesBack, onTakeBack, children }: LogEntryProps) {
  return (
    <li className="flex items-center gap-3 border-t border-rule py-1 first:border-t-0">
      <span className="w-24 shrink-0 text-quiet">{format(day, 'd MMM yyyy')}</span>
      {children}
      <button
        type="button"
        aria-label={takesBack}
        className="grid size-8 shrink-0 place-items-center rounded-md hover:bg-tint max-md:size-11"
        onClick={onTakeBack}
      >
        <X size={16} aria-hidden />
      </button>
    </li>
  )
}
