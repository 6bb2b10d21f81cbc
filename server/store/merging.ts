import { isDeepStrictEqual } from 'node:util'
import { and, desc, eq, getTableName, gt, sql } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'
import type { AnyPgColumn } from 'drizzle-orm/pg-core'
import { fieldWords } from '../../contract/words.ts'
import { ofSomebodyElse, writtenBy } from './by.ts'
import type { By } from './by.ts'
import { Conflict } from './conflicts.ts'
import { wireColumns } from './database.ts'
import type { Database, Queryable } from './database.ts'
import { discs, places, reviews, rowVersions, sessions, throwers } from './schema.ts'

/** Rows that several people change, field by field. */
const SHARED = {
  discs: { table: discs, called: 'disc' },
  throwers: { table: throwers, called: 'thrower' },
  sessions: { table: sessions, called: 'outing' },
  places: { table: places, called: 'place' },
  reviews: { table: reviews, called: 'review' },
} as const
export type SharedKind = keyof typeof SHARED

interface SharedRow {
  readonly id: string
  readonly version?: number | undefined
}
type Content = Readonly<Record<string, unknown>>
type SharedTable = PgTable & {
  readonly id: AnyPgColumn
  readonly version: AnyPgColumn
  readonly byPersonId: AnyPgColumn
}

const INSTANT = /^\d{4}-\d\d-\d\dT.*(Z|[+-]\d\d:\d\d)$/
/** A value as it is compared: times in one way of writing, what is not said as nothing. */
const plain = (value: unknown): unknown =>
  typeof value === 'string' && INSTANT.test(value) ? new Date(value).toISOString() : (value ?? null)
/** Whether two values of a field say the same. */
export const same = (a: unknown, b: unknown): boolean => isDeepStrictEqual(plain(a), plain(b))
/** What a row says, without how often it was written; a field it does not name says nothing. */
const contentOf = ({ id: _, version: _v, ...row }: SharedRow): Content =>
  Object.fromEntries(Object.entries(row).filter(([, v]) => v !== undefined))
const sameContent = (row: Content, stored: Content) =>
  Object.entries(row).every(([key, value]) => same(value, stored[key]))

/**
 * Puts together what two sides made of one row.
 *
 * @param base what both began from
 * @returns the row with the changes of both, and the fields both changed to something else
 */
export function merged(base: Content, mine: Content, theirs: Content): { row: Content; crossed: string[] } {
  const row: Record<string, unknown> = { ...theirs }
  const crossed: string[] = []
  for (const [key, value] of Object.entries(mine)) {
    if (same(value, base[key]) || same(value, theirs[key])) continue
    if (same(theirs[key], base[key])) row[key] = value
    else crossed.push(key)
  }
  return { row, crossed }
}

/**
 * Stores a row that several devices change, and answers with it as stored. What two of them changed in different fields is both
 * kept; where both changed the same one to something else, the write is refused with the fields in question, so that neither is
 * lost. A write that comes again is the same write. What one device writes follows on what it wrote before, whatever version it
 * names.
 *
 * @throws Conflict where the same field was changed, or the row is not theirs to change
 */
export const writeShared = <R extends SharedRow>(
  db: Database,
  kind: SharedKind,
  row: R,
  by: By,
): Promise<R> => db.transaction((tx) => writeSharedIn(tx, kind, row, by))

export async function writeSharedIn<R extends SharedRow>(
  tx: Queryable,
  kind: SharedKind,
  row: R,
  by: By,
): Promise<R> {
  const { called } = SHARED[kind]
  const table = SHARED[kind].table as SharedTable
  const columns = wireColumns(table)
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${row.id}, 3))`)
  const [stored] = (await tx
    .select({ ...(columns as Record<string, AnyPgColumn>), owner: table.byPersonId })
    .from(table)
    .where(eq(table.id, row.id))) as [(R & { owner: string | null; version: number }) | undefined]
  const mine = contentOf(row)
  const keep = async (content: Content, version: number): Promise<R> => {
    await tx.insert(rowVersions).values({
      kind,
      rowId: row.id,
      version,
      deviceId: writerOf(by),
      sent: { ...mine, version: row.version ?? null },
      stored: content,
    })
    return { ...content, id: row.id, version } as unknown as R
  }
  if (!stored) {
    const [made] = await tx
      .insert(table)
      .values({ ...row, ...writtenBy(by), version: 1 } as never)
      .returning(columns as Record<string, AnyPgColumn>)
    return await keep(contentOf(made as unknown as R), 1)
  }
  const { owner, ...now } = stored
  const theirs = contentOf(now as unknown as R)
  if (sameContent(mine, theirs)) return { ...now } as unknown as R
  const [again] = await tx
    .select({ stored: rowVersions.stored, version: rowVersions.version })
    .from(rowVersions)
    .where(
      and(
        of(kind, row.id),
        writtenOn(by),
        sql`${rowVersions.sent} = ${JSON.stringify({ ...mine, version: row.version ?? null })}::jsonb`,
      ),
    )
    .orderBy(desc(rowVersions.version))
    .limit(1)
  if (again && (row.version !== undefined || (await isMakingAgain(tx, kind, row.id, again.version, by))))
    return { ...again.stored, id: row.id, version: again.version } as unknown as R
  if (by.onlyOwn && by.personId !== owner) throw ofSomebodyElse(called)

  const base = await baseOf(tx, kind, row, stored.version, by)
  let next: Content = { ...theirs, ...mine }
  if (base !== 'stored') {
    const { row: both, crossed } = base
      ? merged(base, mine, theirs)
      : { row: theirs, crossed: differing(mine, theirs) }
    if (crossed.length > 0)
      throw new Conflict(
        'Changed elsewhere',
        `This ${called}, ${nameOf(theirs)}, was changed on another device meanwhile: ${crossed.map((f) => fieldWords([f])).join(', ')}. Both versions are kept; choose one.`,
        // with what does not cross put together already: whoever chooses decides on the rest alone
        { ...now, ...both },
        crossed.map((path) => ({ path, message: 'was changed on another device too' })),
      )
    next = both
  }
  // what it was before is needed by whoever began from it
  await tx
    .insert(rowVersions)
    .values({ kind, rowId: row.id, version: stored.version, deviceId: NOBODYS, sent: theirs, stored: theirs })
    .onConflictDoNothing()
  const version = stored.version + 1
  await tx
    .update(table)
    .set({ ...next, ...writtenBy(by), version } as never)
    .where(eq(table.id, row.id))
  return await keep(next, version)
}

/** Of what was there before anybody's versions were kept. */
const NOBODYS = '00000000-0000-0000-0000-000000000000'
/** By what the writes of one device are known: the id its browser made, else the key it came in with, else the machine itself. */
const writerOf = (by: By): string | null => by.deviceId ?? by.keyId
/** Versions of a row. */
const of = (kind: SharedKind, rowId: string) => and(eq(rowVersions.kind, kind), eq(rowVersions.rowId, rowId))
const writtenOn = (by: By) => sql`${rowVersions.deviceId} is not distinct from ${writerOf(by)}`

/**
 * Whether a write that names no version is the one its row was made by, come again: a device sends in order, so it has written
 * nothing of the row since. One that has means what it says.
 */
async function isMakingAgain(
  tx: Queryable,
  kind: SharedKind,
  rowId: string,
  version: number,
  by: By,
): Promise<boolean> {
  if (version !== 1) return false
  const since = await tx
    .select({ version: rowVersions.version })
    .from(rowVersions)
    .where(and(of(kind, rowId), writtenOn(by), gt(rowVersions.version, version)))
    .limit(1)
  return since.length === 0
}

/** What people call a row of any of these kinds. */
const nameOf = ({ code, name, title, place, day }: Content): string =>
  String(code ?? name ?? title ?? [place, day].filter(Boolean).join(' '))

const differing = (mine: Content, theirs: Content) =>
  Object.keys(mine).filter((key) => !same(mine[key], theirs[key]))

/** What a write began from: the stored row itself, an earlier one, or nobody knows. */
async function baseOf(
  tx: Queryable,
  kind: SharedKind,
  row: SharedRow,
  storedVersion: number,
  by: By,
): Promise<Content | 'stored' | undefined> {
  // pages of an earlier day name none
  if (row.version === undefined || row.version === storedVersion) return 'stored'
  const [own] = await tx
    .select({ sent: rowVersions.sent })
    .from(rowVersions)
    .where(and(of(kind, row.id), writtenOn(by), gt(rowVersions.version, row.version)))
    .orderBy(desc(rowVersions.version))
    .limit(1)
  if (own) return own.sent
  const [then] = await tx
    .select({ stored: rowVersions.stored })
    .from(rowVersions)
    .where(and(of(kind, row.id), eq(rowVersions.version, row.version)))
  return then?.stored
}

/** Stores rows as they are given, whatever was there: what a file or the demo says. */
export const overwriteShared = (db: Queryable, kind: SharedKind, row: SharedRow) => {
  const table = SHARED[kind].table as SharedTable
  const { version: _, ...content } = row
  return db
    .insert(table)
    .values(content as never)
    .onConflictDoUpdate({
      target: table.id,
      set: { ...content, version: sql`${sql.identifier(getTableName(table))}.version + 1` } as never,
    })
}
