import { STILL_AIR } from '../flight/air.ts'
import { fullSpeedWith } from '../flight/arm.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import { landing } from '../flight/landing.ts'
import { cleanRelease, referenceSpeed } from '../flight/release.ts'

/**
 * How far a disc carries by its numbers, m, thrown flat in still air by an arm (V₉, m/s); at its own reference
 * speed where the arm's is not known.
 *
 * @param power share of full power
 */
export function expectedCarry(
  numbers: FlightNumbers,
  body: Body,
  armMps: number | null,
  power: number,
): number {
  const speed =
    power * (armMps === null ? referenceSpeed(numbers.speed) : fullSpeedWith(armMps, numbers.speed))
  return landing(numbers, body, cleanRelease(speed, 0), STILL_AIR).carryM
}
