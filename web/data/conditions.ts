import { max, mean } from 'd3'
import { format } from 'date-fns'
import { isSimulated } from '../../core/throw/simulated.ts'
import { alongOut } from '../../core/throw/leg.ts'
import { NOT_STATED } from '../../contract/naming.ts'
import type { Session } from '../../contract/trials.ts'
import type { TrialView } from './hooks.ts'
import { METHODS } from './methodWords.ts'
import type { Units } from './units.ts'

/** Who threw, when, where, in which wind and air, how it was measured. */
export function conditionsOf({ throws, throwers, sessions }: TrialView, units: Units): string[] {
  const thrown = new Set(throws.map((t) => t.throwerId))
  const held = sessions.filter((s) => throws.some((t) => t.sessionId === s.id))
  const days = [...new Set(held.map((s) => s.day))].sort()
  const winds = throws.flatMap((t) =>
    t.windAlongMps === null ? [] : [t.windAlongMps * alongOut(t.leg ?? 'out')],
  )
  const air = held.flatMap((s) => (s.temperatureC === null ? [] : [s.temperatureC]))
  const day = (d: string) => format(new Date(`${d}T12:00`), 'd MMM yyyy')
  const along = mean(winds)
  const strongest = max(winds, Math.abs) ?? 0
  return [
    throwers
      .filter((t) => thrown.has(t.id))
      .map((t) => {
        const own = throws.filter((x) => x.throwerId === t.id)
        const simulated = own.filter(isSimulated).length
        if (simulated === 0) return t.name
        return `${t.name} (${simulated === own.length ? 'simulated' : `${simulated} of ${own.length} throws simulated`})`
      })
      .join(', '),
    days.length > 1 ? `${day(days[0]!)} to ${day(days.at(-1)!)}` : days.map(day).join(''),
    [...new Set(held.map((s) => s.place).filter((p) => p !== NOT_STATED))].join(', '),
    along === undefined
      ? 'wind not noted'
      : Math.abs(along) < strongest / 2
        ? `wind of up to ${units.speed.show(strongest)} along the line`
        : `wind ${units.speed.show(Math.abs(along))} ${along < 0 ? 'in the face' : 'from behind'} on the way out`,
    air.length > 0 && units.temperature.show(mean(air)!, 0),
    [...new Set(held.map((s) => `landings ${METHODS[s.method].landings}`))].join(', '),
    [...new Set(held.flatMap((s) => watchedWords(s) ?? []))].join(', '),
  ].filter((words): words is string => typeof words === 'string' && words !== '')
}
/** By whose eye the calls of an outing are weighed; undefined where they are as usual. */
const watchedWords = ({ watcherSdDeg }: Session): string | undefined =>
  watcherSdDeg === null
    ? undefined
    : `angles called by an eye that is off by ${watcherSdDeg}° as the eye drill measured it`
