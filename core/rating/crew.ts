import type { Body } from '../flight/disc.ts'
import { linearise } from './linear.ts'

/** A flight whose landing and derivatives are wanted: see {@link linearise}. */
export interface FlightJob {
  readonly speed: number
  readonly body: Body
  readonly densityKgM3: number
  readonly midX: number
  /** Where; clamped in place. */
  readonly at: Float64Array
  readonly seen: Float64Array
  readonly jacobian: Float64Array
}

/** Flies jobs, all of them before it returns: this thread alone, or with others that whoever starts the fit brings along. */
export type Crew = (jobs: readonly FlightJob[]) => void

export const alone: Crew = (jobs) => {
  for (const j of jobs) linearise(j.speed, j.body, j.densityKgM3, j.at, j.midX, j.seen, j.jacobian)
}
