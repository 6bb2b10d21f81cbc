import { eq, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { AnyPgColumn, PgTable } from 'drizzle-orm/pg-core'
import { Conflict } from './conflicts.ts'
import type { Who } from './crew.ts'
import type { Queryable } from './database.ts'

/** Who writes a row, and from which device. */
export interface By {
  readonly personId: string | null
  readonly keyId: string | null
  /** The browser, by an id it made; none of what names none. */
  readonly deviceId: string | null
  /** They change only what they wrote last themselves. */
  readonly onlyOwn: boolean
}

/** What comes from a file, or of the sample data. */
export const NOBODY: By = { personId: null, keyId: null, deviceId: null, onlyOwn: false }

export const byOf = (who: Who | undefined, deviceId: string | null = null): By =>
  who
    ? { personId: who.person.id, keyId: who.keyId, deviceId, onlyOwn: who.person.role === 'scribe' }
    : { ...NOBODY, deviceId }

/** The columns of a row that say so. */
export const writtenBy = ({ personId, keyId }: By) => ({
  byPersonId: personId,
  byKeyId: keyId,
  writtenAt: sql`clock_timestamp()`,
})

/** Which stored rows somebody may change: all, or those they wrote last. */
export const mayChange = (by: By, column: AnyPgColumn): SQL | undefined =>
  by.onlyOwn && by.personId !== null ? eq(column, by.personId) : undefined

/** A change that is not theirs to make; the row stands as it was. */
export class NotTheirs extends Conflict {
  /** The same once the change is kept for an owner. */
  offered(): NotTheirs {
    return new NotTheirs(
      this.title,
      `${this.message} Your change is kept for an owner, who sees it beside the row and may take it over.`,
      this.stored,
      this.errors,
    )
  }
}

export const ofSomebodyElse = (called = 'throw') =>
  new NotTheirs(
    `Somebody else’s ${called}`,
    `Somebody else logged this ${called}; a scribe changes those they logged.`,
    undefined,
    [{ path: '', message: 'was logged by somebody else' }],
  )

/**
 * Stores a row as it is given; a scribe changes those they wrote last.
 *
 * @param called what such a row is called, should it be somebody else's
 */
export async function overwriteOwn(
  db: Queryable,
  table: PgTable & { readonly id: AnyPgColumn; readonly byPersonId: AnyPgColumn },
  row: { readonly id: string },
  by: By,
  called: string,
): Promise<void> {
  const written = { ...row, ...writtenBy(by) } as never
  const [stored] = await db
    .insert(table)
    .values(written)
    .onConflictDoUpdate({ target: table.id, set: written, setWhere: mayChange(by, table.byPersonId) })
    .returning({ id: table.id })
  if (!stored) throw ofSomebodyElse(called)
}
