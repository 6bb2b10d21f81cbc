import { millisecondsInDay } from 'date-fns/constants'
import { createHash } from 'node:crypto'
import { windyDay } from '../../core/simulate/wind.ts'
import type { WindNow } from '../../core/simulate/wind.ts'

/** An anemometer beside the tee: a real one over radio would read the same way. */
export interface Anemometer {
  readonly name: string
  /** What it shows at a place at a point in time. */
  read(place: string, at: Date): WindNow
}

/** A number between 0 and 1 that stands for a name. */
export const gustSeed = (name: string): number =>
  createHash('sha256').update(name).digest().readUInt32BE(0) / 2 ** 32

/** A stand-in that blows through a made-up day; the same place and day have the same wind. */
export function simulatedAnemometer(): Anemometer {
  const days = new Map<string, (s: number) => WindNow>()
  return {
    name: 'Simulated anemometer',
    read(place, at) {
      const day = at.toISOString().slice(0, 10)
      const key = `${place}\n${day}`
      let wind = days.get(key)
      if (!wind) {
        days.clear()
        days.set(key, (wind = windyDay(gustSeed(key))))
      }
      const { speedMps, fromDeg } = wind((at.getTime() % millisecondsInDay) / 1000)
      return { speedMps: Math.round(10 * speedMps) / 10, fromDeg: Math.round(fromDeg) }
    },
  }
}
