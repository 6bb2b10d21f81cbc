import { and, eq, lt, or, sql } from 'drizzle-orm'
import type { LabelGap } from '../../core/judge/label.ts'
import type { KnownArm } from '../../contract/lab.ts'
import type { NotWeighed } from '../../contract/shelfPage.ts'
import type { Database } from './database.ts'
import { shelfState, unweighed } from './schema.ts'
import type { WeighsShelf } from './weighing.ts'

/** Whoever keeps the shelf and has not said so for so long keeps it no more. */
const LEASE = sql`now() + interval '6 seconds'`

/** How the ratings of the shelf stand, told by the database. */
export class ShelfState implements WeighsShelf {
  constructor(private readonly db: Database) {}

  async behind(): Promise<boolean> {
    const [row] = await this.db.select({ id: unweighed.id }).from(unweighed).limit(1)
    return row !== undefined
  }

  /** Throws that could not be weighed with the rest. */
  async notWeighed(): Promise<NotWeighed> {
    const [row] = await this.db
      .select({ it: shelfState.notWeighed })
      .from(shelfState)
      .where(eq(shelfState.id, 1))
    return row?.it ?? []
  }

  /** Arms as all their throws have shown them. */
  async arms(): Promise<readonly KnownArm[]> {
    const [row] = await this.db.select({ it: shelfState.arms }).from(shelfState).where(eq(shelfState.id, 1))
    return row?.it ?? []
  }

  async gapsOf(discId: string): Promise<readonly LabelGap[]> {
    const [row] = await this.db
      .select({ it: sql<readonly LabelGap[] | null>`${shelfState.gaps} -> ${discId}` })
      .from(shelfState)
      .where(eq(shelfState.id, 1))
    return row?.it ?? []
  }

  /** Notes that everything is to be weighed again, whatever else is noted. */
  async everything(): Promise<void> {
    await this.db.insert(unweighed).values({ throwId: null })
  }

  /**
   * Keeps the shelf, or goes on keeping it, where nobody else does.
   *
   * @param me who would keep it, until it has not said so for {@link LEASE}
   * @returns whether it is mine
   */
  async keep(me: string): Promise<boolean> {
    const mine = await this.db
      .update(shelfState)
      .set({ keeper: me, keptUntil: LEASE })
      .where(and(eq(shelfState.id, 1), or(eq(shelfState.keeper, me), lt(shelfState.keptUntil, sql`now()`))))
      .returning({ id: shelfState.id })
    return mine.length > 0
  }

  async leave(me: string): Promise<void> {
    await this.db
      .update(shelfState)
      .set({ keptUntil: sql`now()`, keeper: null })
      .where(eq(shelfState.keeper, me))
  }
}
