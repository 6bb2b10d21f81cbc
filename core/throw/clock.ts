import { millisecondsInDay } from 'date-fns/constants'
import { dayAt, isDay, isInstant } from './day.ts'

/** A clock that is less off than that is taken to be right, ms: what it says differs by no more than people's watches do. */
export const CLOCK_OFF_MS = 120_000
/** A time so near to when a row was put down was read off the clock just then, ms. */
const JUST_THEN_MS = 600_000

/**
 * A row with the times and days a wrong clock gave it put right. What somebody typed, or what was read off another clock, is not
 * near to when the row was put down, and stays.
 *
 * @param at what the device's clock showed when the row was put down, ms since 1970
 * @param offMs what has to be added to that clock for the true time, ms
 * @param fresh whether the row was made then; of one that was changed, only what says when it was changed is of that moment
 * @param zone of whoever stands with the device, where the row names none
 * @returns the row itself where nothing of it was off
 */
export function clockPutRight<T extends object>(
  row: T,
  at: number,
  offMs: number,
  fresh: boolean,
  zone: string | null,
): T {
  if (Math.abs(offMs) < CLOCK_OFF_MS) return row
  const given = row as Readonly<Record<string, unknown>>
  const timeZone = typeof given['timeZone'] === 'string' ? given['timeZone'] : zone
  const changed: Record<string, unknown> = {}
  for (const [name, value] of Object.entries(given)) {
    if (typeof value !== 'string') continue
    if (name.endsWith('At') && (fresh || CHANGED.has(name)) && isInstant(value)) {
      const then = Date.parse(value)
      if (Math.abs(then - at) < JUST_THEN_MS) changed[name] = new Date(then + offMs).toISOString()
    } else if (name === 'day' && fresh && isDay(value) && value === dayAt(at, timeZone))
      changed[name] = dayAt(at + offMs, timeZone)
  }
  return Object.keys(changed).length === 0 ? row : { ...row, ...changed }
}

/** Names of times that say when a row was changed. */
const CHANGED = new Set(['takenBackAt', 'removedAt', 'finishedAt'])

const UNITS = [
  [millisecondsInDay, 'day'],
  [3_600_000, 'hour'],
  [60_000, 'minute'],
] as const

/** How far off a clock is, in words: “365 days ahead”. */
export function offWords(offMs: number): string {
  const [size, unit] = UNITS.find(([s]) => Math.abs(offMs) >= s) ?? UNITS[2]
  const n = Math.round(Math.abs(offMs) / size)
  return `${n} ${unit}${n === 1 ? '' : 's'} ${offMs < 0 ? 'ahead' : 'behind'}`
}
