import { OBSERVED_KEYS, rowOf } from '../../core/throw/observed.ts'
import { capital, fieldWords } from '../../contract/words.ts'
import { useSessions, useShelf, useThrowers } from '../data/hooks.ts'
import { useUnits } from '../data/preferences.tsx'
import type { Row } from '../../contract/row.ts'
import { measureOf } from '../data/units.ts'
import { FigureInput, TextInput } from '../parts/Inputs.tsx'
import { Select } from '../parts/Select.tsx'

/** What stands in a row at a path like `plan.expected`. */
export const valueAt = (row: Row, path: string): unknown =>
  path.split('.').reduce<unknown>((o, key) => (o as Record<string, unknown> | null)?.[key], row)
const put = (row: Row, path: string, value: unknown): Row => {
  const copy = structuredClone(row)
  const keys = path.split('.')
  const last = keys.pop()!
  const holder = keys.length === 0 ? copy : valueAt(copy, keys.join('.'))
  ;(holder as Record<string, unknown>)[last] = value
  return copy
}
export const isFigureOrText = (value: unknown): value is string | number | null =>
  value === null || typeof value === 'number' || typeof value === 'string'
const isObserved = (key: string): key is (typeof OBSERVED_KEYS)[number] =>
  (OBSERVED_KEYS as readonly string[]).includes(key)

/** One field of a row: a disc, thrower or outing chosen from those there are, else a figure in the user's unit, else a text. */
export function NamedField({
  path,
  row,
  onChange,
}: {
  path: string
  row: Row
  onChange: (row: Row) => void
}) {
  const units = useUnits()
  const { view } = useShelf()
  const { throwers } = useThrowers()
  const sessions = useSessions()
  const key = path.split('.').at(-1)!
  const value = valueAt(row, path)
  const label = capital(fieldWords(path.split('.')))
  const choices = {
    discId: view?.discs.map((d) => [d.disc.id, `${d.disc.code} ${d.mold.name} ${d.plastic.name}`] as const),
    throwerId: throwers?.map((t) => [t.id, t.name] as const),
    sessionId: sessions?.map((s) => [s.id, [s.day, s.place].filter(Boolean).join(', ')] as const),
  }[key]
  if (choices)
    return (
      <Select
        label={label}
        value={String(value)}
        onChange={(v) => {
          onChange(put(row, path, v))
        }}
        options={[
          ...(!choices.some(([id]) => id === value)
            ? [{ value: String(value), words: 'not known here' }]
            : []),
          ...choices.map(([id, name]) => ({ value: id, words: name })),
        ]}
      />
    )
  if (typeof value === 'string')
    return (
      <TextInput
        label={label}
        value={value}
        onChange={(e) => {
          onChange(put(row, path, e.target.value))
        }}
      />
    )
  const observed = isObserved(key) ? rowOf(key) : undefined
  const measure = measureOf(units, observed?.kind === 'figure' ? observed.unit : '')
  return (
    <FigureInput
      signed
      label={label}
      unit={measure.unit}
      value={typeof value === 'number' ? measure.to(value) : null}
      onChange={(shown) => {
        onChange(put(row, path, shown === null ? null : measure.from(shown)))
      }}
    />
  )
}
