import { useController } from 'react-hook-form'
import type { Control, FieldPath, FieldPathValue, FieldValues } from 'react-hook-form'
import { Select } from './Select.tsx'
import type { SelectOption } from './Select.tsx'

interface SelectFieldProps<T extends FieldValues, N extends FieldPath<T>> {
  readonly control: Control<T>
  readonly name: N
  readonly label: string
  readonly hint?: string
  readonly options: readonly SelectOption<FieldPathValue<T, N>>[]
}

/** One of many, of a form. */
export function SelectField<T extends FieldValues, N extends FieldPath<T>>({
  control,
  name,
  ...rest
}: SelectFieldProps<T, N>) {
  const { field, fieldState } = useController({ control, name })
  return <Select {...rest} value={field.value} onChange={field.onChange} error={fieldState.error?.message} />
}
