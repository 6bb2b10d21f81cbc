import { randomLcg, randomNormal } from 'd3'

/** One reading of a scale. */
export interface ScaleReading {
  readonly grams: number
  /** The needle has come to rest. */
  readonly steady: boolean
}

/** A scale a disc is put on: a real one over a serial line or radio would read the same way. */
export interface WeighingScale {
  readonly name: string
  /** What it can show, g. */
  readonly resolutionG: number
  /** Takes what it shows now for nothing. */
  tare(): void
  /** What it shows after so many seconds with a disc of this weight on it; null for nothing on it. */
  read(loadG: number | null, sinceS: number): ScaleReading
}

/** Time the needle takes to come to rest, s. */
const SETTLES_S = 0.3
/** A steady reading moves by less than its resolution. */
const STEADY_AFTER_S = 2.6
/** How far the zero wanders with each reading, g. */
const DRIFT_G = 0.004

/** A stand-in: swings in, rounds to its resolution, and its zero drifts, so that it wants to be tared now and then. */
export function simulatedScale(seed: number, resolutionG = 0.1): WeighingScale {
  const normal = randomNormal.source(randomLcg(seed))()
  let zeroG = 0
  let tareG = 0
  return {
    name: 'Simulated kitchen scale',
    resolutionG,
    tare: () => void (tareG = zeroG),
    read(loadG, sinceS) {
      zeroG += DRIFT_G * normal()
      const swing = Math.exp(-sinceS / SETTLES_S) * Math.cos(2 * Math.PI * 1.6 * sinceS)
      const shown = (loadG ?? 0) * (1 - swing) + zeroG - tareG + 0.02 * normal()
      return {
        grams: Number((Math.round(shown / resolutionG) * resolutionG).toFixed(3)),
        steady: sinceS >= STEADY_AFTER_S,
      }
    },
  }
}
