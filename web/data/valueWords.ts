import { format, isValid, parseISO } from 'date-fns'
import { unitOf } from '../../contract/words.ts'
import { figure, measureOf } from './units.ts'
import type { Units } from './units.ts'

const INSTANT = /^\d{4}-\d\d-\d\dT/
const DAY = /^\d{4}-\d\d-\d\d$/
const ID = /^[\da-f]{8}-[\da-f]{4}-/

/** What a field of a row says, where somebody chooses between two: in the user's units, and in words where it is no figure. */
export function valueWords(units: Units, field: string, value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') {
    const unit = unitOf(field)
    if (unit === undefined) return figure(value, Number.isInteger(value) ? 0 : 2)
    const measure = measureOf(units, unit)
    return `${figure(measure.to(value), 1)}${measure.unit === '°' ? '' : ' '}${measure.unit}`
  }
  if (Array.isArray(value)) return value.map((v) => valueWords(units, field, v)).join(', ')
  if (typeof value === 'object')
    return Object.entries(value)
      .map(([key, v]) => valueWords(units, key, v))
      .join(', ')
  const text = String(value as string)
  if (ID.test(text)) return 'another'
  const time = INSTANT.test(text) || DAY.test(text) ? parseISO(text) : undefined
  return time && isValid(time) ? format(time, DAY.test(text) ? 'd MMM yyyy' : 'd MMM yyyy, H:mm') : text
}
