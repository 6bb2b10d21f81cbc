import { randomNormal } from 'd3'

/** What a range finder says of a disc on the ground. */
export interface RangeReading {
  readonly distanceM: number
  /** From the aim line, to the right, degrees. */
  readonly bearingDeg: number
}

/** A range finder held at the tee: a real one over radio would answer the same way. */
export interface RangeFinder {
  readonly name: string
  measure(spot: { readonly downM: number; readonly rightM: number }): RangeReading
}

const DISTANCE_SD_M = 0.4
const BEARING_SD_DEG = 0.25

/** A stand-in with the errors of a handheld one. */
export function simulatedRangeFinder(uniform: () => number): RangeFinder {
  const normal = randomNormal.source(uniform)()
  return {
    name: 'Simulated range finder',
    measure: ({ downM, rightM }) => ({
      distanceM: Math.round(10 * (Math.hypot(downM, rightM) + DISTANCE_SD_M * normal())) / 10,
      bearingDeg:
        Math.round(10 * ((Math.atan2(rightM, downM) * 180) / Math.PI + BEARING_SD_DEG * normal())) / 10,
    }),
  }
}
