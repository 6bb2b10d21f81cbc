import { and, getTableName, inArray, notInArray, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { AnyPgColumn, PgTable } from 'drizzle-orm/pg-core'
import type { DemoState } from '../contract/demo.ts'
import { Conflict } from '../server/store/conflicts.ts'
import type { Database, Queryable } from '../server/store/database.ts'
import type { Demo } from '../server/routes/demo.ts'
import * as schema from '../server/store/schema.ts'
import { harrowmere } from './harrowmere.ts'
import { loadDemo } from './load.ts'
import { markDemo } from './state.ts'

const demo = harrowmere()
const ids = (rows: readonly { readonly id: string }[]) => rows.map((r) => r.id)

/** Throws that the demo did not bring, long and short: in trials of one's own, and tried in those of the demo. */
async function besides(db: Queryable): Promise<Pick<DemoState, 'ownThrows' | 'tried'>> {
  const inDemo = (column: AnyPgColumn) => inArray(column, ids(demo.trials))
  const { throws, shortThrows } = schema
  const count = (tried: SQL) => ({
    tried: sql<number>`(count(*) filter (where ${tried}))::int`,
    ownThrows: sql<number>`(count(*) filter (where not ${tried}))::int`,
  })
  const [[long], [short]] = await Promise.all([
    db
      .select(count(inDemo(throws.trialId)))
      .from(throws)
      .where(notInArray(throws.id, ids(demo.throws))),
    db.select(count(inDemo(shortThrows.trialId))).from(shortThrows),
  ])
  return { ownThrows: long!.ownThrows + short!.ownThrows, tried: long!.tried + short!.tried }
}

/** How many throws are in the database that the demo did not bring, wherever they were thrown. */
export async function ownThrows(db: Queryable): Promise<number> {
  const { ownThrows: own, tried } = await besides(db)
  return own + tried
}

type Table = PgTable & { id: AnyPgColumn }

/** Deletes rows of the demo that nothing refers to any more; what is one's own and leans on one keeps it. */
async function dropUnused(
  tx: Queryable,
  table: Table,
  rows: readonly { readonly id: string }[],
  usedBy: readonly AnyPgColumn[],
  key: AnyPgColumn = table.id,
): Promise<void> {
  const named = sql.raw(`"${getTableName(table)}"."${key.name}"`)
  const unused = usedBy.map(
    (column) => sql`not exists (select 1 from ${column.table} where ${column} = ${named})`,
  )
  await tx.delete(table).where(and(inArray(key, ids(rows)), ...unused))
}

/**
 * Takes everything of the demo out of the database, so that a shelf of one's own can begin, with whatever was tried in its
 * trials. Discs, people and outings that something of one's own leans on stay.
 */
const putAway = (db: Database): Promise<void> =>
  db.transaction(async (tx) => {
    const { throws, shortThrows, windLogs, sessions, trialDiscs, trials, inspections, wearNotes, discs } =
      schema
    const tried = await tx
      .selectDistinct({ id: throws.sessionId })
      .from(throws)
      .where(inArray(throws.trialId, ids(demo.trials)))
    const triedShort = await tx
      .selectDistinct({ id: shortThrows.sessionId })
      .from(shortThrows)
      .where(inArray(shortThrows.trialId, ids(demo.trials)))
    await tx.delete(throws).where(inArray(throws.trialId, ids(demo.trials)))
    await tx.delete(shortThrows).where(inArray(shortThrows.trialId, ids(demo.trials)))
    const outings = [...demo.sessions, ...tried, ...triedShort]
    const thrownIn = [throws.sessionId, shortThrows.sessionId]
    await dropUnused(tx, windLogs, outings, thrownIn, windLogs.sessionId)
    await dropUnused(tx, sessions, outings, thrownIn)
    await tx.delete(trialDiscs).where(inArray(trialDiscs.trialId, ids(demo.trials)))
    await dropUnused(tx, trials, demo.trials, [])
    await tx.delete(inspections).where(inArray(inspections.id, ids(demo.inspections)))
    await tx.delete(wearNotes).where(inArray(wearNotes.id, ids(demo.wearNotes)))
    await tx.delete(schema.discEvents).where(inArray(schema.discEvents.id, ids(demo.discEvents)))
    await dropUnused(tx, schema.jobs, demo.jobs, [schema.discEvents.jobId])
    await tx.delete(schema.ratings)
    await dropUnused(tx, discs, demo.discs, [
      trialDiscs.discId,
      inspections.discId,
      wearNotes.discId,
      schema.photos.discId,
      schema.discEvents.discId,
      trials.controlDiscId,
    ])
    await dropUnused(tx, schema.runs, demo.runs, [discs.runId])
    await dropUnused(tx, schema.plasticWear, demo.plasticWear, [discs.plasticId])
    await dropUnused(tx, schema.plastics, demo.plastics, [discs.plasticId, schema.runs.plasticId])
    await dropUnused(tx, schema.molds, demo.molds, [schema.plastics.moldId])
    await dropUnused(tx, schema.makers, demo.makers, [schema.molds.makerId])
    await dropUnused(tx, schema.throwers, demo.throwers, [
      throws.throwerId,
      shortThrows.throwerId,
      schema.jobs.throwerId,
    ])
    await dropUnused(tx, schema.places, demo.places, [sessions.placeId])
    await markDemo(tx, 'away')
  })

/** Loads the demo again. */
async function bringBack(db: Database): Promise<void> {
  try {
    await loadDemo(db)
  } catch (e) {
    const { constraint: rule } = ((e as { cause?: unknown }).cause ?? e) as { constraint?: string }
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
    return { demo: there.length > 0 ? 'here' : 'away', ...(await besides(db)) }
  },
  putAway,
  bringBack,
}
