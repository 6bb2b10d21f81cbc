import { z } from 'zod'
import { Id, Instant, oneOf } from './shelf.ts'

export const ERRAND_KINDS = ['copy', 'restore', 'merge', 'import'] as const
export const ERRAND_STATES = ['waiting', 'under-way', 'done', 'failed', 'cancelled'] as const

/** States of what is not over yet. */
export const isOpen = ({ state }: Pick<Errand, 'state'>): boolean =>
  state === 'waiting' || state === 'under-way'

/** Long work that somebody asked for, and how far it is. */
export const Errand = z.object({
  id: Id,
  kind: oneOf(ERRAND_KINDS),
  state: oneOf(ERRAND_STATES),
  stage: z.string(),
  done: z.number(),
  total: z.number(),
  said: z.string(),
  problems: z.array(z.string()),
})
export type Errand = z.infer<typeof Errand>

/** Why a copy was made; those of the day are thinned, the others stay until somebody deletes them. */
export const COPY_WORDS = {
  daily: 'daily',
  'by-hand': 'by hand',
  'before-a-restore': 'before a restore',
  'before-a-merge': 'before a merge',
} as const
export type CopyWhy = keyof typeof COPY_WORDS
export const COPY_WHYS = Object.keys(COPY_WORDS) as CopyWhy[]

/** A dated copy of everything. */
export const Copy = z.object({
  name: z.string(),
  why: oneOf(COPY_WHYS),
  at: Instant,
  bytes: z.number(),
  throws: z.int(),
})
export type Copy = z.infer<typeof Copy>

/** How much is free where something of this machine fills, and how much is missing for work to go on. */
export const Room = z.object({
  what: oneOf(['database', 'copies'] as const),
  folder: z.string(),
  freeBytes: z.number(),
  missingBytes: z.number(),
})
export type Room = z.infer<typeof Room>

/** Where the data are. */
export const Custody = z.object({
  database: z.object({
    /** Whether it was made and is started by this product. */
    builtIn: z.boolean(),
    version: z.string(),
    /** Host and name; never who opens it, or with what. */
    at: z.string(),
    bytes: z.number(),
    throws: z.int(),
  }),
  folder: z.string().nullable(),
  copies: z.array(Copy),
  /** What keeps copies from being made, where the last one failed. */
  trouble: z.string().nullable(),
  room: z.array(Room).default([]),
  underWay: z.array(Errand),
})
export type Custody = z.infer<typeof Custody>

/**
 * What of who may do what, or of what is public, a package says otherwise than it stands here. It stays as it is here, unless an
 * owner asks for it.
 */
export const CopyStanding = z.object({
  id: Id,
  what: oneOf(['person', 'page'] as const),
  name: z.string(),
  /** A role, “removed”, “public” or “not public”. */
  here: z.string(),
  there: z.string(),
})
export type CopyStanding = z.infer<typeof CopyStanding>
export const CopyStandings = z.array(CopyStanding)
/** Ids of what is to stand as in the package. */
export const Taken = z.object({ take: z.array(Id).max(5000).default([]) })

/** A package that is sent to be restored may be so large, bytes. */
export const PACKAGE_LIMIT = 4e9
