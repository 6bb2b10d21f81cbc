import { REFERENCE_DENSITY } from '../../../core/flight/air.ts'
import type { LeftOrRight } from '../../../core/flight/hand.ts'
import type { Change } from '../../../core/lab/changed.ts'
import { airOf } from '../../../contract/lab.ts'
import type { OneThrow, LabThrown, Weather } from '../../../contract/lab.ts'
import { angleWords, figure, percent, powerWords } from '../../data/units.ts'
import type { Units } from '../../data/units.ts'
import { blowsWords, degrees } from '../../flown/words.ts'

/** The nose against the flight path. */
export const noseWords = (deg: number): string =>
  deg === 0 ? 'nose level' : `nose ${degrees(Math.abs(deg))} ${deg > 0 ? 'up' : 'down'}`

/** Where it is aimed: “2.5° left”. */
export function aimWords(aimDeg: number, fade: LeftOrRight): string {
  const shown = figure(Math.abs(aimDeg), 1)
  if (Number(shown) === 0) return 'along the line'
  const isLeft = aimDeg > 0 === (fade === 'left')
  return `${shown.replace(/\.0$/, '')}° ${isLeft ? 'left' : 'right'}`
}

/** How hard it is thrown, and where to: “85 %, 2° left”. */
export const armWords = ({ power, aimDeg }: LabThrown, fade: LeftOrRight): string =>
  `${powerWords(Math.round(100 * power) / 100)}${Math.abs(aimDeg) < 0.05 ? '' : `, ${aimWords(aimDeg, fade)}`}`

/** The spin against what goes with the speed. */
export const spinWords = (spin: number): string =>
  Math.round(100 * spin) === 100 ? 'usual spin' : `${percent(spin)} spin`

/** How much of the usual air there is: “7 % thinner”. */
export function airWords(weather: Weather): string {
  const more = Math.round(100 * (airOf(weather).densityKgM3 / REFERENCE_DENSITY - 1))
  return more === 0 ? 'usual air' : `${Math.abs(more)} % ${more > 0 ? 'thicker' : 'thinner'}`
}

export const labWindWords = (
  { windAlongMps, windTowardFadeMps }: Weather,
  fade: LeftOrRight,
  { speed }: Units,
) => blowsWords(windAlongMps, (fade === 'right' ? 1 : -1) * windTowardFadeMps, speed.show)

/** What may differ between two throws, as it is called. */
export const CHANGE_WORDS: Record<Change, string> = {
  disc: 'The disc',
  speed: 'The speed',
  angle: 'The angle',
  nose: 'The nose',
  launch: 'The launch',
  aim: 'The aim',
  spin: 'The spin',
  wind: 'The wind',
  air: 'The air',
}

/** How one throw stands in that. */
export function standsAs(
  { throw: t, weather }: OneThrow,
  change: Change,
  discName: string,
  fade: LeftOrRight,
  units: Units,
): string {
  switch (change) {
    case 'disc':
      return discName
    case 'speed':
      return `${powerWords(Math.round(100 * t.power) / 100)} of ${units.speed.show(t.armMps)}`
    case 'angle':
      return angleWords(t.hyzerDeg)
    case 'nose':
      return noseWords(t.noseDeg)
    case 'launch':
      return degrees(t.launchDeg)
    case 'aim':
      return aimWords(t.aimDeg, fade)
    case 'spin':
      return spinWords(t.spin)
    case 'wind':
      return labWindWords(weather, fade, units)
    case 'air':
      return `${units.temperature.show(weather.temperatureC, 0)}, ${units.length.show(weather.altitudeM, 0)} up`
  }
}
