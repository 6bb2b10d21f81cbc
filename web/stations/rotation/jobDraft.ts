import { JobRow } from '../../../contract/rotation.ts'
import { REFERENCE_ARM_MPS } from '../../../core/flight/arm.ts'
import type { FlightNumbers } from '../../../core/flight/disc.ts'
import { flownBy } from '../../../core/rotation/job.ts'
import type { JobFlight } from '../../../core/rotation/job.ts'

/** Near enough where nothing else is said, m. */
const USUAL_WITHIN = { at60M: 3, finishM: 7, carryM: 10 }
const FLAT = { hyzerDeg: 0, power: 1, windAlongMps: 0 }

/** A disc whose flight is wanted. */
export interface JobLike {
  readonly id: string
  readonly numbers: FlightNumbers
}

/** A job that is being written down. */
export interface JobDraft {
  readonly row: JobRow
  /** The disc its flight is taken from; undefined where it is drawn by hand. */
  readonly like: JobLike | undefined
  /** What is wrong with it, by field, once it was to be kept. */
  readonly wrong: Readonly<Record<string, string>>
}

export type JobEvent =
  | { readonly did: 'named'; readonly name: string }
  | { readonly did: 'chose arm'; readonly thrower: { readonly id: string; readonly mps: number } | undefined }
  | { readonly did: 'chose disc'; readonly like: JobLike | undefined }
  | { readonly did: 'threw otherwise'; readonly change: Partial<JobRow['throwing']> }
  | { readonly did: 'drew'; readonly wanted: JobFlight }
  | {
      readonly did: 'measured'
      readonly of: 'wanted' | 'within'
      readonly part: keyof JobFlight
      /** m; null where nothing is written. */
      readonly m: number | null
    }
  | { readonly did: 'found wrong'; readonly wrong: Readonly<Record<string, string>> }

/** The job that is changed, or a new one. @param rank its place on the board */
export const draftFrom = (id: string, rank: number, job: JobRow | undefined): JobDraft => ({
  row: job ?? {
    id,
    name: '',
    throwerId: null,
    throwing: { armMps: REFERENCE_ARM_MPS, ...FLAT },
    wanted: { at60M: 0, finishM: 5, carryM: 90 },
    within: USUAL_WITHIN,
    rank,
    removedAt: null,
  },
  like: undefined,
  wrong: {},
})

/** To half a metre: nobody wants a flight closer. */
function rounded({ at60M, finishM, carryM }: JobFlight): JobRow['wanted'] {
  const to = (v: number) => Math.round(2 * v) / 2 + 0
  return { at60M: to(at60M), finishM: to(finishM), carryM: to(carryM) }
}

/** Thrown in some way, the disc it is taken from flies elsewhere. */
function thrownAs(draft: JobDraft, throwing: JobRow['throwing'], like = draft.like): JobDraft {
  const flown = like && flownBy(like.numbers, throwing)
  return { ...draft, like, row: { ...draft.row, throwing, ...(flown && { wanted: rounded(flown) }) } }
}

/** The draft after something was done to it. */
export function jobAfter(draft: JobDraft, event: JobEvent): JobDraft {
  const { row } = draft
  switch (event.did) {
    case 'named':
      return { ...draft, row: { ...row, name: event.name } }
    case 'chose arm': {
      const armMps = event.thrower?.mps ?? REFERENCE_ARM_MPS
      const next = thrownAs(draft, { ...row.throwing, armMps })
      return { ...next, row: { ...next.row, throwerId: event.thrower?.id ?? null } }
    }
    case 'chose disc':
      return thrownAs({ ...draft, like: undefined }, row.throwing, event.like)
    case 'threw otherwise':
      return thrownAs(draft, { ...row.throwing, ...event.change })
    case 'drew':
      return { ...draft, like: undefined, row: { ...row, wanted: rounded(event.wanted) } }
    case 'measured':
      return { ...draft, row: { ...row, [event.of]: { ...row[event.of], [event.part]: event.m } } }
    case 'found wrong':
      return { ...draft, wrong: event.wrong }
  }
}

/** The job as it can be kept, or what is wrong with it by field. */
export function readJob({
  row,
}: JobDraft): { readonly row: JobRow } | { readonly wrong: Readonly<Record<string, string>> } {
  const read = JobRow.safeParse(row)
  return read.success
    ? { row: read.data }
    : { wrong: Object.fromEntries(read.error.issues.map((i) => [i.path.join('.'), i.message])) }
}
