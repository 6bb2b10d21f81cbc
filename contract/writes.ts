import { z } from 'zod'
import type { Role } from './roles.ts'
import { DrillAnswer } from './drill.ts'
import { Inspection, WearNote } from './inspection.ts'
import { PhotoRow } from './photo.ts'
import { Preferences } from './preferences.ts'
import { DiscEvent, JobRow, PlasticWear } from './rotation.ts'
import { Disc, DiscEntry, Maker, Mold, Plastic, Run, ShelfEdit } from './shelf.ts'
import { Review, ReviewPhoto, ReviewSection } from './reviews.ts'
import { Place, Session, ShortThrow, Throw, Thrower, Trial, WindLog } from './trials.ts'

/**
 * Version of what crosses the wire: raised when a row changes its shape, so that a page and a server of different days know
 * it. Every request of the app and every answer to it carries it.
 */
export const WIRE = 4
/** Versions the server takes: its own, and the one before, of pages that have not updated themselves yet. */
export const ACCEPTED_WIRES: readonly number[] = [WIRE - 1, WIRE]
export const WIRE_HEADER = 'X-Veer-Wire'

export type Moves = 'throws' | 'trial' | 'shelf'

/** What is known of a kind of row. */
interface Kind {
  /** The schema of a row, which is also that of the answer. */
  readonly row: z.ZodType<{ id: string }>
  /** Who may write it. */
  readonly by: Role
  /** What one is called, and several. */
  readonly called: readonly [string, string]
  /** The address of the list its rows are in; else what shows them needs them its own way, or nothing shows them. */
  readonly shown: `/api/${string}` | 'its own way' | null
  /** What may have to be weighed again for it: as throws are, the card of its trial, or whatever discs and people bear on. */
  readonly moves?: Moves
  /** Whether rows are counted by version: what is stored differs from what was sent. */
  readonly versioned?: true
  /** Whether it is of no concern to others. */
  readonly quiet?: true
}

/**
 * Everything that can be written, kind by kind. A row is put at {@link addressOf} its kind and id; written twice it is the same
 * write. Server routes, who may use them, the queue, what waits in it by name and what is laid over readings meanwhile are all
 * made from this table; how a further kind is stored is asked for by the compiler in `server/store/writes.ts`, and what shows it,
 * where no list does, in `web/data/outbox.ts`.
 */
export const WRITES = {
  preferences: {
    row: Preferences,
    by: 'reader',
    called: ['change of settings', 'changes of settings'],
    shown: 'its own way',
    quiet: true,
  },
  throwers: {
    row: Thrower,
    by: 'scribe',
    called: ['thrower', 'throwers'],
    shown: '/api/throwers',
    moves: 'shelf',
    versioned: true,
  },
  places: { row: Place, by: 'owner', called: ['place', 'places'], shown: '/api/places', versioned: true },
  sessions: {
    row: Session,
    by: 'scribe',
    called: ['outing', 'outings'],
    shown: '/api/sessions',
    moves: 'shelf',
    versioned: true,
  },
  'wind-logs': {
    row: WindLog,
    by: 'scribe',
    called: ['minute of wind', 'minutes of wind'],
    shown: null,
    quiet: true,
  },
  trials: {
    row: Trial,
    by: 'owner',
    called: ['change of a trial', 'changes of trials'],
    shown: 'its own way',
    moves: 'trial',
    versioned: true,
  },
  throws: {
    row: Throw,
    by: 'scribe',
    called: ['throw', 'throws'],
    shown: 'its own way',
    moves: 'throws',
    versioned: true,
  },
  'short-throws': {
    row: ShortThrow,
    by: 'scribe',
    called: ['throw of the short game', 'throws of the short game'],
    shown: 'its own way',
  },
  makers: { row: Maker, by: 'owner', called: ['maker', 'makers'], shown: 'its own way', moves: 'shelf' },
  molds: { row: Mold, by: 'owner', called: ['mold', 'molds'], shown: 'its own way', moves: 'shelf' },
  plastics: {
    row: Plastic,
    by: 'owner',
    called: ['change of a plastic', 'changes of plastics'],
    shown: 'its own way',
    moves: 'shelf',
  },
  runs: { row: Run, by: 'owner', called: ['run', 'runs'], shown: 'its own way', moves: 'shelf' },
  discs: {
    row: Disc,
    by: 'owner',
    called: ['disc', 'discs'],
    shown: 'its own way',
    moves: 'shelf',
    versioned: true,
  },
  /** A disc with what above it is new. */
  entries: {
    row: DiscEntry,
    by: 'owner',
    called: ['disc', 'discs'],
    shown: 'its own way',
    moves: 'shelf',
    versioned: true,
  },
  /** Several discs at once. */
  'shelf-edits': {
    row: ShelfEdit,
    by: 'owner',
    called: ['change of the shelf', 'changes of the shelf'],
    shown: 'its own way',
    moves: 'shelf',
    versioned: true,
  },
  inspections: { row: Inspection, by: 'scribe', called: ['inspection', 'inspections'], shown: 'its own way' },
  'wear-notes': {
    row: WearNote,
    by: 'owner',
    called: ['note of wear', 'notes of wear'],
    shown: 'its own way',
    moves: 'shelf',
  },
  /** The photo of a disc, or none. */
  photos: { row: PhotoRow, by: 'owner', called: ['photo', 'photos'], shown: 'its own way' },
  reviews: { row: Review, by: 'owner', called: ['review', 'reviews'], shown: 'its own way', versioned: true },
  'review-sections': {
    row: ReviewSection,
    by: 'owner',
    called: ['section of a review', 'sections of reviews'],
    shown: 'its own way',
    versioned: true,
  },
  'review-photos': {
    row: ReviewPhoto,
    by: 'owner',
    called: ['photo of a review', 'photos of reviews'],
    shown: null,
  },
  jobs: { row: JobRow, by: 'owner', called: ['job', 'jobs'], shown: 'its own way' },
  'disc-events': {
    row: DiscEvent,
    by: 'owner',
    called: ['entry in the life of a disc', 'entries in the lives of discs'],
    shown: 'its own way',
  },
  'plastic-wear': {
    row: PlasticWear,
    by: 'owner',
    called: ['kind of a plastic', 'kinds of plastics'],
    shown: 'its own way',
    moves: 'shelf',
  },
  'drill-answers': {
    row: DrillAnswer,
    by: 'scribe',
    called: ['answer of the eye drill', 'answers of the eye drill'],
    shown: '/api/drill-answers',
  },
} as const satisfies Record<string, Kind>

export type WriteKind = keyof typeof WRITES
/** Kinds that are not in a list of their own alone. */
export type ShownItsOwnWay = {
  [K in WriteKind]: (typeof WRITES)[K]['shown'] extends 'its own way' ? K : never
}[WriteKind]
/** A row of a kind, as it is stored. */
export type Written<K extends WriteKind = WriteKind> = z.infer<(typeof WRITES)[K]['row']>
/** As it may be sent: what has a usual value may be missing. */
export type Sent<K extends WriteKind = WriteKind> = z.input<(typeof WRITES)[K]['row']>
export const WRITE_KINDS = Object.keys(WRITES) as WriteKind[]
/** What is known of a kind. */
export const writeOf = (kind: WriteKind): Kind => WRITES[kind]
export const WriteKindName = z.enum(WRITE_KINDS)

export const addressOf = (kind: WriteKind, id: string): string => `/api/${kind}/${id}`
