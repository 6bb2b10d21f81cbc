import { v7 as newId } from 'uuid'
import { outingOf } from '../../data/outing.ts'
import type { Throw } from '../../../contract/trials.ts'
import type { TrialView } from '../../data/hooks.ts'
import { NOTHING_SEEN, seenOf, fieldStandingOf } from './draft.ts'
import type { FieldStanding } from './draft.ts'
import { startLogging } from './logging.ts'
import type { Logging } from './logging.ts'

/** Where logging starts where nothing waits to be kept: today’s outing as it stands, or a throw that is to be changed. */
export function startOf(view: TrialView, edited: Throw | undefined): Logging {
  const session =
    (edited && view.sessions.find((s) => s.id === edited.sessionId)) ?? outingOf(view, view.throws, 'eye')
  if (edited)
    return startLogging(edited.id, session, fieldStandingOf(edited), seenOf(edited), {
      discId: edited.discId,
      hyzerDeg: edited.hyzerDeg,
    })
  const last = view.throws[view.throws.length - 1]
  const goesOn = last?.sessionId === session.id
  const standing: FieldStanding = {
    throwerId: last?.throwerId ?? view.throwers[0]!.id,
    stroke: last?.stroke ?? 'backhand',
    leg: (goesOn && last.leg) || 'out',
    power: 1,
    sessionId: session.id,
    windAlongMps: goesOn ? last.windAlongMps : null,
    windAcrossMps: goesOn ? last.windAcrossMps : null,
    windSdMps: null,
  }
  return startLogging(newId(), session, standing, NOTHING_SEEN)
}
