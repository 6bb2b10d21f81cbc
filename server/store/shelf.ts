import type { asc } from 'drizzle-orm'
import { sql } from 'drizzle-orm'
import type { Disc, DiscEntry, Maker, Mold, Plastic, Run, Shelf, ShelfEdit } from '../../contract/shelf.ts'
import { NOBODY } from './by.ts'
import type { By } from './by.ts'
import { overwriteAll, wireColumns } from './database.ts'
import type { Database, Queryable } from './database.ts'
import { writeSharedIn } from './merging.ts'
import { discs, makers, molds, plastics, runs } from './schema.ts'

/** Sorted as people do: case and accents aside. */
const named = (column: Parameters<typeof asc>[0]) => sql`${column} collate "en-x-icu"`

export async function readShelf(db: Queryable): Promise<Shelf> {
  const [makerRows, moldRows, plasticRows, runRows, discRows] = await Promise.all([
    db.select(wireColumns(makers)).from(makers).orderBy(named(makers.name)),
    db.select(wireColumns(molds)).from(molds).orderBy(named(molds.name)),
    db.select(wireColumns(plastics)).from(plastics).orderBy(named(plastics.name)),
    db.select(wireColumns(runs)).from(runs).orderBy(named(runs.name)),
    db.select(wireColumns(discs)).from(discs).orderBy(named(discs.code)),
  ])
  return { makers: makerRows, molds: moldRows, plastics: plasticRows, runs: runRows, discs: discRows }
}

export const overwriteMaker = (db: Queryable, row: Maker) =>
  db.insert(makers).values(row).onConflictDoUpdate({ target: makers.id, set: row })
export const overwriteMold = (db: Queryable, row: Mold) =>
  db.insert(molds).values(row).onConflictDoUpdate({ target: molds.id, set: row })
export const overwritePlastic = (db: Queryable, row: Plastic) =>
  db.insert(plastics).values(row).onConflictDoUpdate({ target: plastics.id, set: row })
export const overwriteRun = (db: Queryable, row: Run) =>
  db.insert(runs).values(row).onConflictDoUpdate({ target: runs.id, set: row })

/** Rows of the shelf, what stands above before what stands under it. */
export async function overwriteShelf(db: Queryable, shelf: Shelf): Promise<void> {
  await overwriteAll(db, makers, shelf.makers)
  await overwriteAll(db, molds, shelf.molds)
  await overwriteAll(db, plastics, shelf.plastics)
  await overwriteAll(db, runs, shelf.runs)
  await overwriteAll(
    db,
    discs,
    shelf.discs.map(({ version: _, ...row }) => row),
    { version: sql`${discs.version} + 1` },
  )
}

/** A disc and whatever above it is new, in one go or not at all; the disc as {@link writeSharedIn} stores it. */
export const writeEntry = (db: Database, entry: DiscEntry, by: By = NOBODY): Promise<DiscEntry> =>
  db.transaction(async (tx) => {
    const { maker, mold, plastic, run, disc } = entry
    const given = <T>(row: T | undefined): T[] => (row ? [row] : [])
    await overwriteShelf(tx, {
      makers: given(maker),
      molds: given(mold),
      plastics: given(plastic),
      runs: given(run),
      discs: [],
    })
    return { ...entry, disc: await writeSharedIn(tx, 'discs', disc, by) }
  })

/** Several discs, in one go or not at all. */
export const writeShelfEdit = (db: Database, edit: ShelfEdit, by: By = NOBODY): Promise<ShelfEdit> =>
  db.transaction(async (tx) => {
    const stored: Disc[] = []
    // in one order, whoever writes: two at once wait for each other, and not in a circle
    for (const disc of edit.discs.toSorted((a, b) => (a.id < b.id ? -1 : 1)))
      stored.push(await writeSharedIn(tx, 'discs', disc, by))
    return { ...edit, discs: stored }
  })
