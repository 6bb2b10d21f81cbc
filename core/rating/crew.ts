import { linearise } from './linear.ts'
import type { Circumstances } from './linear.ts'

/** A flight whose landing and derivatives are wanted: see {@link linearise}. */
export interface FlightJob extends Circumstances {
  /** Where; clamped in place. */
  readonly at: Float64Array
  readonly seen: Float64Array
  readonly jacobian: Float64Array
}

/** Flies jobs, all of them before it returns: this thread alone, or with others that whoever starts the fit brings along. */
export type Crew = (jobs: readonly FlightJob[]) => void

export const onThisThread: Crew = (jobs) => {
  for (const job of jobs) linearise(job, job.at, job.seen, job.jacobian)
}
