import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'
import { ratedFromShelf, sheetOf, shelved } from '../../contract/sheet.ts'
import type { WeighedDay, DayKey } from './weighing.ts'
import { wireColumns } from './database.ts'
import type { Queryable } from './database.ts'
import { discs, makers, molds, plastics, runs, sessions, throwers, throws, trials } from './schema.ts'
import { readShelfRows } from './shelfPage.ts'

/** Test days further back are not weighed again. */
const MOST_DAYS = 60

/** Tables of which a day's throws are read, besides the throws themselves. */
const ALSO_READ = [throwers, trials, makers, molds, plastics, runs, discs] as const

/**
 * What stands for versions of rows, however many: another after any change, without any of them being read out.
 *
 * PostgreSQL gives every version of a row the transaction that wrote it as `xmin`.
 */
const versions = (...tables: readonly PgTable[]) =>
  sql<string>`coalesce(bit_xor(hashtextextended(concat_ws(' ', ${sql.join(
    tables.flatMap((t) => [sql`${t}.id`, sql`${t}.xmin`]),
    sql`, `,
  )}), 0)), 0)::text`

/** The latest days on which some discs were thrown, oldest first, and what stands for all that was known of each. */
export async function daysOf(db: Queryable, ids: readonly string[]): Promise<DayKey[]> {
  if (ids.length === 0) return []
  const found = db
    .selectDistinct({ day: sessions.day })
    .from(throws)
    .innerJoin(sessions, eq(sessions.id, throws.sessionId))
    .where(and(inArray(throws.discId, [...ids]), isNull(throws.takenBackAt), throws.counts))
    .orderBy(desc(sessions.day))
    .limit(MOST_DAYS)
  const [days, ...also] = await Promise.all([
    db
      .select({ day: sessions.day, stamp: versions(throws, sessions) })
      .from(throws)
      .innerJoin(sessions, eq(sessions.id, throws.sessionId))
      .where(inArray(sessions.day, found))
      .groupBy(sessions.day)
      .orderBy(asc(sessions.day)),
    ...ALSO_READ.map((table) => db.select({ stamp: versions(table) }).from(table as PgTable)),
  ])
  const rest = also.map(([row]) => row!.stamp).join(' ')
  return days.map(({ day, stamp }) => ({ day, stamp: `${day} ${stamp} ${rest}` }))
}

/** The throws of some days, as the fit takes them. */
export async function readDays(db: Queryable, days: readonly string[]): Promise<WeighedDay[]> {
  if (days.length === 0) return []
  const held = await db
    .select(wireColumns(sessions))
    .from(sessions)
    .where(inArray(sessions.day, [...days]))
  const thrown = await db
    .select(wireColumns(throws))
    .from(throws)
    .where(
      and(
        inArray(
          throws.sessionId,
          held.map((s) => s.id),
        ),
        isNull(throws.takenBackAt),
      ),
    )
    .orderBy(asc(throws.thrownAt))
  const [people, controls, rows] = await Promise.all([
    db.select(wireColumns(throwers)).from(throwers),
    db.select({ id: trials.controlDiscId }).from(trials),
    readShelfRows(db, [...new Set(thrown.map((t) => t.discId))]),
  ])
  const known = new Set(controls.map((c) => c.id))
  const shelf = rows.map(shelved)
  return days.map((day) => {
    const own = held.filter((s) => s.day === day)
    const of = thrown.filter((t) => own.some((s) => s.id === t.sessionId))
    const there = new Set(of.map((t) => t.discId))
    return {
      day,
      sheet: sheetOf({ trial: { controlDiscId: null }, sessions: own, throws: of }, shelf, people),
      discs: shelf
        .filter((d) => there.has(d.disc.id))
        .map((d) => ratedFromShelf(d, known.has(d.disc.id) ? d.disc.id : null)),
    }
  })
}
