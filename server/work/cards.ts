import { eq, inArray, sql } from 'drizzle-orm'
import { ratedFromShelf, sheetOf, shelvedDiscs } from '../../contract/sheet.ts'
import { trialNames } from '../../contract/naming.ts'
import type { TrialCard } from '../../contract/cards.ts'
import type { Database } from '../store/database.ts'
import { cards, trials } from '../store/schema.ts'
import { readShelf } from '../store/shelf.ts'
import { readThrowers, readTrial } from '../store/trials.ts'
import type { CardWork } from './cards.worker.ts'
import { Thread } from './thread.ts'

/** Writes follow one another in the field; cards wait until they pause, ms. */
const PAUSE_MS = 1500
const AFTER_FAILURE_MS = 10_000

/** What a trial and its throws are at: another write of any of them is another mark. Names in full: it stands in queries of several tables. */
const mark = sql<string>`trials.version || ' ' || (
  select count(*) || ' ' || coalesce(sum(throws.version), 0) from throws where throws.trial_id = trials.id)`

/** Whether a row could not be stored because the trial it belongs to was taken away meanwhile. */
const isGone = (e: unknown): boolean => ((e as { cause?: { code?: string } }).cause?.code ?? '') === '23503'

/** Keeps what each trial says so far, worked out when it has changed, so that nobody waits for it on the bench. */
export class Cards {
  readonly #thread = new Thread<CardWork>(new URL('./cards.worker.mjs', import.meta.url))
  #timer: ReturnType<typeof setTimeout> | undefined
  #running = false
  #again = false
  #awake = false
  #stopped = false
  /** Counts writes that cards of many trials may depend on. */
  #writes = 0

  constructor(
    private readonly db: Database,
    private readonly onError: (error: unknown) => void,
  ) {}

  /** Cards of some trials as they are now; of a trial whose card is behind there is none. */
  async read(ids: readonly string[]): Promise<TrialCard[]> {
    this.wake()
    const rows = await this.db
      .select({ card: cards.card })
      .from(cards)
      .innerJoin(trials, eq(trials.id, cards.trialId))
      .where(sql`${inArray(trials.id, [...ids])} and not ${cards.stale} and ${cards.mark} = ${mark}`)
    return rows.map((r) => r.card)
  }

  /** From now on cards are kept: somebody looks at them. */
  wake(): void {
    if (this.#awake) return
    this.#awake = true
    this.#soon(0)
  }

  /** Something was written: throws or a trial, whose marks say so themselves, or what any trial may depend on. */
  touch(what: 'marked' | 'anything'): void {
    if (what === 'anything') {
      this.#writes++
      this.#stale().catch(this.onError)
    }
    if (this.#awake) this.#soon(PAUSE_MS)
  }

  async stop(): Promise<void> {
    this.#stopped = true
    clearTimeout(this.#timer)
    await this.#thread.stop()
  }

  async #stale(): Promise<void> {
    await this.db.update(cards).set({ stale: true })
  }

  #soon(ms: number): void {
    if (this.#stopped) return
    if (this.#running) {
      this.#again = true
      return
    }
    clearTimeout(this.#timer)
    this.#timer = setTimeout(() => void this.#run(), ms)
    this.#timer.unref()
  }

  async #run(): Promise<void> {
    this.#running = true
    this.#again = false
    let next: number | undefined
    try {
      await this.#all()
    } catch (e) {
      if (!this.#stopped) this.onError(e)
      next = AFTER_FAILURE_MS
    }
    this.#running = false
    if (next !== undefined || this.#again) this.#soon(next ?? PAUSE_MS)
  }

  /** Works out every card that is behind, those of the trials thrown last first. */
  async #all(): Promise<void> {
    // the shelf is read once: what is written of it from here on has its cards made again
    const before = this.#writes
    const behind = await this.db
      .select({ id: trials.id })
      .from(trials)
      .leftJoin(cards, eq(cards.trialId, trials.id))
      .where(
        sql`(${cards.trialId} is null or ${cards.stale} or ${cards.mark} <> ${mark})
            and exists (select 1 from throws where throws.trial_id = trials.id)`,
      )
      .orderBy(sql`${trials.finishedAt} desc nulls first, ${trials.createdAt} desc`)
    if (behind.length === 0) return
    const [shelf, people] = await Promise.all([readShelf(this.db), readThrowers(this.db)])
    const byId = new Map(shelvedDiscs(shelf).map((d) => [d.disc.id, d]))
    const { length } = behind
    for (let i = 0; i < length && !this.#stopped; i++) {
      const { id } = behind[i]!
      const [at] = await this.db.select({ mark }).from(trials).where(eq(trials.id, id))
      const file = await readTrial(this.db, id)
      if (!at || !file) continue
      const discs = file.trial.discIds.flatMap((d) => byId.get(d) ?? [])
      const rated = discs.map((d) => ratedFromShelf(d, file.trial.controlDiscId))
      const sheet = sheetOf(file, discs, people)
      const card = await this.#thread.asked((work) => work.card(id, sheet, rated, trialNames(discs)))
      if (this.#stopped) return
      // what was written meanwhile has it worked out again
      const row = { trialId: id, mark: at.mark, card, stale: this.#writes !== before }
      try {
        await this.db.insert(cards).values(row).onConflictDoUpdate({ target: cards.trialId, set: row })
      } catch (e) {
        if (!isGone(e)) throw e
      }
      if (this.#writes !== before) {
        this.#again = true
        return
      }
    }
  }
}
