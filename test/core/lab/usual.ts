import type { LabThrow } from '../../../core/lab/setup.ts'

/** A throw of a usual arm, flat, at full power and on the line. */
export const USUAL: LabThrow = {
  armMps: 26,
  power: 1,
  hyzerDeg: 0,
  noseDeg: 0,
  launchDeg: 10.4,
  aimDeg: 0,
  spin: 1,
  scatter: 1,
}
