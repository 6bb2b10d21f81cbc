import type { ThrowPath } from './trials.ts'

/** What an anemometer beside the tee shows, in the frame of the aim line on the way out. */
export interface WindReport {
  /** What said it, a stand-in or not. */
  readonly device: string
  /** ISO 8601. */
  readonly at: string
  readonly speedMps: number
  readonly fromDeg: number
  readonly alongMps: number
  readonly acrossMps: number
}

/** Where a range finder says a disc lies. */
export interface RangeReport {
  readonly device: string
  readonly range: { readonly distanceM: number; readonly bearingDeg: number }
  readonly carryM: number
  readonly rightM: number
}

/** What was seen of a throw that a volunteer made. */
export interface VolunteerReport extends Omit<RangeReport, 'device'> {
  readonly hangS: number
  readonly hyzerCalledDeg: number
  readonly path: ThrowPath
}
