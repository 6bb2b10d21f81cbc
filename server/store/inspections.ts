import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Inspection, WearNote } from '../../contract/inspection.ts'
import { NOBODY, overwriteOwn } from './by.ts'
import type { By } from './by.ts'
import { wireColumns } from './database.ts'
import type { Queryable } from './database.ts'
import { discs, inspections, photos, wearNotes } from './schema.ts'

/** Inspections of a disc, the latest first. */
export const readInspections = (db: Queryable, discId: string): Promise<Inspection[]> =>
  db
    .select(wireColumns(inspections))
    .from(inspections)
    .where(eq(inspections.discId, discId))
    .orderBy(desc(inspections.day), desc(inspections.createdAt))

/** The latest inspection of every disc on the shelf. */
export async function readLatestInspections(db: Queryable): Promise<Inspection[]> {
  return await db
    .selectDistinctOn([inspections.discId], wireColumns(inspections))
    .from(inspections)
    .innerJoin(discs, and(eq(discs.id, inspections.discId), isNull(discs.removedAt)))
    .orderBy(inspections.discId, desc(inspections.day), desc(inspections.createdAt))
}

/** Stores an inspection; a scribe changes those they made. */
export const overwriteInspection = (db: Queryable, row: Inspection, by: By = NOBODY): Promise<void> =>
  overwriteOwn(db, inspections, row, by, 'inspection')

/** What a disc went through, the earliest first; taken back is left out. */
export const readWearNotes = (db: Queryable, discId: string): Promise<WearNote[]> =>
  db
    .select(wireColumns(wearNotes))
    .from(wearNotes)
    .where(and(eq(wearNotes.discId, discId), isNull(wearNotes.removedAt)))
    .orderBy(asc(wearNotes.day), asc(wearNotes.createdAt))

export const overwriteWearNote = (db: Queryable, row: WearNote) =>
  db.insert(wearNotes).values(row).onConflictDoUpdate({ target: wearNotes.id, set: row })

type Photo = Pick<typeof photos.$inferInsert, 'discId' | 'kind' | 'bytes'>

export const overwritePhoto = (db: Queryable, row: Photo) =>
  db.insert(photos).values(row).onConflictDoUpdate({ target: photos.discId, set: row })

export async function readPhoto(db: Queryable, discId: string): Promise<Photo | undefined> {
  const [row] = await db.select(wireColumns(photos)).from(photos).where(eq(photos.discId, discId))
  return row
}

export const dropPhoto = (db: Queryable, discId: string) => db.delete(photos).where(eq(photos.discId, discId))

export async function hasPhoto(db: Queryable, discId: string): Promise<boolean> {
  const rows = await db
    .select({ one: sql`1` })
    .from(photos)
    .where(eq(photos.discId, discId))
  return rows.length > 0
}
