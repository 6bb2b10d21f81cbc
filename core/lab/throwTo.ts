import { DEGREE } from '../flight/units.ts'
import { labFlightOf } from './flight.ts'
import type { FieldPlace } from './field.ts'
import type { LabThrow, Setup } from './setup.ts'

/** Least power of a throw, and how far aside of the line anybody aims, degrees. */
export const LEAST_POWER = 0.3
export const FARTHEST_AIM_DEG = 45
/** The carry grows with about this power of the speed, and always with one between these. */
const CARRY_GROWS = 1.35
const LEAST_GROWTH = 0.6
const MOST_GROWTH = 4
/** So often power and aim are corrected by what is still missing; each time most of it goes. */
const ROUNDS = 12

const clamp = (v: number, low: number, high: number) => Math.max(low, Math.min(high, v))

/**
 * How much power and which aim bring a throw to a place, all else as it is; the nearest there is where the arm does not throw
 * that far.
 */
export function throwTo(setup: Setup, place: FieldPlace): LabThrow {
  const wanted = Math.hypot(place.downM, place.sideM)
  const bearing = Math.atan2(place.sideM, place.downM)
  let meant = setup.throw
  let grows = CARRY_GROWS
  let before: { readonly power: number; readonly far: number } | undefined
  for (let round = 0; round < ROUNDS; round++) {
    const flight = labFlightOf({ ...setup, throw: meant })
    if (!flight) break
    const { downM, sideM } = flight.landed
    const far = Math.max(1, Math.hypot(downM, sideM))
    if (before && Math.abs(before.power - meant.power) > 1e-6)
      grows = clamp(
        Math.log(far / before.far) / Math.log(meant.power / before.power),
        LEAST_GROWTH,
        MOST_GROWTH,
      )
    before = { power: meant.power, far }
    meant = {
      ...meant,
      power: clamp(meant.power * (wanted / far) ** (1 / grows), LEAST_POWER, 1),
      aimDeg: clamp(
        meant.aimDeg + (bearing - Math.atan2(sideM, downM)) / DEGREE,
        -FARTHEST_AIM_DEG,
        FARTHEST_AIM_DEG,
      ),
    }
  }
  return meant
}
