import { NOT_STATED } from '../../contract/naming.ts'
import { v7 as newId } from 'uuid'
import { dayAt } from '../../core/throw/day.ts'
import { NO_WATCHER } from '../../contract/trials.ts'
import type { Place, Session } from '../../contract/trials.ts'
import { now } from './clock.ts'
import type { TrialView } from './hooks.ts'

/** The clocks of this device, by IANA name. */
export const zoneHere = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone

/** The day as it is where somebody stands with this device. */
export const today = (): string => dayAt(now(), null)

/** What an outing takes from the place it is at. */
export const atPlace = (place: Place | undefined): Pick<Session, 'place' | 'placeId' | 'timeZone'> => ({
  place: place?.name ?? NOT_STATED,
  placeId: place?.id ?? null,
  timeZone: place?.timeZone ?? zoneHere(),
})

/** Today's outing, if this trial has one among some; else a new one at the last place, its air still to be noted. */
export function outingOf(
  view: Pick<TrialView, 'sessions'>,
  thrown: readonly { readonly sessionId: string }[],
  method: Session['method'],
): Session {
  const used = [...thrown].reverse().flatMap((t) => view.sessions.find((s) => s.id === t.sessionId) ?? [])
  const [last] = used
  const day = dayAt(now(), last?.timeZone ?? null)
  if (last?.day === day) return last
  return {
    ...NO_WATCHER,
    id: newId(),
    place: last?.place ?? NOT_STATED,
    placeId: last?.placeId ?? null,
    timeZone: last?.timeZone ?? zoneHere(),
    day,
    temperatureC: null,
    altitudeM: last?.altitudeM ?? null,
    method: last?.method ?? method,
  }
}
