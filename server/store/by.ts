import { eq, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { AnyPgColumn } from 'drizzle-orm/pg-core'
import { Conflict } from './conflicts.ts'
import type { Who } from './crew.ts'

/** Who writes a row, and from which device. */
export interface By {
  readonly personId: string | null
  readonly keyId: string | null
  /** They change only what they wrote last themselves. */
  readonly onlyOwn: boolean
}

/** What comes from a file, or of the sample data. */
export const NOBODY: By = { personId: null, keyId: null, onlyOwn: false }

export const byOf = (who: Who | undefined): By =>
  who ? { personId: who.person.id, keyId: who.keyId, onlyOwn: who.person.role === 'scribe' } : NOBODY

/** The columns of a row that say so. */
export const writtenBy = ({ personId, keyId }: By) => ({
  byPersonId: personId,
  byKeyId: keyId,
  writtenAt: sql`clock_timestamp()`,
})

/** Which stored rows somebody may change: all, or those they wrote last. */
export const mayChange = (by: By, column: AnyPgColumn): SQL | undefined =>
  by.onlyOwn && by.personId !== null ? eq(column, by.personId) : undefined

export const ofSomebodyElse = () =>
  new Conflict(
    'Somebody else’s throw',
    'Somebody else logged this throw; a scribe changes those they logged. Ask an owner to change it.',
    undefined,
    [{ path: '', message: 'was logged by somebody else' }],
  )
