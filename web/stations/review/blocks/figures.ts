import type { Figure } from '../../../../core/judge/answers/answer.ts'
import type { Units } from '../../../data/units.ts'

/** A figure of an answer as it stands in a sentence, in the reader’s units, with its interval where it has one. */
export function figureWords({ value, low, high, unit }: Figure, { length, speed }: Units): string {
  const shown = (v: number): string =>
    unit === 'm' || unit.startsWith('m per')
      ? length.to(v).toFixed(1)
      : unit === 'm/s'
        ? speed.to(v).toFixed(1)
        : v.toFixed(unit === '%' ? 0 : 1)
  const minus = (text: string) => text.replace('-', '−')
  const named =
    unit === 'm' || unit.startsWith('m per')
      ? ` ${length.unit}`
      : unit === 'm/s'
        ? ` ${speed.unit}`
        : unit === ''
          ? ''
          : ` ${unit}`
  const range =
    low === undefined || high === undefined ? '' : ` (${minus(shown(low))} to ${minus(shown(high))})`
  return `${minus(shown(value))}${named}${range}`
}
