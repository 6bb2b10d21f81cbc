import type { Forecast } from '../../../core/judge/forecast.ts'
import type { Spot, StripProps } from '../../strip/Strip.tsx'

/** How much of the field a strip shows. */
export type Reach = StripProps['reach']

/** Looking closer shows so many standard deviations around what is looked at, and at least so many metres. */
const CLOSER = { sds: 2.2, least: 9 }
/** Ground beyond what has to be seen, m each side; and the least that is shown of a field, m. */
const MARGIN_M = 4
const LEAST = { downM: 50, sideM: 12 }
/** As far as a field is shown before anything is expected on it, m. */
const UNKNOWN_M = 80

/** What has to be seen on the field. */
interface OnTheField {
  readonly forecast: Forecast | undefined
  readonly expected: Spot | undefined
  readonly landed: Spot | null
  readonly earlier: readonly { readonly carryM: number; readonly rightM: number }[]
}

/** The field that holds everything on it: what is expected with its scatter, what has landed now and before. */
export function wholeField({ forecast, expected, landed, earlier }: OnTheField): Reach {
  const spread = forecast ? CLOSER.sds * Math.sqrt(forecast.covariance[2]) : 0
  const lefts = [
    ...(expected ? [expected.left + spread, expected.left - spread] : []),
    ...(landed ? [landed.left] : []),
    ...earlier.map((t) => -t.rightM),
  ]
  const downs = [
    forecast ? forecast.carryM + 2 * Math.sqrt(forecast.covariance[0]) : UNKNOWN_M,
    ...(landed ? [landed.down] : []),
    ...earlier.map((t) => t.carryM),
  ]
  return {
    down: 1.08 * Math.max(LEAST.downM, ...downs),
    left: Math.max(LEAST.sideM, ...lefts) + MARGIN_M,
    right: Math.max(LEAST.sideM, ...lefts.map((l) => -l)) + MARGIN_M,
  }
}

/** A field that was shown stays as it is while it holds what has to be seen: grown to whole tens and fives, never drawn in. */
export function stillShown(shown: Reach, needed: Reach): Reach {
  const isWhole = shown.down >= needed.down && shown.left >= needed.left && shown.right >= needed.right
  if (isWhole) return shown
  const grown = (key: 'down' | 'left' | 'right', step: number) =>
    shown[key] >= needed[key] ? shown[key] : step * Math.ceil(needed[key] / step)
  return { down: grown('down', 10), left: grown('left', 5), right: grown('right', 5) }
}

/** The field around one spot, as wide as throws scatter there. */
export function closer(at: Spot, forecast: Forecast | undefined): Reach {
  const half = (variance: number | undefined) => Math.max(CLOSER.least, CLOSER.sds * Math.sqrt(variance ?? 0))
  const [along, across] = [half(forecast?.covariance[0]), half(forecast?.covariance[2])]
  return {
    from: Math.max(0, at.down - along),
    down: at.down + along,
    left: at.left + across,
    right: across - at.left,
  }
}
