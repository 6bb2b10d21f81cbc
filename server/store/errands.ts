import { and, eq, gt, ne, or, sql } from 'drizzle-orm'
import type { Errand } from '../../contract/custody.ts'
import type { Database } from './database.ts'
import { errands } from './schema.ts'

/** Whoever has not said for so long how far an errand is has died over it. */
const DEAD = sql`interval '20 seconds'`

const columns = {
  id: errands.id,
  kind: errands.kind,
  state: errands.state,
  stage: errands.stage,
  done: errands.done,
  total: errands.total,
  said: errands.said,
  problems: sql<string[]>`${errands.problems}`,
}

/** What came of an errand: a sentence, and what there is to be said one by one. */
export interface ErrandTrouble {
  readonly said: string
  readonly problems?: readonly string[]
}

/** How far an errand is. */
export interface ErrandProgress {
  readonly stage: string
  readonly done: number
  readonly total: number
}

/** How an errand ended. */
export type ErrandEnd = ErrandTrouble & { readonly state: 'done' | 'failed' | 'cancelled' }
export const CANCELLED: ErrandEnd = { state: 'cancelled', said: 'Cancelled; nothing was changed.' }

/** Errand of an import, which says of itself how far it is as long as somebody waits for it. */
const importOf = (id: string) => and(eq(errands.id, id), eq(errands.kind, 'import'))

/** Errands as they stand in the database: any instance tells them, any instance cancels them. */
export class ErrandRows {
  constructor(private readonly db: Database) {}

  async read(id: string): Promise<Errand | undefined> {
    const [row] = await this.db
      .select({ ...columns, dead: sql<boolean>`${errands.beatAt} < now() - ${DEAD}` })
      .from(errands)
      .where(eq(errands.id, id))
    if (!row) return undefined
    const { dead, ...errand } = row
    return errand.state === 'under-way' && dead
      ? { ...errand, state: 'failed', said: 'The server that did it was stopped. Nothing was changed.' }
      : errand
  }

  underWay(): Promise<Errand[]> {
    return this.db
      .select(columns)
      .from(errands)
      .where(
        and(
          ne(errands.kind, 'import'),
          or(
            eq(errands.state, 'waiting'),
            and(eq(errands.state, 'under-way'), gt(errands.beatAt, sql`now() - ${DEAD}`)),
          ),
        ),
      )
  }

  /** One that waits is over; one under way is told so by its next {@link beat}. */
  async cancel(id: string): Promise<void> {
    await this.db.update(errands).set({ cancelled: true }).where(eq(errands.id, id))
    await this.db
      .update(errands)
      .set(CANCELLED)
      .where(and(eq(errands.id, id), eq(errands.state, 'waiting')))
  }

  protected async add(errand: Pick<Errand, 'id' | 'kind'> & Partial<Pick<Errand, 'state'>>): Promise<void> {
    await this.db.insert(errands).values(errand)
  }

  /** Whether an errand that was waiting is this instance's to do. */
  protected async claim(id: string): Promise<boolean> {
    const taken = await this.db
      .update(errands)
      .set({ state: 'under-way', beatAt: sql`now()` })
      .where(and(eq(errands.id, id), eq(errands.state, 'waiting')))
      .returning({ id: errands.id })
    return taken.length > 0
  }

  /** Notes how far an errand is; answers whether somebody has cancelled it. */
  protected async beat(id: string, at: ErrandProgress): Promise<boolean> {
    const [row] = await this.db
      .update(errands)
      .set({ ...at, beatAt: sql`now()` })
      .where(eq(errands.id, id))
      .returning({ cancelled: errands.cancelled })
    return row?.cancelled === true
  }

  protected async end(id: string, at: ErrandProgress, ended: ErrandEnd): Promise<void> {
    await this.db
      .update(errands)
      .set({ ...at, ...ended, ...(ended.problems && { problems: [...ended.problems] }) })
      .where(eq(errands.id, id))
  }

  protected async beginImport(id: string, at: ErrandProgress): Promise<void> {
    await this.db
      .insert(errands)
      .values({ id, kind: 'import', ...at })
      .onConflictDoNothing()
  }

  protected async beatImport(id: string, at: ErrandProgress): Promise<void> {
    await this.db
      .update(errands)
      .set({ ...at, beatAt: sql`now()` })
      .where(importOf(id))
  }

  protected async endImport(id: string): Promise<void> {
    await this.db.delete(errands).where(importOf(id))
  }
}
