import { DEGREE } from '../flight/units.ts'
import { deviation, mean } from 'd3'

/** An hour of a forecast. */
export interface ForecastHour {
  /** ISO 8601, in the time of the place. */
  readonly at: string
  readonly daylight: boolean
  readonly windMps: number
  readonly gustMps: number
  /** Compass bearing it blows from, degrees. */
  readonly fromDeg: number
  readonly temperatureC: number
  readonly rainMm: number
}

/** What a question wants of the wind. */
export type Wish = 'calmest' | 'steadiest'

export interface Window {
  readonly from: number
  /** Hours it takes up. */
  readonly hours: number
  readonly windMps: number
  readonly gustMps: number
  /** Mean components along and across the aim line; along is positive from behind. */
  readonly alongMps: number
  readonly acrossMps: number
  readonly temperatureC: number
  readonly rainMm: number
}

/** Wind along an aim line, positive from behind, and across it, positive toward the thrower’s right, m/s. */
export function alongAim(
  windMps: number,
  fromDeg: number,
  bearingDeg: number,
): { readonly alongMps: number; readonly acrossMps: number } {
  const toward = (fromDeg + 180 - bearingDeg) * DEGREE
  return { alongMps: windMps * Math.cos(toward), acrossMps: windMps * Math.sin(toward) }
}

/** A millimetre of rain weighs as much as this much wind, m/s. */
const RAIN_WEIGHS = 3
/** A wind along the line weaker than this shows too little. */
const ENOUGH_ALONG = 2

/**
 * The best run of hours for a question: the calmest, gusts and rain counted in; or the one in which the wind blows along
 * the aim line most steadily, strongly enough to show what it does.
 *
 * @param hours of one day, one after another
 * @param bearingDeg of the aim line
 * @param take hours needed
 * @returns undefined where the day has fewer hours of daylight on end than are needed
 */
export function bestWindow(
  hours: readonly ForecastHour[],
  bearingDeg: number,
  take: number,
  wish: Wish,
): Window | undefined {
  let best: { window: Window; score: number } | undefined
  for (let from = 0; from + take <= hours.length; from++) {
    const own = hours.slice(from, from + take)
    if (!own.every((h) => h.daylight)) continue
    const of = (key: (h: ForecastHour) => number) => mean(own, key)!
    const parts = own.map((h) => alongAim(h.windMps, h.fromDeg, bearingDeg))
    const window: Window = {
      from,
      hours: take,
      windMps: of((h) => h.windMps),
      gustMps: Math.max(...own.map((h) => h.gustMps)),
      alongMps: mean(parts, (p) => p.alongMps)!,
      acrossMps: mean(parts, (p) => p.acrossMps)!,
      temperatureC: of((h) => h.temperatureC),
      rainMm: own.reduce((s, h) => s + h.rainMm, 0),
    }
    const gustiness = of((h) => h.gustMps - h.windMps)
    const score =
      RAIN_WEIGHS * window.rainMm +
      (wish === 'calmest'
        ? window.windMps + 0.5 * gustiness
        : mean(parts, (p) => Math.abs(p.acrossMps))! +
          gustiness +
          (deviation(parts, (p) => p.alongMps) ?? 0) +
          2 * Math.max(0, ENOUGH_ALONG - Math.abs(window.alongMps)))
    if (!best || score < best.score - 1e-12) best = { window, score }
  }
  return best?.window
}
