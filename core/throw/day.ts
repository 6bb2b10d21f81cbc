import { TZDate } from '@date-fns/tz'

/**
 * The calendar day of an instant as people at a place have it, ISO (2026-11-26): an evening throw belongs to that evening.
 *
 * @param timeZone IANA name; the zone of whoever runs this where null
 * @throws RangeError when the zone is not known or the instant is none
 */
export function dayAt(instant: number | string | Date, timeZone: string | null): string {
  const parts = calendarOf(timeZone).formatToParts(new Date(instant))
  const part = (type: Intl.DateTimeFormatPartTypes) => parts.find((p) => p.type === type)!.value
  return `${part('year')}-${part('month')}-${part('day')}`
}

/** Calendars are costly to make, and a file has thousands of days. */
const calendars = new Map<string, Intl.DateTimeFormat>()
function calendarOf(timeZone: string | null): Intl.DateTimeFormat {
  const before = timeZone === null ? undefined : calendars.get(timeZone)
  if (before) return before
  const made = new Intl.DateTimeFormat('en-CA', {
    ...(timeZone !== null && { timeZone }),
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
  })
  // the zone of whoever runs this may change while it runs
  if (timeZone !== null) calendars.set(timeZone, made)
  return made
}

/** Whether a time zone is known by its IANA name. */
export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}

/** Years anything here can be of. */
const YEARS = [1900, 2999] as const

/** Whether a text is a day of the calendar: 2026-02-29 is none. */
export function isDay(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false
  const year = Number(text.slice(0, 4))
  const at = new Date(`${text}T00:00:00Z`)
  return (
    year >= YEARS[0] && year <= YEARS[1] && !Number.isNaN(at.getTime()) && at.toISOString().startsWith(text)
  )
}

/** Clocks anywhere are at most so many hours off Greenwich. */
const MOST_OFFSET = 14
const INSTANT = /^(\d{4}-\d{2}-\d{2})(?:T(\d{2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?(Z|[+-](\d{2}):?(\d{2}))?)?$/

/** Whether a text is an ISO 8601 time that was: a day of the calendar, a time of day, clocks that are somewhere. */
export function isInstant(text: string): boolean {
  const [, day, hours = '0', minutes = '0', seconds = '0', , off = '0', offMinutes = '0'] =
    INSTANT.exec(text) ?? []
  return (
    day !== undefined &&
    isDay(day) &&
    Number(hours) < 24 &&
    Number(minutes) < 60 &&
    Number(seconds) < 60 &&
    Number(off) + Number(offMinutes) / 60 <= MOST_OFFSET
  )
}

/**
 * The instant of a time as a file writes it, ISO in UTC: one without a zone is by the clocks of whoever wrote it, a day alone
 * is that day's midnight in Greenwich.
 *
 * @param timeZone IANA name of those clocks; Greenwich where null
 * @throws RangeError for what {@link isInstant} is false of
 */
export function instantIn(text: string, timeZone: string | null): string {
  if (!isInstant(text)) throw new RangeError(`${text} is no ISO 8601 time`)
  const [, day, hours, minutes, seconds = '0', zone] = INSTANT.exec(text)!
  if (hours === undefined || zone !== undefined) return new Date(text).toISOString()
  const [year, month, date] = day!.split('-').map(Number) as [number, number, number]
  const ms = Math.round(1000 * Number(seconds))
  return new Date(
    TZDate.tz(timeZone ?? 'UTC', year, month - 1, date, Number(hours), Number(minutes), 0, ms).getTime(),
  ).toISOString()
}
