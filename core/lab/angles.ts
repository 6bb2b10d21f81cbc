import { labFlightOf } from './flight.ts'
import type { LabFlight } from './flight.ts'
import type { Setup } from './setup.ts'

/** Angles that somebody looks for, degrees of hyzer; null where none does it. */
export interface Angles {
  /** The steepest hyzer from which the disc stands up until it flies flat. */
  readonly standsUp: number | null
  /** From which it finishes on the aim line, thrown along it; of several the flattest. */
  readonly onLine: number | null
  /** The steepest anhyzer from which it still flexes back and comes down tilted to the fade side. */
  readonly flexes: number | null
}

/** Steepest angle that is looked at, degrees, and the steps in which it is. */
const STEEPEST = 40
const STEP = 2
/** Tilted less a disc flies flat, and more it has come back, degrees. */
const FLAT = 1
/** What stands up by less was flat all along, degrees. */
const STANDS = 1
const BACK = 3

/** Which angles of release make a disc stand up, finish on the line, and flex back. */
export function anglesOf(setup: Setup): Angles {
  const thrown = (hyzerDeg: number) =>
    labFlightOf({ ...setup, throw: { ...setup.throw, hyzerDeg, aimDeg: 0 } })
  const tried: { hyzerDeg: number; flight: LabFlight }[] = []
  for (let hyzerDeg = -STEEPEST; hyzerDeg <= STEEPEST; hyzerDeg += STEP) {
    const flight = thrown(hyzerDeg)
    if (flight) tried.push({ hyzerDeg, flight })
  }
  /** Where something of the flight passes through nothing between two angles, halved until it hardly matters. */
  const between = (low: number, high: number, of: (flight: LabFlight) => number): number => {
    let [a, b] = [low, high]
    const isBelow = of(thrown(a)!) <= 0
    for (let i = 0; i < 6; i++) {
      const middle = (a + b) / 2
      const flight = thrown(middle)
      if (flight && of(flight) <= 0 === isBelow) a = middle
      else b = middle
    }
    return (a + b) / 2
  }
  const crossings = (of: (flight: LabFlight) => number) =>
    tried.flatMap(({ hyzerDeg, flight }, i) => {
      const next = tried[i + 1]
      return next && of(flight) <= 0 !== of(next.flight) <= 0 ? [between(hyzerDeg, next.hyzerDeg, of)] : []
    })
  const flattest = (f: LabFlight) => Math.min(...f.tiltDeg) - FLAT
  const end = (f: LabFlight) => BACK - f.tiltDeg.at(-1)!
  const lines = crossings((f) => f.landed.sideM)
  return {
    standsUp:
      crossings(flattest)
        .filter((a) => a > FLAT + STANDS)
        .at(-1) ?? null,
    onLine: lines.length === 0 ? null : lines.reduce((a, b) => (Math.abs(b) < Math.abs(a) ? b : a)),
    flexes: crossings(end).filter((a) => a < 0)[0] ?? null,
  }
}
