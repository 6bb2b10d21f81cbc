import type { Chance } from '../../core/lab/cloud.ts'
import { rollWords } from '../../core/lab/cloud.ts'
import type { LabFlight } from '../../core/lab/flight.ts'
import type { LeftOrRight } from '../../core/flight/hand.ts'
import type { ByArm, KnownArm, LabObstacle } from '../../contract/lab.ts'
import { DEGREE } from '../../core/flight/units.ts'
import { HABIT } from '../../core/rating/places.ts'
import { sideWord } from '../../core/judge/statements.ts'
import { capital } from '../../contract/words.ts'
import { figure, percent } from '../data/units.ts'
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
export function asideWords({ length }: Pick<Units, 'length'>, toFadeM: number, fade: LeftOrRight): string {
  const shown = length.to(Math.abs(toFadeM)).toFixed(1)
  return Number(shown) === 0 ? 'on the line' : `${shown} ${length.unit} ${sideWord(fade, toFadeM > 0)}`
}

/** Where a throw ends: “Lands 84 m out, 3.1 m left.”, after its name where it has to be told which. */
export const landsWords = (flight: LabFlight, units: Units, fade: LeftOrRight, name?: string): string =>
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

/** Degrees as they are read: none after the point where there is nothing. */
export const degrees = (deg: number) => `${figure(deg, deg % 1 === 0 ? 0 : 1)}°`

/** Less of a habit than that is not worth a word: degrees, and per cent of speed. */
const SLIGHT = { deg: 0.5, percent: 1 }
/** What somebody's throws do besides what is meant, by how many throws it is known, and what that does `then`. */
export function habitWords({ thrower, stroke }: ByArm, who: KnownArm | undefined, then: string): string {
  if (!who) return `Nothing is known of ${thrower}’s ${stroke} yet; it flies as it is meant.`
  const deg = (k: keyof typeof HABIT, more: string, less: string) => {
    const by = who.habit[HABIT[k]]! / DEGREE
    return Math.abs(by) < SLIGHT.deg ? [] : [`${degrees(Math.abs(by))} ${by > 0 ? more : less}`]
  }
  const faster = 100 * (Math.exp(who.habit[HABIT.lnSpeed]!) - 1)
  const parts = [
    ...deg('hyzer', 'more hyzer', 'more anhyzer'),
    ...deg('launch', 'higher', 'lower'),
    ...deg('nose', 'more nose up', 'less nose up'),
    ...(Math.abs(faster) < SLIGHT.percent
      ? []
      : [`${figure(Math.abs(faster), 0)} % ${faster > 0 ? 'faster' : 'slower'}`]),
  ]
  const does = parts.length === 0 ? 'as meant' : `${parts.join(', ')} than meant`
  return `By ${who.throws} throws ${thrower}’s ${stroke} comes out ${does}; ${then}.`
}
