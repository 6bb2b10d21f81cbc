import { createEvent } from 'ics'

/** A session to be put into a calendar. */
export interface PlannedSession {
  /** Stays the same when the session is exported again. */
  readonly id: string
  readonly title: string
  /** ISO 8601. */
  readonly startsAt: string
  readonly minutes: number
  readonly place?: string
  readonly notes?: string
}

/**
 * A session as an iCalendar file (RFC 5545), in UTC.
 *
 * @throws RangeError when the start is not a point in time
 */
export function sessionIcs(session: PlannedSession): string {
  const start = Date.parse(session.startsAt)
  if (Number.isNaN(start))
    throw new RangeError(`startsAt is ${session.startsAt}; it must be an ISO 8601 time.`)
  const { error, value } = createEvent({
    uid: `${session.id}@veer-line`,
    productId: 'veer-line',
    title: session.title,
    start,
    startInputType: 'utc',
    startOutputType: 'utc',
    duration: { minutes: Math.max(1, Math.round(session.minutes)) },
    ...(session.place !== undefined && { location: session.place }),
    ...(session.notes !== undefined && { description: session.notes }),
  })
  if (error || !value) throw new RangeError(`The session cannot be written: ${error?.message}`)
  return value
}
