import type { Chance } from '../../core/lab/cloud.ts'
import { rollWords } from '../../core/lab/cloud.ts'
import type { LabFlight } from '../../core/lab/flight.ts'
import type { Side } from '../../core/flight/hand.ts'
import type { LabObstacle } from '../../contract/lab.ts'
import { sideWord } from '../../core/judge/statements.ts'
import { capital } from '../../contract/words.ts'
import { percent } from '../data/units.ts'
import type { Units } from '../data/units.ts'

/** The wind in words: “3.2 m/s head, from left”. */
export function blowsWords(alongMps: number, toRightMps: number, show: (mps: number) => string): string {
  const strength = Math.hypot(alongMps, toRightMps)
  if (strength < 0.05) return 'no wind'
  const parts = [
    Math.abs(alongMps) < 0.2 * strength ? '' : alongMps < 0 ? 'head' : 'tail',
    Math.abs(toRightMps) < 0.2 * strength ? '' : toRightMps > 0 ? 'from left' : 'from right',
  ].filter(Boolean)
  return `${show(strength)} ${parts.join(', ')}`
}

/** A distance to the fade side: “3.1 m left”. */
export function asideWords({ length }: Pick<Units, 'length'>, toFadeM: number, fade: Side): string {
  const shown = length.to(Math.abs(toFadeM)).toFixed(1)
  return Number(shown) === 0 ? 'on the line' : `${shown} ${length.unit} ${sideWord(fade, toFadeM > 0)}`
}

/** Where a throw ends: “Lands 84 m out, 3.1 m left.”, after its name where it has to be told which. */
export const landsWords = (flight: LabFlight, units: Units, fade: Side, name?: string): string =>
  `${name === undefined ? 'Lands' : `${name} lands`} ${units.length.show(flight.landed.downM)} out, ${asideWords(units, flight.landed.sideM, fade)}.`

/** What is said of how it comes down, where that matters. */
export const comesDownWords = (flight: LabFlight): string | undefined => rollWords(flight.tiltDeg.at(-1)!)

/** A zone no larger is a target, m. */
export const TARGET_M = 4

/** How something on the field is called. */
export function obstacleWords(o: LabObstacle, { length }: Units): string {
  const m = (v: number) => length.show(v, 0)
  switch (o.kind) {
    case 'tree':
      return `Tree at ${m(o.at.downM)}`
    case 'ceiling':
      return `Branches from ${m(o.fromM)} to ${m(o.toM)}`
    case 'line':
      return o.water ? 'Water’s edge' : 'Out-of-bounds line'
    case 'pond':
      return `Pond at ${m(o.at.downM)}`
    case 'zone':
      return `${o.radiusM <= TARGET_M ? 'Target' : 'Landing zone'} at ${m(o.at.downM)}`
  }
}

/** What a throw among obstacles is asked to do, in a sentence and in a word, and how likely it does; undefined where nothing is asked. */
export function doesIt(
  { through, both }: Chance,
  obstacles: readonly LabObstacle[],
):
  | { readonly words: string; readonly brief: string; readonly share: number; readonly isStopped: boolean }
  | undefined {
  if (obstacles.length === 0) return undefined
  const isStopped = obstacles.some((o) => o.kind === 'tree' || o.kind === 'ceiling')
  if (!obstacles.some((o) => o.kind !== 'tree' && o.kind !== 'ceiling'))
    return { words: 'gets through', brief: 'gets through', share: through, isStopped: false }
  const isWanted = obstacles.some((o) => o.kind === 'zone')
  return {
    words: isWanted ? 'comes down where it should' : 'stays in',
    brief: isWanted ? 'gets there' : 'stays in',
    share: both,
    isStopped,
  }
}

/** The chance of a throw in one sentence; undefined where nothing stands in its way. */
export function chanceWords(chance: Chance, obstacles: readonly LabObstacle[]): string | undefined {
  const does = doesIt(chance, obstacles)
  if (!does) return undefined
  const apart = does.isStopped
    ? `: gets through ${percent(chance.through)}, and then stays in ${percent(chance.stays)}`
    : ''
  return `${capital(does.words)} ${percent(does.share)} of the time${apart}.`
}
