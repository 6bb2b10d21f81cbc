import { eq } from 'drizzle-orm'
import type { Preferences } from '../../contract/preferences.ts'
import { wireColumns } from './database.ts'
import type { Queryable } from './database.ts'
import { preferences } from './schema.ts'

export async function readPreferences(db: Queryable, id: string): Promise<Preferences> {
  const [row] = await db.select(wireColumns(preferences)).from(preferences).where(eq(preferences.id, id))
  return row ?? { id, units: 'metric', theme: 'day' }
}

export const overwritePreferences = (db: Queryable, row: Preferences) =>
  db.insert(preferences).values(row).onConflictDoUpdate({ target: preferences.id, set: row })
