import { randomLcg, randomNormal, range } from 'd3'

/** Wind at 1.8 m at an instant. */
export interface WindNow {
  readonly speedMps: number
  /** Compass bearing it blows from, degrees. */
  readonly fromDeg: number
}

interface Wave {
  readonly periodS: number
  readonly amplitude: number
  readonly phase: number
}

/** Turbulence between a breath and some minutes. */
const SHORTEST_S = 3
const LONGEST_S = 420
const WAVES = 28
/** Standard deviation of the wind as a share of its mean: over open grass. */
const INTENSITY = 0.22
/** A gust front passes about this often, lasts this long, and raises the wind by this share. */
const FRONT_EVERY_S = 900
const FRONT_S = 70
const FRONT_RISE = 0.55
/** The direction swings less than the strength, degrees. */
const SWING_DEG = 9
const HOUR_S = 3600

/** Amplitudes that fall with frequency as turbulence does: energy of a frequency goes with its −5/3 power. */
function waves(uniform: () => number): Wave[] {
  const ratio = LONGEST_S / SHORTEST_S
  const list = range(WAVES).map((i) => {
    const periodS = SHORTEST_S * ratio ** ((i + uniform()) / WAVES)
    // waves stand at even steps of log frequency, so each carries frequency × energy
    return { periodS, amplitude: periodS ** (1 / 3), phase: 2 * Math.PI * uniform() }
  })
  const variance = list.reduce((s, w) => s + w.amplitude ** 2 / 2, 0)
  return list.map((w) => ({ ...w, amplitude: w.amplitude / Math.sqrt(variance) }))
}

const at = (list: readonly Wave[], s: number) =>
  list.reduce((v, w) => v + w.amplitude * Math.sin((2 * Math.PI * s) / w.periodS + w.phase), 0)

/**
 * A made-up day of wind: a mean that rises toward the afternoon and veers slowly, turbulence with a falling spectrum, and gust
 * fronts. The same seed is the same day, whenever it is asked for.
 *
 * @param seed between 0 and 1
 * @returns the wind so many seconds after midnight
 */
export function windyDay(seed: number): (secondsOfDay: number) => WindNow {
  const uniform = randomLcg(seed)
  const normal = randomNormal.source(uniform)()
  const base = 1.4 + 2.2 * uniform()
  const from = 360 * uniform()
  const veerDegH = 4 * normal()
  const [strength, direction] = [waves(uniform), waves(uniform)]
  const fronts = range(96).map((i) => ({
    s: (i + uniform()) * FRONT_EVERY_S,
    rise: FRONT_RISE * (0.4 + uniform()),
  }))
  return (s) => {
    const sun = Math.max(0, Math.sin(((s / HOUR_S - 5) / 15) * Math.PI))
    const front = fronts.reduce((v, f) => v + f.rise * Math.exp(-(((s - f.s) / FRONT_S) ** 2)), 0)
    const mean = base * (0.6 + 0.6 * sun) * (1 + front)
    const turn = from + veerDegH * (s / HOUR_S - 12) + SWING_DEG * at(direction, s) + 12 * front
    return {
      speedMps: Math.max(0, mean * (1 + INTENSITY * at(strength, s))),
      fromDeg: ((turn % 360) + 360) % 360,
    }
  }
}
