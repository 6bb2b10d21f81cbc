import type { Database } from '../store/database.ts'
import { ShelfState } from '../store/shelfState.ts'
import type { WorkQueue } from './queue.ts'

/** Writes follow one another in the field; the shelf waits a moment for more, ms. */
const PAUSE_MS = 600

/** How the ratings of the shelf stand, where whoever keeps them in step can be asked to. */
export class ShelfRatings extends ShelfState {
  constructor(
    db: Database,
    private readonly queue: WorkQueue,
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
  override async everything(): Promise<void> {
    await super.everything()
    await this.queue.send('weigh', {})
  }
}
