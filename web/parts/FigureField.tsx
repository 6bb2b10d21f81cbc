import { useController } from 'react-hook-form'
import type { Control, FieldPath, FieldValues } from 'react-hook-form'
import type { Measure } from '../data/units.ts'
import { FigureInput } from './Inputs.tsx'

interface FigureFieldProps<T extends FieldValues> {
  readonly control: Control<T>
  readonly name: FieldPath<T>
  readonly label: string
  /** Unit the user likes; the form keeps the metric value. */
  readonly measure?: Measure
  readonly unit?: string
  readonly digits?: number
  readonly signed?: boolean
  readonly hint?: string | undefined
}

/** A number of a form: shown in the user's unit, kept metric, null when empty. */
export function FigureField<T extends FieldValues>({ control, name, measure, ...rest }: FigureFieldProps<T>) {
  const {
    field: { ref, value, onChange },
    fieldState,
  } = useController({ control, name })
  const metric = value as number | null
  return (
    <FigureInput
      {...rest}
      {...(measure && { unit: measure.unit })}
      ref={ref}
      value={metric === null ? null : (measure?.to(metric) ?? metric)}
      onChange={(v) => {
        onChange(v === null ? null : (measure?.from(v) ?? v))
      }}
      error={fieldState.error?.message}
    />
  )
}
