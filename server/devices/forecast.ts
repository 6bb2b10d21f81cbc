import { createHash } from 'node:crypto'
import { randomLcg, randomNormal } from 'd3'
import type { ForecastHour } from '../../core/plan/window.ts'

/** A weather service: hours of a day at a place. */
export interface WindForecast {
  readonly name: string
  day(place: string, day: string): readonly ForecastHour[]
}

/** Hours somebody would throw in. */
const FIRST_HOUR = 6
const LAST_HOUR = 19
/** The sun stands highest here, and is up so many hours before and after, less in winter. */
const NOON = 12.4
const HALF_DAY = 6.1
const HALF_DAY_SWING = 2.3
/** Wind wanders from hour to hour and comes back. */
const KEEPS = 0.82

/** A stand-in: the same place and day always have the same weather, with a breeze that rises toward the afternoon. */
export const simulatedForecast: WindForecast = {
  name: 'Forecast stand-in',
  day(place, day) {
    const hash = createHash('sha256').update(`${place}\n${day}`).digest()
    const uniform = randomLcg(hash.readUInt32BE(0) / 2 ** 32)
    const normal = randomNormal.source(uniform)()
    const month = Number(day.slice(5, 7))
    const season = -Math.cos(((month - 0.5) / 12) * 2 * Math.PI)
    const base = 1.6 + 2.4 * uniform()
    const from = 360 * uniform()
    const veer = 5 * normal()
    const wet = uniform() < 0.35
    let wander = 0
    let turn = 0
    const mildness = 3 * normal()
    const hours: ForecastHour[] = []
    for (let hour = FIRST_HOUR; hour <= LAST_HOUR; hour++) {
      wander = KEEPS * wander + 0.5 * normal()
      turn = KEEPS * turn + 9 * normal()
      const sun = Math.max(0, Math.sin(((hour - 5) / 15) * Math.PI))
      const windMps = Math.max(0.3, base * (0.55 + 0.7 * sun) + wander)
      hours.push({
        at: `${day}T${String(hour).padStart(2, '0')}:00:00`,
        daylight: Math.abs(hour + 0.5 - NOON) <= HALF_DAY + HALF_DAY_SWING * season - 0.5,
        windMps: tenth(windMps),
        gustMps: tenth(windMps * (1.3 + 0.35 * uniform()) + 0.3),
        fromDeg: Math.round((((from + veer * (hour - 12) + turn) % 360) + 360) % 360),
        temperatureC: tenth(10 + 8 * season + mildness + 4.5 * sun),
        rainMm: wet && uniform() < 0.4 ? tenth(1.4 * uniform()) : 0,
      })
    }
    return hours
  },
}

const tenth = (v: number) => Math.round(v * 10) / 10
