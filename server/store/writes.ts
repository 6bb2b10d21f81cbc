import { writeOf } from '../../contract/writes.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import { NOBODY } from './by.ts'
import type { By } from './by.ts'
import type { Database } from './database.ts'
import { dropPhoto, overwriteInspection, overwritePhoto, overwriteWearNote } from './inspections.ts'
import { overwritePreferences } from './preferences.ts'
import { writeShared } from './merging.ts'
import { writeReviewPhoto, writeSection } from './reviews.ts'
import { overwriteDrillAnswer } from './drill.ts'
import { overwriteDiscEvent, overwriteJob, overwritePlasticWear } from './rotation.ts'
import {
  overwriteMaker,
  overwriteMold,
  overwritePlastic,
  overwriteRun,
  writeEntry,
  writeShelfEdit,
} from './shelf.ts'
import { overwriteShortThrow, overwriteWindLog, writeThrow, writeTrial } from './trials.ts'

/** How a row of each kind is stored; what is answered where that is not the row as it was sent. */
const STORE: {
  readonly [K in WriteKind]: (db: Database, row: Written<K>, by: By) => PromiseLike<unknown>
} = {
  preferences: overwritePreferences,
  throwers: (db, row, by) => writeShared(db, 'throwers', row, by),
  places: (db, row, by) => writeShared(db, 'places', row, by),
  sessions: (db, row, by) => writeShared(db, 'sessions', row, by),
  'wind-logs': overwriteWindLog,
  trials: writeTrial,
  throws: writeThrow,
  'short-throws': overwriteShortThrow,
  makers: overwriteMaker,
  molds: overwriteMold,
  plastics: overwritePlastic,
  runs: overwriteRun,
  discs: (db, row, by) => writeShared(db, 'discs', row, by),
  entries: writeEntry,
  'shelf-edits': writeShelfEdit,
  inspections: overwriteInspection,
  'wear-notes': overwriteWearNote,
  photos: (db, { id, photo }) =>
    photo === null
      ? dropPhoto(db, id)
      : overwritePhoto(db, { discId: id, kind: photo.kind, bytes: Buffer.from(photo.base64, 'base64') }),
  reviews: (db, row, by) => writeShared(db, 'reviews', row, by),
  'review-sections': writeSection,
  'review-photos': writeReviewPhoto,
  jobs: overwriteJob,
  'disc-events': overwriteDiscEvent,
  'plastic-wear': overwritePlasticWear,
  'drill-answers': overwriteDrillAnswer,
}

/** Stores a row and returns it as stored. */
export async function storeRow<K extends WriteKind>(
  db: Database,
  kind: K,
  row: Written<K>,
  by: By = NOBODY,
): Promise<Written<K>> {
  const stored = await STORE[kind](db, row, by)
  return writeOf(kind).versioned ? (stored as Written<K>) : row
}
