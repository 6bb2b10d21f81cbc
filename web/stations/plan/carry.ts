import { gramsOf } from '../../../contract/sheet.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease, referenceSpeed } from '../../../core/flight/release.ts'

/** How far a disc carries by its numbers, thrown flat in still air by this arm; at its own speed where the arm's is not known. */
export function expectedCarry(d: ShelvedDisc, fullMps: number | null, power: number): number {
  const grams = gramsOf(d.disc)
  const body = grams === null ? STANDARD_BODY : { ...STANDARD_BODY, massKg: grams / 1000 }
  const { numbers } = d.inForce
  const speed = power * (fullMps ?? referenceSpeed(numbers.speed))
  return landing(numbers, body, cleanRelease(speed, 0), STILL_AIR).carryM
}
