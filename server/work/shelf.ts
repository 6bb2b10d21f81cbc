import { eq, sql } from 'drizzle-orm'
import type { LabelGap } from '../../core/judge/label.ts'
import type { KnownArm } from '../../contract/lab.ts'
import type { NotWeighed } from '../../contract/shelfPage.ts'
import type { Database } from '../store/database.ts'
import { shelfState, unweighed } from '../store/schema.ts'
import type { Queue } from './queue.ts'

/** Writes follow one another in the field; the shelf waits a moment for more, ms. */
const PAUSE_MS = 600

/** How the ratings of the shelf stand, told by the database. */
export class ShelfState {
  constructor(protected readonly db: Database) {}

  /** Whether newer throws are being weighed than the ratings show. */
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

  /** What throws say against the numbers of a disc's plastic. */
  async gapsOf(discId: string): Promise<readonly LabelGap[]> {
    const [row] = await this.db
      .select({ it: sql<readonly LabelGap[] | null>`${shelfState.gaps} -> ${discId}` })
      .from(shelfState)
      .where(eq(shelfState.id, 1))
    return row?.it ?? []
  }
}

/** The same, where whoever keeps them in step can be asked to. */
export class Shelf extends ShelfState {
  constructor(
    db: Database,
    private readonly queue: Queue,
  ) {
    super(db)
  }

  /** A throw was written. The database has noted it. */
  thrown(): void {
    this.queue.ask('follow', {})
  }
  /** Something else was written that ratings may depend on. The database has noted it. */
  changed(): void {
    this.queue.ask('weigh', {}, PAUSE_MS)
  }
  /** So much was written that everything is to be weighed again, whatever the database has noted. */
  async everything(): Promise<void> {
    await this.db.insert(unweighed).values({ throwId: null })
    await this.queue.send('weigh', {})
  }
}
