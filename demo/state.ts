import type { Queryable } from '../server/store/database.ts'
import { shed } from '../server/store/schema.ts'

/** Whether the demo has its place in this database; it has until somebody puts it away. */
export async function demoState(db: Queryable): Promise<'here' | 'away'> {
  const [row] = await db.select({ demo: shed.demo }).from(shed)
  return row?.demo ?? 'here'
}
export const markDemo = (db: Queryable, state: 'here' | 'away') =>
  db
    .insert(shed)
    .values({ id: 1, demo: state })
    .onConflictDoUpdate({ target: shed.id, set: { demo: state } })
