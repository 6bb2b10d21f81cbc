import fc from 'fast-check'
import type { FlightNumbers } from '../../../core/flight/disc.ts'

export const between = (min: number, max: number) => fc.double({ min, max, noNaN: true })

/** Any disc somebody might sell. */
export const numbers: fc.Arbitrary<FlightNumbers> = fc.record({
  speed: between(2, 14),
  glide: between(2, 6),
  turn: between(-4, 0.5),
  fade: between(0, 4.5),
})
