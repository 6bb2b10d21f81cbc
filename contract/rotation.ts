import { z } from 'zod'
import type { Lane, NamedJob } from '../core/rotation/board.ts'
import type { ShelfDisc } from '../core/rotation/carried.ts'
import { DISC_EVENTS, DISC_STATES } from '../core/rotation/life.ts'
import { PLASTIC_KINDS } from '../core/shelf/usualWear.ts'
import { SHEET_RANGE } from '../core/throw/ranges.ts'
import { WearNote } from './inspection.ts'
import { Day, Id, Instant, Note, oneOf } from './shelf.ts'
import { WearEstimate, WearLeaving, WearRange, WearUse } from './wear.ts'

const metres = z.number().min(-200, 'must be within 200 m').max(200, 'must be within 200 m')
const tolerance = z.number().min(0.2, 'must be at least 0.2 m').max(200, 'must be at most 200 m')
const [SLOWEST, FASTEST] = SHEET_RANGE.fullSpeedMps

/** A job discs do: a wanted flight by somebody's arm. */
export const JobRow = z.object({
  id: Id,
  name: z.string().trim().min(1, 'must be given').max(60, 'must be at most 60 characters'),
  throwerId: Id.nullable(),
  throwing: z.object({
    armMps: z.number().min(SLOWEST).max(FASTEST),
    hyzerDeg: z.number().min(-45).max(45),
    power: z.number().min(0.3, 'must be at least 30 %').max(1, 'must be at most 100 %'),
    windAlongMps: z.number().min(-15).max(15),
  }),
  wanted: z.object({ at60M: metres, finishM: metres, carryM: z.number().min(5).max(200) }),
  /** Either way, m; null where the carry does not matter. */
  within: z.object({ at60M: tolerance, finishM: tolerance, carryM: tolerance.nullable() }),
  rank: z.int(),
  removedAt: Instant.nullable(),
})
export type JobRow = z.infer<typeof JobRow>

/** Something in the life of a disc. */
export const DiscEvent = z.object({
  id: Id,
  discId: Id,
  day: Day,
  kind: oneOf(DISC_EVENTS),
  /** The job it is carried for from then on, of one that was moved; null for none. */
  jobId: Id.nullable(),
  note: Note,
  removedAt: Instant.nullable(),
})
export type DiscEvent = z.infer<typeof DiscEvent>

/** How a plastic wears, as far as is known without throwing it; its id is the plastic's. */
export const PlasticWear = z.object({
  id: Id,
  kind: oneOf(PLASTIC_KINDS),
  outOfMake: z.boolean(),
})
export type PlasticWear = z.infer<typeof PlasticWear>

const throws = z.number().nullable()
export const LaneDisc = z.object({
  discId: Id,
  assigned: z.boolean(),
  now: z.number(),
  best: z.object({ probability: z.number(), throws: z.number() }),
  enters: throws,
  leaves: WearLeaving,
  along: z.object({ now: z.number(), soon: z.number() }).nullable(),
  retest: throws,
})
export type LaneDisc = z.infer<typeof LaneDisc>

const Numbers = z.object({ speed: z.number(), glide: z.number(), turn: z.number(), fade: z.number() })

export const RotationDisc = z.object({
  id: Id,
  code: z.string(),
  maker: z.string(),
  mold: z.string(),
  plastic: z.string(),
  plasticId: Id,
  kind: oneOf(PLASTIC_KINDS),
  blend: z.string(),
  state: oneOf(DISC_STATES),
  jobId: Id.nullable(),
  spared: z.boolean(),
  outOfMake: z.boolean(),
  throws: z.number(),
  hardHits: z.number(),
  /** Throws a day, over the last year. */
  aDay: z.number(),
  /** What its numbers in force say, and what its throws do; null where nobody threw it. */
  published: Numbers,
  rated: z.object({ numbers: Numbers, covariance: z.array(z.number()).readonly() }).nullable(),
  /** Days it was tested: what it had been through by then, and how stable its throws alone say it flew. */
  tests: z
    .array(z.object({ use: WearUse, stability: WearEstimate, scatter: WearEstimate.nullable() }))
    .readonly(),
})
export type RotationDisc = z.infer<typeof RotationDisc>

/** The board: every job with the discs on their way through it. */
export const Board = z.object({
  jobs: z.array(JobRow),
  discs: z.array(RotationDisc),
  lanes: z.array(z.object({ jobId: Id, discs: z.array(LaneDisc) })),
  events: z.array(DiscEvent),
  /** What was noted of its discs, and is counted in what they have been through. */
  noted: z.array(WearNote),
  /** How much faster than usual blends wear, as re-tests say. */
  blends: z.array(WearRange.extend({ kind: oneOf(PLASTIC_KINDS), blend: z.string(), tests: z.int() })),
  /** Throws or test days are still being weighed. */
  weighing: z.boolean(),
  /** Discs and jobs that are otherwise than when the lanes were worked out; a device says so of what it has not sent. */
  changed: z.object({ discs: z.array(Id), jobs: z.array(Id) }).optional(),
})
export type Board = z.infer<typeof Board>

/** Whether a disc can be thrown: it is neither lost nor gone. */
export const isAtHand = ({ state }: Pick<RotationDisc, 'state'>): boolean =>
  state === 'here' || state === 'lent'

/** What a disc's flight is told by: its own numbers, or its label's. */
export const flyingNumbersOf = ({ rated, published }: Pick<RotationDisc, 'rated' | 'published'>) =>
  rated?.numbers ?? published

/** A disc of the board as its wear and its jobs are told. */
export const shelfDiscOf = ({ throws, hardHits, ...disc }: RotationDisc): ShelfDisc => ({
  id: disc.id,
  kind: disc.kind,
  blend: disc.blend,
  published: disc.published,
  rated: disc.rated,
  use: { throws, hardHits },
  tests: disc.tests,
})

/** A job as the core speaks of it. */
export const namedJob = ({ id, throwing, wanted, within }: JobRow): NamedJob => ({
  id,
  job: { throwing, wanted, within: { ...within, carryM: within.carryM ?? Infinity } },
})

/** A lane as it is sent, and as the core speaks of it. */
export const laneWritten = ({ jobId, discs }: Lane): Board['lanes'][number] => ({
  jobId,
  discs: discs.map(({ discId, assigned, prospect, along, retest }) => ({
    discId,
    assigned,
    ...prospect,
    along: along ?? null,
    retest,
  })),
})
export const laneRead = ({ jobId, discs }: Board['lanes'][number]): Lane => ({
  jobId,
  discs: discs.map(({ discId, assigned, along, retest, ...prospect }) => ({
    discId,
    assigned,
    retest,
    prospect,
    along: along ?? undefined,
  })),
})
