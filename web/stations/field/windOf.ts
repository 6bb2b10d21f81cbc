import { format } from 'date-fns'
import { alongOut } from '../../../core/throw/leg.ts'
import type { Throw } from '../../../contract/trials.ts'
import type { Units } from '../../data/units.ts'
import type { FieldStanding } from './draft.ts'

type Wind = Pick<FieldStanding, 'windAlongMps' | 'windAcrossMps' | 'leg'>

/** A wind as it blows over the field, whichever way somebody throws; nothing where it was not noted. */
const overField = ({ windAlongMps, windAcrossMps, leg }: Wind) => {
  const sign = alongOut(leg ?? 'out')
  return windAlongMps === null
    ? undefined
    : { alongMps: sign * windAlongMps, acrossMps: sign * (windAcrossMps ?? 0) }
}

/** By how much the wind has moved between two throws, m/s: turning round does not move it; 0 where one was not noted. */
export function windMoved(before: Wind, now: Wind): number {
  const [a, b] = [overField(before), overField(now)]
  return a && b ? Math.hypot(b.alongMps - a.alongMps, b.acrossMps - a.acrossMps) : 0
}

/** Less than anybody notes, m/s. */
const SAME = 0.05

/** Since when the wind stands as it does, H:mm: since the first of the last throws that met it; “now” where none has. */
export function windSince(throws: readonly (Wind & Pick<Throw, 'thrownAt'>)[], now: Wind): string {
  let since: string | undefined
  for (const t of throws.toReversed()) {
    if (t.windAlongMps === null || windMoved(t, now) > SAME) break
    since = t.thrownAt
  }
  return since === undefined ? 'now' : format(since, 'H:mm')
}

/** A wind in words: “3.0 m/s head, 1.0 m/s from right”; undefined where it was not noted. */
export function windSaid(
  { windAlongMps: along, windAcrossMps: across }: Wind,
  units: Units,
): string | undefined {
  if (along === null && across === null) return undefined
  const parts = [
    along !== null &&
      Math.abs(along) >= SAME &&
      `${units.speed.show(Math.abs(along))} ${along < 0 ? 'head' : 'tail'}`,
    across !== null &&
      Math.abs(across) >= SAME &&
      `${units.speed.show(Math.abs(across))} ${across > 0 ? 'from left' : 'from right'}`,
  ].filter((p) => p !== false)
  return parts.length === 0 ? 'calm' : parts.join(', ')
}

/** The last wind that was noted among some throws, turned the way somebody throws now. */
export function windBefore(
  throws: readonly Wind[],
  leg: FieldStanding['leg'],
): Partial<FieldStanding> | undefined {
  const last = throws.findLast((t) => t.windAlongMps !== null)
  const over = last && overField(last)
  if (!over) return undefined
  const sign = alongOut(leg ?? 'out')
  return { windAlongMps: sign * over.alongMps + 0, windAcrossMps: sign * over.acrossMps + 0, windSdMps: null }
}
