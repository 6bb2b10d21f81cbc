import clsx from 'clsx'
import type { ReactNode } from 'react'

export interface LabelledProps {
  readonly label: string
  readonly error?: string | undefined
  readonly hint?: ReactNode
  /** The label is there for those who cannot see; the place says it to the others. */
  readonly hideLabel?: boolean | undefined
  readonly className?: string | undefined
}

/** A control under what it is called, and above what is said of it. */
export function Labelled({
  label,
  error,
  hint,
  className,
  hideLabel,
  id,
  children,
}: LabelledProps & { id: string; children: ReactNode }) {
  return (
    // a label that is not seen stays in its place, or it would widen what is scrolled
    <div className={clsx(hideLabel && 'relative', className)}>
      <label
        id={`${id}-label`}
        htmlFor={id}
        className={hideLabel ? 'sr-only' : 'mb-1 block text-note text-quiet'}
      >
        {label}
      </label>
      {children}
      {hint && !error && (
        <p id={`${id}-told`} className="mt-1 text-note text-quiet">
          {hint}
        </p>
      )}
      {error && (
        <p id={`${id}-told`} role="alert" className="mt-1 text-note font-medium text-accent">
          {error}
        </p>
      )}
    </div>
  )
}

/** By what an assistive device finds what is said of a control. */
export const toldBy = ({ error, hint }: Pick<LabelledProps, 'error' | 'hint'>, id: string) =>
  error || hint ? `${id}-told` : undefined
