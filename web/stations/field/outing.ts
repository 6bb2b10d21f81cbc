import { format } from 'date-fns'
import { v7 as newId } from 'uuid'
import type { Session, Throw } from '../../../contract/trials.ts'
import type { TrialView } from '../../data/hooks.ts'
import { standingOf } from './draft.ts'
import type { Standing } from './draft.ts'

/** Today's outing, if this trial has one; else a new one at the last place, its air still to be noted. */
export function outingOf(view: TrialView): Session {
  const today = format(new Date(), 'yyyy-MM-dd')
  const used = [...view.throws]
    .reverse()
    .flatMap((t) => view.sessions.find((s) => s.id === t.sessionId) ?? [])
  const [last] = used
  if (last?.day === today) return last
  return {
    id: newId(),
    place: last?.place ?? 'not stated',
    day: today,
    temperatureC: null,
    altitudeM: last?.altitudeM ?? null,
    method: last?.method ?? 'eye',
  }
}

/** What holds from the first throw on: as it was last time, or as it was for a throw that is changed. */
export function startOf(view: TrialView, edited: Throw | undefined, session: Session): Standing {
  if (edited) return standingOf(edited)
  const last = view.throws[view.throws.length - 1]
  return {
    throwerId: last?.throwerId ?? view.throwers[0]!.id,
    stroke: last?.stroke ?? 'backhand',
    power: 1,
    sessionId: session.id,
    windAlongMps: last?.sessionId === session.id ? last.windAlongMps : null,
    windAcrossMps: last?.sessionId === session.id ? last.windAcrossMps : null,
    windSdMps: null,
  }
}
