import { eq, inArray, sql } from 'drizzle-orm'
import type { TrialCard } from '../../contract/cards.ts'
import type { Database } from './database.ts'
import { cards, trials } from './schema.ts'

/** What a trial and its throws are at: another write of any of them is another mark. Names in full: it stands in queries of several tables. */
const mark = sql<string>`trials.version || ' ' || (
  select count(*) || ' ' || coalesce(sum(throws.version), 0) from throws where throws.trial_id = trials.id)`
/** Whether a card says what its trial says by now. */
const isCurrent = sql`(${cards.card} is not null and ${cards.known} = ${cards.touched} and ${cards.mark} = ${mark})`

/** What a card was made of: kept with it, so that it shows when that has changed. */
export interface CardMark {
  readonly mark: string
  readonly known: number
}

/** What each trial says so far, as it is kept. */
export class CardRows {
  constructor(private readonly db: Database) {}

  /** Cards of some trials as they are now; of a trial whose card is behind there is none. */
  async read(ids: readonly string[]): Promise<TrialCard[]> {
    const rows = await this.db
      .select({ card: cards.card })
      .from(cards)
      .innerJoin(trials, eq(trials.id, cards.trialId))
      .where(sql`${inArray(trials.id, [...ids])} and ${isCurrent}`)
    return rows.map((r) => r.card!)
  }

  /** Something changed that any trial may depend on: every card is behind. */
  async touch(): Promise<void> {
    await this.db.update(cards).set({ touched: sql`${cards.touched} + 1` })
  }

  /** Trials whose card is behind, those thrown last first. */
  async behind(): Promise<string[]> {
    const rows = await this.db
      .select({ trialId: trials.id })
      .from(trials)
      .leftJoin(cards, eq(cards.trialId, trials.id))
      .where(
        sql`(${cards.trialId} is null or not ${isCurrent})
            and exists (select 1 from throws where throws.trial_id = trials.id)`,
      )
      .orderBy(sql`${trials.finishedAt} desc nulls first, ${trials.createdAt} desc`)
    return rows.map((r) => r.trialId)
  }

  /** What a trial is at before its card is made: what is written from here on is another mark, or counted. Undefined where there is none. */
  mark(trialId: string): Promise<CardMark | undefined> {
    return this.db.transaction(async (tx) => {
      const [there] = await tx.select({ mark }).from(trials).where(eq(trials.id, trialId)).for('key share')
      if (!there) return undefined
      await tx.insert(cards).values({ trialId }).onConflictDoNothing()
      const [card] = await tx.select({ touched: cards.touched }).from(cards).where(eq(cards.trialId, trialId))
      return card && { mark: there.mark, known: card.touched }
    })
  }

  async keep(trialId: string, at: CardMark, card: TrialCard): Promise<void> {
    await this.db
      .update(cards)
      .set({ ...at, card })
      .where(eq(cards.trialId, trialId))
  }
}
