import { format, parseISO } from 'date-fns'
import { desc, eq } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'
import type { AnyPgColumn } from 'drizzle-orm/pg-core'
import { v7 as newId } from 'uuid'
import type { Offer } from '../../contract/crew.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import type { By } from './by.ts'
import { wireColumns } from './database.ts'
import type { Database, Queryable } from './database.ts'
import { same } from './merging.ts'
import {
  discs,
  inspections,
  offers,
  people,
  sessions,
  shortThrows,
  throwers,
  throws,
  windLogs,
} from './schema.ts'
import { storeRow } from './writes.ts'

/** Rows that scribes write, each its own: of others’ a change is offered. */
const OFFERED: Partial<Record<WriteKind, PgTable & { readonly id: AnyPgColumn }>> = {
  sessions,
  throwers,
  inspections,
  throws,
  'short-throws': shortThrows,
  'wind-logs': windLogs,
}
type Row = Readonly<Record<string, unknown>>

async function stored(db: Queryable, kind: WriteKind, id: string): Promise<Row | undefined> {
  const table = OFFERED[kind]
  if (!table) return undefined
  const [row] = await db
    .select(wireColumns(table) as Record<string, AnyPgColumn>)
    .from(table)
    .where(eq(table.id, id))
  return row
}

/**
 * Keeps a change that somebody may not make themselves, in place of the one they offered of the row before.
 *
 * @returns whether there is anything to offer
 */
export async function offer(db: Database, kind: WriteKind, row: Written, by: By): Promise<boolean> {
  const now = await stored(db, kind, row.id)
  if (!now || by.personId === null) return false
  const changes = Object.fromEntries(
    Object.entries(row as unknown as Row).filter(
      ([key, value]) => key in now && key !== 'version' && value !== undefined && !same(value, now[key]),
    ),
  )
  if (Object.keys(changes).length === 0) return false
  const made = { kind, rowId: row.id, personId: by.personId, changes }
  await db
    .insert(offers)
    .values({ id: newId(), ...made })
    .onConflictDoUpdate({
      target: [offers.kind, offers.rowId, offers.personId],
      set: { changes, offeredAt: new Date().toISOString() },
    })
  return true
}

const nameOf = (kind: WriteKind, row: Row, codeOf: (discId: unknown) => string | undefined): string => {
  const said = row['day'] ?? row['thrownAt'] ?? row['startedAt']
  const day = typeof said === 'string' ? format(parseISO(said), 'd MMM yyyy') : undefined
  const name = kind === 'sessions' ? row['place'] : (row['name'] ?? codeOf(row['discId']))
  return [name, day].filter(Boolean).join(', ')
}

/** Changes that wait for an owner, the latest first; of a row that says so by now, or is gone, there is none. */
export async function readOffers(db: Queryable): Promise<Offer[]> {
  const rows = await db
    .select({ offer: offers, person: people.name })
    .from(offers)
    .innerJoin(people, eq(people.id, offers.personId))
    .orderBy(desc(offers.offeredAt))
    .limit(200)
  if (rows.length === 0) return []
  const codes = await db.select({ id: discs.id, code: discs.code }).from(discs)
  const codeOf = new Map<unknown, string>(codes.map((d) => [d.id, d.code]))
  const read = await Promise.all(
    rows.map(async ({ offer: o, person }): Promise<Offer | undefined> => {
      const now = await stored(db, o.kind, o.rowId)
      const fields = Object.entries(o.changes)
        .filter(([field, then]) => now && !same(now[field], then))
        .map(([field, then]) => ({ field, now: now![field] ?? null, then }))
      if (!now || fields.length === 0) return undefined
      const { id, kind, rowId, offeredAt } = o
      return { id, kind, rowId, offeredAt, person, name: nameOf(kind, now, (id_) => codeOf.get(id_)), fields }
    }),
  )
  return read.flatMap((o) => o ?? [])
}

/**
 * Takes a change over, as if the owner had made it; what has changed of other fields since stays.
 *
 * @returns what was written, undefined where there is no such change any more
 */
export async function takeOver(
  db: Database,
  id: string,
  by: By,
): Promise<{ readonly kind: WriteKind; readonly row: Written } | undefined> {
  const [o] = await db.select().from(offers).where(eq(offers.id, id))
  const now = o && (await stored(db, o.kind, o.rowId))
  if (!now) return undefined
  const row = await storeRow(db, o.kind, { ...now, ...o.changes } as unknown as Written, by)
  await dropOffer(db, id)
  return { kind: o.kind, row }
}

/** Lets a change go. @returns whether there was one */
export async function dropOffer(db: Queryable, id: string): Promise<boolean> {
  return (await db.delete(offers).where(eq(offers.id, id)).returning({ id: offers.id })).length > 0
}
