import { FOOT, MPH } from '../../core/flight/units.ts'
import type { Preferences } from '../../contract/preferences.ts'
import type { LeftOrRight } from '../../core/flight/hand.ts'
import { sideWord } from '../../core/judge/statements.ts'
import type { Wording } from '../../core/judge/statements.ts'

export { percent } from '../../core/judge/statements.ts'
export { aimedWords, angleWords, powerWords } from '../../core/throw/words.ts'

/** One measure in the unit a user likes; everything is stored metric. */
export interface Measure {
  readonly unit: string
  readonly show: (metric: number, digits?: number) => string
  /** Number in the user's unit. */
  readonly to: (metric: number) => number
  /** Metric value of a number in the user's unit. */
  readonly from: (shown: number) => number
}
export interface Units {
  readonly kind: Preferences['units']
  readonly length: Measure
  readonly speed: Measure
  readonly temperature: Measure
}

/** A figure as people read it: a real minus sign, no minus zero. */
export function figure(value: number, digits: number): string {
  const s = value.toFixed(digits)
  return (Number(s) === 0 ? s.replace('-', '') : s).replace('-', '−')
}

const measure = (unit: string, factor: number, offset = 0): Measure => ({
  unit,
  to: (m) => m * factor + offset,
  from: (s) => (s - offset) / factor,
  show: (m, digits = 1) => `${figure(m * factor + offset, digits)} ${unit}`,
})

const METRIC: Units = {
  kind: 'metric',
  length: measure('m', 1),
  speed: measure('m/s', 1),
  temperature: measure('°C', 1),
}
const IMPERIAL: Units = {
  kind: 'imperial',
  length: measure('ft', 1 / FOOT),
  speed: measure('mph', 1 / MPH),
  temperature: measure('°F', 1.8, 32),
}

export const unitsOf = (kind: Preferences['units']): Units => (kind === 'imperial' ? IMPERIAL : METRIC)

/** The measure for a figure that is stored in some unit; as it is where users have no other. */
export function measureOf(units: Units, unit: string): Pick<Measure, 'unit' | 'to' | 'from'> {
  if (unit === 'm') return units.length
  if (unit === 'm/s') return units.speed
  if (unit === '°C') return units.temperature
  return { unit, to: (v) => v, from: (v) => v }
}

/** Distance off the aim line with its side: “24.1 m left”. */
export function aside(units: Units, rightM: number, digits = 1): string {
  const shown = units.length.to(Math.abs(rightM)).toFixed(digits)
  return Number(shown) === 0
    ? 'on the line'
    : `${shown} ${units.length.unit} ${rightM > 0 ? 'right' : 'left'}`
}

/** Distance to the fade side as figures of a table say it, without its unit: “8.6 left”, of throws that fade both ways “8.6 fade”. */
export function besideLine({ length }: Units, toFadeM: number, fadeSide: LeftOrRight | undefined): string {
  const shown = length.to(Math.abs(toFadeM)).toFixed(1)
  return Number(shown) === 0 ? 'on the line' : `${shown} ${sideWord(fadeSide, toFadeM > 0)}`
}

/** Wind along the line as a table has it, without its unit: “2.5 head”. */
export const windWords = (alongMps: number, to: (v: number) => number): string =>
  `${figure(Math.abs(to(alongMps)), 1)} ${alongMps < 0 ? 'head' : 'tail'}`

/** Flight numbers as a line: 9 / 5 / −1 / 2. */
export const numbersLine = (n: { speed: number; glide: number; turn: number; fade: number }): string =>
  [n.speed, n.glide, n.turn, n.fade].map((v) => String(v).replace('-', '−')).join(' / ')

/** To halves, as numbers are printed. */
export const halves = (v: number): number => Math.round(v * 2) / 2 + 0

/** How discs and lengths are called in sentences. */
export const wordingOf = ({ length, speed }: Units, name: (code: string) => string): Wording => ({
  name,
  length: length.show,
  figure: (m) => length.to(m).toFixed(1),
  speed: (mps) => speed.show(mps, 0),
})
