import type { WriteKind } from '../../contract/writes.ts'
import type { Connection } from '../store/database.ts'
import { Cards } from './cards.ts'
import { Files } from './files.ts'
import { Records } from './records.ts'
import { ShelfRater } from './shelfRater.ts'

/** Everything the server works out away from the thread that answers requests. */
export class Works {
  /** Ratings of the shelf. */
  readonly shelf: ShelfRater
  /** What each trial says so far. */
  readonly cards: Cards
  /** What discs' pages say of them. */
  readonly records: Records
  /** Files that are imported. */
  readonly files = new Files()

  constructor(connection: Connection, onError: (error: unknown) => void) {
    this.shelf = new ShelfRater(connection.url, onError)
    this.cards = new Cards(connection.db, onError)
    this.records = new Records(onError)
  }

  /** Something was written that what is worked out may depend on; of which kind, and which row, where that is known. */
  touch(kind?: WriteKind, id?: string): void {
    this.shelf.touch(kind === 'throws' ? id : undefined)
    this.cards.touch(kind === 'throws' || kind === 'trials' ? 'marked' : 'anything')
  }

  /** Ends all of it; whatever is under way has no answer. */
  async stop(): Promise<void> {
    await Promise.all([this.shelf.stop(), this.cards.stop(), this.records.stop(), this.files.stop()])
  }
}
