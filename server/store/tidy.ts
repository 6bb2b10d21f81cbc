import { millisecondsInDay } from 'date-fns/constants'
import { sql } from 'drizzle-orm'
import type { Database } from './database.ts'

/** Lets go of what was of the moment: tries, codes and links that are over, errands that are done, throws nobody holds any more. */
export async function tidy(db: Database): Promise<void> {
  await db.execute(sql`delete from attempts where expire < now() - interval '1 day'`)
  await db.execute(sql`delete from passes where expires_at < now() - interval '30 days'`)
  await db.execute(sql`delete from errands where beat_at < now() - interval '7 days'`)
  await db.execute(sql`delete from failed_tries where last_at < now() - interval '30 days'`)
  // whoever begins from a version as old as that is asked
  await db.execute(sql`delete from row_versions where written_at < now() - interval '400 days'`)
  await db.execute(sql`delete from hands where seen_at < now() - interval '1 day'`)
}

/** Does so now and once a day. @returns how to stop */
export function tidyDaily(db: Database, onError: (e: unknown) => void): () => void {
  let stopped = false
  const now = () =>
    void tidy(db).catch((e: unknown) => {
      if (!stopped) onError(e)
    })
  now()
  const timer = setInterval(now, millisecondsInDay).unref()
  return () => {
    stopped = true
    clearInterval(timer)
  }
}
