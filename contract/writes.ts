import { z } from 'zod'
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
export const WIRE = 3
/** Versions the server takes: its own, and the one before, of pages that have not updated themselves yet. */
export const ACCEPTED_WIRES: readonly number[] = [WIRE - 1, WIRE]
export const WIRE_HEADER = 'X-Veer-Wire'

/**
 * Everything that can be written, kind by kind: the schema of a row, which is also that of the answer. A row is put at
 * {@link addressOf} its kind and id; written twice it is the same write. Server routes, the queue and what is laid over
 * readings while it waits are all made from this table.
 */
export const WRITES = {
  preferences: Preferences,
  throwers: Thrower,
  places: Place,
  sessions: Session,
  'wind-logs': WindLog,
  trials: Trial,
  throws: Throw,
  'short-throws': ShortThrow,
  makers: Maker,
  molds: Mold,
  plastics: Plastic,
  runs: Run,
  discs: Disc,
  /** A disc with what above it is new. */
  entries: DiscEntry,
  /** Several discs at once. */
  'shelf-edits': ShelfEdit,
  inspections: Inspection,
  'wear-notes': WearNote,
  /** The photo of a disc, or none. */
  photos: PhotoRow,
  reviews: Review,
  'review-sections': ReviewSection,
  'review-photos': ReviewPhoto,
  jobs: JobRow,
  'disc-events': DiscEvent,
  'plastic-wear': PlasticWear,
  'drill-answers': DrillAnswer,
} as const satisfies Record<string, z.ZodType<{ id: string }>>

export type WriteKind = keyof typeof WRITES
/** A row of a kind, as it is stored. */
export type Written<K extends WriteKind = WriteKind> = z.infer<(typeof WRITES)[K]>
/** As it may be sent: what has a usual value may be missing. */
export type Sent<K extends WriteKind = WriteKind> = z.input<(typeof WRITES)[K]>
export const WRITE_KINDS = Object.keys(WRITES) as WriteKind[]
export const WriteKindName = z.enum(WRITE_KINDS)

export const addressOf = (kind: WriteKind, id: string): string => `/api/${kind}/${id}`
