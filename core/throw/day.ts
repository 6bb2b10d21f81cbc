/**
 * The calendar day of an instant as people at a place have it, ISO (2026-11-26): an evening throw belongs to that evening.
 *
 * @param timeZone IANA name; the zone of whoever runs this where null
 * @throws RangeError when the zone is not known or the instant is none
 */
export function dayAt(instant: number | string | Date, timeZone: string | null): string {
  const parts = new Intl.DateTimeFormat('en-CA', {
    ...(timeZone !== null && { timeZone }),
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
  }).formatToParts(new Date(instant))
  const part = (type: Intl.DateTimeFormatPartTypes) => parts.find((p) => p.type === type)!.value
  return `${part('year')}-${part('month')}-${part('day')}`
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
