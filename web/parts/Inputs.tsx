import clsx from 'clsx'
import { useId, useState } from 'react'
import type { ComponentProps, Ref } from 'react'
import { Labelled, toldBy } from './Labelled.tsx'
import type { LabelledProps } from './Labelled.tsx'

const BOX = 'min-h-10 w-full rounded-lg border border-edge bg-card px-2.5 text-body text-ink max-md:min-h-11'

export function TextInput({
  label,
  error,
  hint,
  className,
  ...rest
}: LabelledProps & ComponentProps<'input'>) {
  const id = useId()
  return (
    <Labelled {...{ label, error, hint, className, id }}>
      <input
        id={id}
        aria-invalid={error !== undefined}
        aria-describedby={toldBy({ error, hint }, id)}
        className={BOX}
        {...rest}
      />
    </Labelled>
  )
}

interface FigureInputProps extends LabelledProps {
  /** Already in the user's unit. */
  readonly value: number | null
  readonly onChange: (value: number | null) => void
  readonly unit?: string
  readonly digits?: number
  readonly placeholder?: string
  readonly disabled?: boolean
  /** It may be below nothing: a phone’s pad of numbers has no minus. */
  readonly signed?: boolean
  readonly ref?: Ref<HTMLInputElement>
}

/** A number typed by hand; empty is “not observed”. Half-typed text is left alone until it reads as a number. */
export function FigureInput({
  value,
  onChange,
  unit,
  digits = 1,
  label,
  error,
  hint,
  className,
  hideLabel,
  signed = false,
  ...rest
}: FigureInputProps) {
  const id = useId()
  const shown = value === null ? '' : String(Number(value.toFixed(digits)))
  const [typed, setTyped] = useState<string>()
  const read = typed === undefined ? undefined : parse(typed)
  const unreadable = typed !== undefined && typed.trim() !== '' && read === undefined
  // what is typed stands while it still says the value; a value changed from elsewhere shows at once
  const stands =
    typed !== undefined &&
    (read === undefined || (value !== null && Math.abs(read - value) <= 1e-6 * Math.max(1, Math.abs(value))))
  return (
    <Labelled
      {...{ label, hint, className, id, hideLabel }}
      error={error ?? (unreadable ? 'Write a number, such as 12.5.' : undefined)}
    >
      <div className="relative">
        <input
          id={id}
          inputMode={signed ? 'text' : digits === 0 ? 'numeric' : 'decimal'}
          autoComplete="off"
          className={clsx(BOX, 'figure', unit && 'pr-11')}
          aria-invalid={unreadable || error !== undefined}
          aria-describedby={unreadable || error || hint ? `${id}-told` : undefined}
          value={stands ? typed : shown}
          onBlur={() => !unreadable && setTyped(undefined)}
          onChange={(e) => {
            setTyped(e.target.value)
            const text = e.target.value.trim()
            if (text === '') onChange(null)
            else {
              const number = parse(text)
              if (number !== undefined) onChange(number)
            }
          }}
          {...rest}
        />
        {unit && (
          <span
            aria-hidden
            className="pointer-events-none absolute inset-y-0 right-2.5 flex items-center text-note text-quiet"
          >
            {unit}
          </span>
        )}
      </div>
    </Labelled>
  )
}

function parse(text: string): number | undefined {
  const plain = text.trim().replace('−', '-').replace(',', '.')
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : undefined
}
