import { createHash } from 'node:crypto'
import fs from 'node:fs'
import path from 'node:path'
import { desc, eq, sql } from 'drizzle-orm'
import type { Database } from './database.ts'
import { weighedDays } from './schema.ts'
import type { DayOutcome } from '../../core/rotation/scatter.ts'

/** Days that are kept; those kept longest go first. */
const MOST = 500

/** What stands for the computation itself: what other code worked out is worked out again. */
function codeStamp(): string {
  const core = path.resolve(import.meta.dirname, '../../core')
  const hash = createHash('sha1')
  for (const name of fs.readdirSync(core, { recursive: true, encoding: 'utf8' }).sort())
    if (name.endsWith('.ts')) hash.update(name).update(fs.readFileSync(path.join(core, name)))
  return hash.digest('base64')
}

/** Test days that were weighed, kept for when the server starts again. */
export class KeptDays {
  #code: string | undefined

  constructor(
    private readonly db: Database,
    private readonly onError: (error: unknown) => void,
  ) {}

  #keyOf(digest: string): string {
    return `${(this.#code ??= codeStamp())} ${digest}`
  }

  /** @param digest stands for the throws of the day */
  async read(digest: string): Promise<readonly DayOutcome[] | undefined> {
    const [row] = await this.db
      .select({ outcomes: weighedDays.outcomes })
      .from(weighedDays)
      .where(eq(weighedDays.digest, this.#keyOf(digest)))
    return row?.outcomes
  }

  /** Keeps a day; what cannot be kept is weighed again one day, and said to whoever looks after the server. */
  async keep(digest: string, outcomes: readonly DayOutcome[]): Promise<void> {
    try {
      await this.db
        .insert(weighedDays)
        .values({ digest: this.#keyOf(digest), outcomes })
        .onConflictDoNothing()
      const old = this.db
        .select({ digest: weighedDays.digest })
        .from(weighedDays)
        .orderBy(desc(weighedDays.keptAt))
        .offset(MOST)
      await this.db.delete(weighedDays).where(sql`${weighedDays.digest} in ${old}`)
    } catch (e) {
      this.onError(e)
    }
  }
}
