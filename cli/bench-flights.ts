import { createRequire } from 'node:module'
import { randomLcg, randomUniform } from 'd3'
import { STANDARD_BODY, coefficientsOf } from '../core/flight/disc.ts'
import type { FlightNumbers } from '../core/flight/disc.ts'
import { REFERENCE_DENSITY } from '../core/flight/air.ts'
import type { Air } from '../core/flight/air.ts'
import { CARRY, flyStraight, MAX_STEPS, NO_LOG, SEEN, VEER } from '../core/flight/landing.ts'
import { deriveState, startState, STATE } from '../core/flight/path.ts'
import { referenceRelease, SPIN_PER_MPS } from '../core/flight/release.ts'
import { DEGREE } from '../core/flight/units.ts'
import type { Release } from '../core/flight/release.ts'

interface Case {
  readonly numbers: FlightNumbers
  readonly massKg: number
  readonly release: Release
  readonly air: Air
}

const NUMBERS: FlightNumbers = { speed: 9, glide: 5, turn: -1, fade: 2 }
/** Flights a chunk: the optimiser warms up on the first and keeps what it learnt. */
const CHUNK = 400

/** The mix the speed is stated for: a 9/5/−1/2 at 70–110 % power, ±20° of hyzer, ±4 m/s along. */
export function mixedFlights(count: number): Case[] {
  const uniform = randomUniform.source(randomLcg(0.5))
  const base = referenceRelease(NUMBERS.speed)
  const power = uniform(0.7, 1.1)
  const hyzer = uniform(-20 * DEGREE, 20 * DEGREE)
  const along = uniform(-4, 4)
  return Array.from({ length: count }, () => {
    const speedMps = base.speedMps * power()
    return {
      numbers: NUMBERS,
      massKg: STANDARD_BODY.massKg,
      release: { ...base, speedMps, spinRadps: SPIN_PER_MPS * speedMps, hyzerRad: hyzer() },
      air: { densityKgM3: REFERENCE_DENSITY, windAlongMps: along(), windTowardFadeMps: 0, shearExponent: 0 },
    }
  })
}

/** Everything plausible: light discs, strong headwinds, steep angles, every kind of disc. */
export function wideFlights(count: number): Case[] {
  const source = randomLcg(0.25)
  const between = (a: number, b: number) => randomUniform.source(source)(a, b)()
  return Array.from({ length: count }, () => {
    const speed = between(2, 14)
    const base = referenceRelease(speed)
    const speedMps = base.speedMps * between(0.7, 1.1)
    return {
      numbers: { speed, glide: between(2, 6), turn: between(-4, 1), fade: between(0, 5) },
      massKg: between(0.15, 0.18),
      release: {
        ...base,
        speedMps,
        spinRadps: SPIN_PER_MPS * speedMps,
        hyzerRad: between(-25, 25) * DEGREE,
        launchRad: between(4, 16) * DEGREE,
        noseRad: between(-2, 5) * DEGREE,
        azimuthRad: between(-4, 4) * DEGREE,
      },
      air: {
        densityKgM3: between(1.0, 1.34),
        windAlongMps: between(-6, 6),
        windTowardFadeMps: between(-3, 3),
        shearExponent: 0,
      },
    }
  })
}

/** The part of `odex` used here; the package ships no declarations. */
interface OdexSolver {
  absoluteTolerance: number
  relativeTolerance: number
  denseOutput: boolean
  denseComponents: number[]
  maxStepSize: number
  solve(
    f: (t: number, y: number[]) => number[],
    from: number,
    y0: number[],
    to: number,
    seen: (
      n: number,
      before: number,
      now: number,
      y: number[],
      dense: (j: number, t: number) => number,
    ) => boolean | void,
  ): unknown
}
const { Solver } = createRequire(import.meta.url)('odex') as { Solver: new (size: number) => OdexSolver }

/** The same flight by the ODE package `odex` (Gragg–Bulirsch–Stoer with dense output): landing [carry, veer]. */
export function odexLanding({ numbers, massKg, release, air }: Case, tolerance: number): [number, number] {
  const c = coefficientsOf(numbers)
  const body = { massKg, diameterM: STANDARD_BODY.diameterM }
  const s = new Float64Array(STATE)
  const d = new Float64Array(STATE)
  const solver = new Solver(STATE)
  solver.absoluteTolerance = tolerance
  solver.relativeTolerance = tolerance
  solver.denseOutput = true
  solver.denseComponents = [0, 1, 2]
  let found: [number, number] | undefined
  solver.solve(
    (t, y) => {
      s.set(y)
      deriveState(c, body, air, release.wobble, t, s, d)
      return [...d]
    },
    0,
    [...startState(release)],
    60,
    (n, before, now, y, dense) => {
      if (n === 1 || y[2]! > 0 || y[5]! >= 0) return
      let low = before
      let high = now
      for (let i = 0; i < 40; i++) {
        const middle = (low + high) / 2
        if (dense(2, middle) > 0) low = middle
        else high = middle
      }
      found = [dense(0, high), dense(1, high)]
      return false
    },
  )
  if (!found) throw new RangeError('odex: the disc does not come down')
  return found
}

const out = new Float64Array(SEEN)
const steps = new Float64Array(MAX_STEPS)

/** One flight through the inner loop; the result is left in `out`. */
function fly({ numbers, massKg, release: r, air }: Case): void {
  const c = coefficientsOf(numbers)
  // prettier-ignore
  flyStraight(
    c.cd0, c.cl0, c.cm0, c.cma, massKg, STANDARD_BODY.diameterM, air.densityKgM3, air.windAlongMps, air.windTowardFadeMps,
    r.speedMps, r.launchRad, r.hyzerRad, r.noseRad, r.azimuthRad, r.spinRadps, r.heightM, 0, out, steps, 0, NO_LOG,
  )
}

/** Best of several rounds of a timed call, in calls a second. */
function perSecond(count: number, rounds: number, run: (i: number) => void): number {
  let best = 0
  for (let k = 0; k < rounds; k++) {
    const start = performance.now()
    for (let from = 0; from < count; from += CHUNK) runChunk(from, Math.min(count, from + CHUNK), run)
    best = Math.max(best, (1000 * count) / (performance.now() - start))
  }
  return best
}
function runChunk(from: number, to: number, run: (i: number) => void): void {
  for (let i = from; i < to; i++) run(i)
}

/** Flights a second of the inner loop and of `odex` on the same flights, and both worst landing errors in metres. */
export function benchFlights(mixed = 40_000, few = 1_000, wide = 2_000) {
  const cases = mixedFlights(mixed)
  const perS = perSecond(mixed, 3, (i) => fly(cases[i]!))
  const perSOdex = perSecond(few, 2, (i) => odexLanding(cases[i]!, 1e-5))
  const worst = (list: Case[], landingOf: (c: Case) => [number, number]) =>
    Math.max(
      ...list.map((c) => {
        const [x, y] = odexLanding(c, 1e-10)
        const [a, b] = landingOf(c)
        return Math.hypot(a - x, b - y)
      }),
    )
  const fast = (c: Case): [number, number] => (fly(c), [out[CARRY]!, out[VEER]!])
  const sample = cases.slice(0, 500)
  return {
    perS,
    perSOdex,
    worstM: worst(sample, fast),
    worstOdexM: worst(sample, (c) => odexLanding(c, 1e-5)),
    worstWideM: worst(wideFlights(wide), fast),
  }
}
