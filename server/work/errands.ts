import { and, eq, gt, ne, or, sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import type { Errand } from '../../contract/custody.ts'
import type { Database } from '../store/database.ts'
import { errands } from '../store/schema.ts'
import type { Told } from '../custody/write.ts'

/** How often it is noted how far an errand is, ms; whoever has not said so for much longer has died over it. */
const BEAT_MS = 300
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
export interface Trouble {
  readonly said: string
  readonly problems?: readonly string[]
}

/** What an errand does; answers with what came of it. Its id is for what notes its own end in the same transaction. */
type Work = (told: Told, signal: AbortSignal, errandId: string) => Promise<string | Trouble>
const CANCELLED = { state: 'cancelled', said: 'Cancelled; nothing was changed.' } as const

/** Long work that somebody asked for. How far it is stands in the database: any instance tells it, any instance cancels it. */
export class Errands {
  readonly #under = new Set<{ readonly stop: AbortController; readonly over: Promise<void> }>()

  constructor(private readonly db: Database) {}

  async read(id: string): Promise<Errand | undefined> {
    const [row] = await this.db
      .select({ ...columns, dead: sql<boolean>`${errands.beatAt} < now() - ${DEAD}` })
      .from(errands)
      .where(eq(errands.id, id))
    if (!row) return undefined
    const { dead, ...errand } = row
    return errand.state === 'under way' && dead
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
            and(eq(errands.state, 'under way'), gt(errands.beatAt, sql`now() - ${DEAD}`)),
          ),
        ),
      )
  }

  async cancel(id: string): Promise<void> {
    await this.db.update(errands).set({ cancelled: true }).where(eq(errands.id, id))
    await this.db
      .update(errands)
      .set(CANCELLED)
      .where(and(eq(errands.id, id), eq(errands.state, 'waiting')))
  }

  /** Notes an errand that whichever instance does such work is going to {@link take}. */
  async note(kind: Errand['kind']): Promise<Errand> {
    const id = newId()
    await this.db.insert(errands).values({ id, kind, state: 'waiting' })
    return (await this.read(id))!
  }
  /** Does an errand that was noted, to its end; one that was cancelled meanwhile, or that another has taken, is not begun. */
  async take(id: string, work: Work, trouble: (e: unknown) => Trouble): Promise<void> {
    const taken = await this.db
      .update(errands)
      .set({ state: 'under way', beatAt: sql`now()` })
      .where(and(eq(errands.id, id), eq(errands.state, 'waiting')))
      .returning({ id: errands.id })
    if (taken.length > 0) await this.#begun(id, work, trouble)
  }

  /** Does something that somebody waits for, and tells whoever asks by its id how far it is meanwhile. */
  async within<T>(id: string | undefined, work: (told: Told) => Promise<T>): Promise<T> {
    if (id === undefined) return await work(() => {})
    let at = { stage: 'reading', done: 0, total: 0 }
    const own = and(eq(errands.id, id), eq(errands.kind, 'import'))
    await this.db
      .insert(errands)
      .values({ id, kind: 'import', ...at })
      .onConflictDoNothing()
    const timer = setInterval(
      () =>
        void this.db
          .update(errands)
          .set({ ...at, beatAt: sql`now()` })
          .where(own)
          .catch(() => {}),
      BEAT_MS,
    )
    try {
      return await work((progress) => void (at = { ...progress }))
    } finally {
      clearInterval(timer)
      await this.db
        .delete(errands)
        .where(own)
        .catch(() => {})
    }
  }

  /**
   * Begins an errand and answers at once.
   *
   * @param work what it does; answers with what came of it, in a sentence
   * @param trouble what an error is called
   */
  async begin(kind: Errand['kind'], work: Work, trouble: (e: unknown) => Trouble): Promise<Errand> {
    const id = newId()
    await this.db.insert(errands).values({ id, kind })
    void this.#begun(id, work, trouble)
    return (await this.read(id))!
  }

  #begun(id: string, work: Work, trouble: (e: unknown) => Trouble): Promise<void> {
    const stop = new AbortController()
    const under = { stop, over: this.#run(id, work, trouble, stop) }
    this.#under.add(under)
    return under.over.finally(() => this.#under.delete(under))
  }

  async #run(id: string, work: Work, trouble: (e: unknown) => Trouble, stop: AbortController): Promise<void> {
    let at = { stage: '', done: 0, total: 0 }
    const beat = async () => {
      const [row] = await this.db
        .update(errands)
        .set({ ...at, beatAt: sql`now()` })
        .where(eq(errands.id, id))
        .returning({ cancelled: errands.cancelled })
      if (row?.cancelled) stop.abort(new Error('Cancelled.'))
    }
    // a database that is away for a moment says nothing against the errand
    const timer = setInterval(() => void beat().catch(() => {}), BEAT_MS)
    const told: Told = (progress) => void (at = { ...progress })
    let ended: Partial<typeof errands.$inferInsert>
    try {
      const came = await work(told, stop.signal, id)
      ended = { state: 'done', ...(typeof came === 'string' ? { said: came } : came) }
    } catch (e) {
      const { said, problems = [] } = trouble(e)
      ended = stop.signal.aborted ? CANCELLED : { state: 'failed', said, problems }
    } finally {
      clearInterval(timer)
    }
    await this.db
      .update(errands)
      .set({ ...at, ...ended })
      .where(eq(errands.id, id))
      .catch(() => {})
  }

  /** Ends what is under way; nothing of it is done. */
  async stop(): Promise<void> {
    const under = [...this.#under]
    for (const { stop } of under) stop.abort(new Error('The server was stopped.'))
    await Promise.all(under.map((u) => u.over))
  }
}
