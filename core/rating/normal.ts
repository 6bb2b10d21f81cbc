import { errorFunction } from 'simple-statistics'

/** Cumulative probability of the standard normal distribution, to about 1e-7. */
export const normalCdf = (z: number): number => (z === 0 ? 0.5 : 0.5 * (1 + errorFunction(z / Math.SQRT2)))
