import { and, getTableColumns, getTableName, inArray, notInArray, sql } from 'drizzle-orm'
import type { AnyPgColumn, PgTable } from 'drizzle-orm/pg-core'
import { Conflict } from '../server/store/conflicts.ts'
import type { Database, Queryable } from '../server/store/database.ts'
import type { Demo } from '../server/routes/demo.ts'
import * as schema from '../server/store/schema.ts'
import { harrowmere } from './harrowmere.ts'
import { loadDemo } from './load.ts'
import { markDemo } from './state.ts'

const demo = harrowmere()
const ids = (rows: readonly { readonly id: string }[]) => rows.map((r) => r.id)

/** How many throws are in the database that the demo did not bring, long and short. */
export async function ownThrows(db: Queryable): Promise<number> {
  const count = { n: sql<number>`count(*)::int` }
  const [[long], [short]] = await Promise.all([
    db
      .select(count)
      .from(schema.throws)
      .where(notInArray(schema.throws.id, ids(demo.throws))),
    db.select(count).from(schema.shortThrows),
  ])
  return long!.n + short!.n
}

type Table = PgTable & { id: AnyPgColumn }

/** Deletes rows of the demo that nothing refers to any more; what is one's own and leans on one keeps it. */
async function dropUnused(
  tx: Queryable,
  table: Table,
  rows: readonly { readonly id: string }[],
  usedBy: readonly AnyPgColumn[],
): Promise<void> {
  const unused = usedBy.map(
    (column) =>
      sql`not exists (select 1 from ${column.table} where ${column} = ${sql.raw(`"${getTableName(table)}"."id"`)})`,
  )
  await tx
    .delete(table)
    .where(and(inArray(getTableColumns(table)['id'] as AnyPgColumn, ids(rows)), ...unused))
}

/**
 * Takes everything of the demo out of the database, so that a shelf of one's own can begin. Discs and molds that something of
 * one's own leans on stay.
 *
 * @throws Conflict once there are throws of one's own
 */
const putAway = (db: Database): Promise<void> =>
  db.transaction(async (tx) => {
    const own = await ownThrows(tx)
    if (own > 0)
      throw new Conflict(
        'Thrown already',
        `There are ${own} throws of your own beside the demo, and they may be of its discs. Take discs and trials you do not want off by hand.`,
      )
    const { throws, windLogs, sessions, trialDiscs, trials, inspections, wearNotes, discs } = schema
    await tx.delete(throws).where(inArray(throws.id, ids(demo.throws)))
    await tx.delete(windLogs).where(inArray(windLogs.sessionId, ids(demo.sessions)))
    await dropUnused(tx, sessions, demo.sessions, [])
    await tx.delete(trialDiscs).where(inArray(trialDiscs.trialId, ids(demo.trials)))
    await dropUnused(tx, trials, demo.trials, [])
    await tx.delete(inspections).where(inArray(inspections.id, ids(demo.inspections)))
    await tx.delete(wearNotes).where(inArray(wearNotes.id, ids(demo.wearNotes)))
    await tx.delete(schema.ratings)
    await dropUnused(tx, discs, demo.discs, [
      trialDiscs.discId,
      inspections.discId,
      wearNotes.discId,
      schema.photos.discId,
      trials.controlDiscId,
    ])
    await dropUnused(tx, schema.runs, demo.runs, [discs.runId])
    await dropUnused(tx, schema.plastics, demo.plastics, [discs.plasticId, schema.runs.plasticId])
    await dropUnused(tx, schema.molds, demo.molds, [schema.plastics.moldId])
    await dropUnused(tx, schema.makers, demo.makers, [schema.molds.makerId])
    await dropUnused(tx, schema.throwers, demo.throwers, [])
    await dropUnused(tx, schema.places, demo.places, [sessions.placeId])
    await markDemo(tx, 'away')
  })

/** Loads the demo again. */
async function bringBack(db: Database): Promise<void> {
  try {
    await loadDemo(db)
  } catch (e) {
    const { constraint_name: rule } = ((e as { cause?: unknown }).cause ?? e) as { constraint_name?: string }
    if (rule === undefined) throw e
    throw new Conflict(
      'The names are taken',
      'Something of your own has the code or the name of something in the demo, so the demo was not brought back.',
    )
  }
}

/** The demo as the server offers it. */
export const keptDemo: Demo = {
  state: async (db) => {
    const there = await db
      .select({ id: schema.trials.id })
      .from(schema.trials)
      .where(inArray(schema.trials.id, ids(demo.trials)))
    return { demo: there.length > 0 ? 'here' : 'away', ownThrows: await ownThrows(db) }
  },
  putAway,
  bringBack,
}
