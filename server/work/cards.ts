import { eq, inArray, sql } from 'drizzle-orm'
import { ratedFromShelf, shelved, sheetOf } from '../../contract/sheet.ts'
import { trialNames } from '../../contract/naming.ts'
import type { TrialCard } from '../../contract/cards.ts'
import type { Database } from '../store/database.ts'
import { cards, discs, trials } from '../store/schema.ts'
import { readShelfRows } from '../store/shelfPage.ts'
import { readThrowers, readTrial } from '../store/trials.ts'
import type { CardWork } from './cards.worker.ts'
import type { Queue } from './queue.ts'
import { Thread } from './thread.ts'

/** Writes follow one another in the field; cards wait a moment for more, ms. */
const PAUSE_MS = 1500
/** Cards worked out one after the other before it is looked whether another instance would do the next. */
const AT_ONCE = 4

/** What a trial and its throws are at: another write of any of them is another mark. Names in full: it stands in queries of several tables. */
const mark = sql<string>`trials.version || ' ' || (
  select count(*) || ' ' || coalesce(sum(throws.version), 0) from throws where throws.trial_id = trials.id)`
/** Whether a card says what its trial says by now. */
const isCurrent = sql`(${cards.card} is not null and ${cards.known} = ${cards.touched} and ${cards.mark} = ${mark})`

/** Keeps what each trial says so far, worked out when it has changed, so that nobody waits for it on the bench. */
export class Cards {
  readonly #thread = new Thread<CardWork>(new URL('./cards.worker.mjs', import.meta.url))

  constructor(
    private readonly db: Database,
    private readonly queue: Queue,
    private readonly onError: (error: unknown) => void,
  ) {}

  /** Cards of some trials as they are now; of a trial whose card is behind there is none. */
  async read(ids: readonly string[]): Promise<TrialCard[]> {
    const rows = await this.db
      .select({ card: cards.card })
      .from(cards)
      .innerJoin(trials, eq(trials.id, cards.trialId))
      .where(sql`${inArray(trials.id, [...ids])} and ${isCurrent}`)
    if (rows.length < ids.length) this.queue.ask('cards', {})
    return rows.map((r) => r.card!)
  }

  /** Something was written: throws or a trial, whose marks say so themselves, or what any trial may depend on. */
  touch(what: 'marked' | 'anything'): void {
    if (what === 'anything')
      this.db
        .update(cards)
        .set({ touched: sql`${cards.touched} + 1` })
        .then(
          () => this.queue.ask('cards', {}, PAUSE_MS),
          (e: unknown) => this.onError(e),
        )
    else this.queue.ask('cards', {}, PAUSE_MS)
  }

  /** Works cards out, from now on. */
  start(): void {
    this.queue.work('cards', () => this.#find())
    this.queue.work(
      'card',
      async (asked) => {
        for (const { trialId } of asked) await this.#make(trialId)
      },
      AT_ONCE,
    )
    this.queue.ask('cards', {})
  }

  stop(): Promise<void> {
    return this.#thread.stop()
  }

  /** Asks for every card that is behind, those of the trials thrown last first. */
  async #find(): Promise<void> {
    const behind = await this.db
      .select({ trialId: trials.id })
      .from(trials)
      .leftJoin(cards, eq(cards.trialId, trials.id))
      .where(
        sql`(${cards.trialId} is null or not ${isCurrent})
            and exists (select 1 from throws where throws.trial_id = trials.id)`,
      )
      .orderBy(sql`${trials.finishedAt} desc nulls first, ${trials.createdAt} desc`)
    for (const { trialId } of behind) await this.queue.send('card', { trialId })
  }

  async #make(trialId: string): Promise<void> {
    const { db } = this
    // what is written from here on is another mark, or counted: it has the card made again
    const at = await db.transaction(async (tx) => {
      const [there] = await tx.select({ mark }).from(trials).where(eq(trials.id, trialId)).for('key share')
      if (!there) return undefined
      await tx.insert(cards).values({ trialId }).onConflictDoNothing()
      const [card] = await tx.select({ touched: cards.touched }).from(cards).where(eq(cards.trialId, trialId))
      return card && { mark: there.mark, known: card.touched }
    })
    const file = at && (await readTrial(db, trialId))
    if (!file) return
    const [rows, people] = await Promise.all([
      readShelfRows(db, inArray(discs.id, [...file.trial.discIds])),
      readThrowers(db),
    ])
    const byId = new Map(rows.map((r) => [r.disc.id, shelved(r)]))
    const thrown = file.trial.discIds.flatMap((d) => byId.get(d) ?? [])
    const rated = thrown.map((d) => ratedFromShelf(d, file.trial.controlDiscId))
    const sheet = sheetOf(file, thrown, people)
    const card = await this.#thread.asked((work) => work.card(trialId, sheet, rated, trialNames(thrown)))
    await db
      .update(cards)
      .set({ ...at, card })
      .where(eq(cards.trialId, trialId))
  }
}
