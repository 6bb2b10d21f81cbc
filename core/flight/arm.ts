import { STILL_AIR } from './air.ts'
import { STANDARD_BODY } from './disc.ts'
import type { FlightNumbers } from './disc.ts'
import { landing } from './landing.ts'
import { cleanRelease, referenceSpeed } from './release.ts'

/**
 * An arm is its full-power release speed with a disc of speed number 9, V₉. With another disc its full power is
 * V(S) = V₉·exp(b·(S − 9)): a slow, deep disc leaves the hand a few per cent slower.
 */
export const ARM_SPEED_NUMBER = 9
/** The usual b, per speed number. */
export const ARM_SLOPE = 0.009
/** V₉ of the arm whose full power with a disc of speed 9 is that disc's reference release, m/s. */
export const REFERENCE_ARM_MPS = referenceSpeed(ARM_SPEED_NUMBER)

/** ln of how much faster an arm throws a disc of some speed number than one of speed 9. */
export const lnOfClass = (speedNumber: number, slope = ARM_SLOPE): number =>
  slope * (speedNumber - ARM_SPEED_NUMBER)

/** Full-power release speed, m/s, of an arm of V₉ with a disc of some speed number. */
export const fullSpeedWith = (armMps: number, speedNumber: number, slope = ARM_SLOPE): number =>
  armMps * Math.exp(lnOfClass(speedNumber, slope))

/** V₉, m/s, of an arm whose full power with a disc of some speed number was measured: the inverse of {@link fullSpeedWith}. */
export const armOfSpeed = (measuredMps: number, speedNumber: number): number =>
  measuredMps / Math.exp(lnOfClass(speedNumber))

/** Arms between which one is looked for, m/s. */
const SLOWEST = 8
const FASTEST = 45

/**
 * V₉, m/s, of the arm that carries a disc so far, m, thrown flat and cleanly in still reference air at full power.
 *
 * @returns undefined where no arm between 8 and 45 m/s does
 */
export function armOfCarry(numbers: FlightNumbers, carryM: number): number | undefined {
  const carried = (arm: number) =>
    landing(numbers, STANDARD_BODY, cleanRelease(fullSpeedWith(arm, numbers.speed)), STILL_AIR).carryM
  let [low, high] = [SLOWEST, FASTEST]
  if (!(carryM >= carried(low) && carryM <= carried(high))) return undefined
  while (high - low > 1e-4) {
    const middle = (low + high) / 2
    if (carried(middle) < carryM) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** A usual disc of each class most people have thrown: how far it goes, flat in calm air, says how fast an arm is. */
export const USUAL_DISCS = {
  putter: { speed: 2, glide: 3, turn: 0, fade: 1 },
  midrange: { speed: 5, glide: 5, turn: -1, fade: 1 },
  'fairway-driver': { speed: 7, glide: 5, turn: -1, fade: 2 },
  'distance-driver': { speed: 12, glide: 5, turn: -1, fade: 3 },
} as const satisfies Record<string, FlightNumbers>
export type UsualDisc = keyof typeof USUAL_DISCS
