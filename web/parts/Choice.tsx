import { Radio, RadioGroup } from '@headlessui/react'
import clsx from 'clsx'
import type { ReactNode } from 'react'

interface Option<T> {
  readonly value: T
  readonly label: ReactNode
}

interface ChoiceProps<T> {
  readonly label: string
  readonly value: T
  readonly options: readonly Option<T>[]
  readonly onChange: (value: T) => void
  readonly showLabel?: boolean
  readonly className?: string
}

/** One of a few, side by side. */
export function Choice<T extends string | number | null>({
  label,
  value,
  options,
  onChange,
  showLabel = false,
  className,
}: ChoiceProps<T>) {
  return (
    <div className={className}>
      {showLabel && <div className="mb-1 text-note text-quiet">{label}</div>}
      <RadioGroup
        aria-label={label}
        value={value}
        onChange={onChange}
        className="inline-flex max-w-full flex-wrap overflow-hidden rounded-lg border border-edge"
      >
        {options.map((o) => (
          <Radio
            key={String(o.value)}
            value={o.value}
            className={({ checked }) =>
              clsx(
                'flex min-h-9 cursor-pointer items-center border-r border-edge px-2.5 text-body last:border-r-0 max-md:min-h-11',
                checked ? 'bg-pick text-on-pick font-medium' : 'bg-card text-ink hover:bg-tint',
              )
            }
          >
            {o.label}
          </Radio>
        ))}
      </RadioGroup>
    </div>
  )
}

interface ChipProps {
  readonly on: boolean
  readonly onClick: () => void
  readonly children: ReactNode
  readonly className?: string
}

/** Something that was so or was not. */
export function Chip({ on, onClick, children, className }: ChipProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={clsx(
        'inline-flex min-h-8 items-center justify-center rounded-full border px-2.5 text-body max-md:min-h-11 max-md:px-3',
        on ? 'border-pick bg-pick font-medium text-on-pick' : 'border-edge bg-card text-ink hover:bg-tint',
        className,
      )}
    >
      {children}
    </button>
  )
}
