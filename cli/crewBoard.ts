import { POINT } from '../core/rating/places.ts'
import { SEEN } from '../core/rating/linear.ts'

/** What two threads of a crew share: flags to wake each other by, and a sheet of figures a job writes its flight on. */
export interface CrewBoard {
  readonly flags: Int32Array
  readonly figures: Float64Array
}

/** Places of the flags: which turn was called, how many jobs it has, which turn is done. */
export const BOARD = { turn: 0, count: 1, done: 2, length: 3 } as const
/** Places of a job's figures; the point is {@link POINT} of them. */
export const JOB = {
  speed: 0,
  massKg: 1,
  diameterM: 2,
  densityKgM3: 3,
  midX: 4,
  spinRadps: 5,
  point: 6,
} as const
const ASKED = JOB.point + POINT
const A_JOB = ASKED + SEEN + SEEN * POINT
/** Jobs a turn at most. */
export const MOST_JOBS = 8192

export const emptyBoard = (): CrewBoard => ({
  flags: new Int32Array(new SharedArrayBuffer(BOARD.length * Int32Array.BYTES_PER_ELEMENT)),
  figures: new Float64Array(new SharedArrayBuffer(MOST_JOBS * A_JOB * Float64Array.BYTES_PER_ELEMENT)),
})

/** Where job `i` stands: what is asked, and what is answered. */
export function boardPlaces(figures: Float64Array, i: number) {
  const from = i * A_JOB
  return {
    job: figures.subarray(from, from + ASKED),
    seen: figures.subarray(from + ASKED, from + ASKED + SEEN),
    jacobian: figures.subarray(from + ASKED + SEEN, from + A_JOB),
  }
}
