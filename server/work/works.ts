import type { Moves } from '../../contract/writes.ts'
import type { Connection } from '../store/database.ts'
import { Cards } from './cards.ts'
import { Errands } from './errands.ts'
import { Files } from './files.ts'
import { Json } from './json.ts'
import { Pages } from './pages.ts'
import { WorkQueue } from './queue.ts'
import { ShelfRatings } from './shelf.ts'
import { ShelfKeeper } from './shelfKeeper.ts'

/** Everything the server works out away from the thread that answers requests. */
export class Works {
  readonly queue: WorkQueue
  /** Ratings of the shelf. */
  readonly shelf: ShelfRatings
  /** What each trial says so far. */
  readonly cards: Cards
  /** Pages that look at the whole shelf. */
  readonly pages: Pages
  /** Files that are imported. */
  readonly files = new Files()
  /** Long bodies. */
  readonly json = new Json()
  /** Long work that somebody asked for. */
  readonly errands: Errands
  readonly #keeper: ShelfKeeper

  /** Called when so much was written at once that pages have to read everything again. */
  onAnything: () => void = () => {}

  constructor(
    connection: Connection,
    private readonly onError: (error: unknown) => void,
  ) {
    this.queue = new WorkQueue(connection, onError)
    this.shelf = new ShelfRatings(connection.db, this.queue)
    this.#keeper = new ShelfKeeper(connection, this.queue, this.shelf)
    this.cards = new Cards(connection.db, this.queue, onError)
    this.pages = new Pages(connection.url)
    this.errands = new Errands(connection.db)
  }

  /**
   * Opens the queue.
   *
   * @param doing whether this instance does what is asked for, or leaves that to others
   */
  async start(doing = true): Promise<void> {
    await this.queue.start()
    if (!doing) return
    await this.#keeper.start()
    this.cards.start()
  }

  /** A row was written that what is worked out may depend on. */
  touch(moves: Moves): void {
    if (moves === 'throws') this.shelf.thrown()
    else this.shelf.changed()
    this.cards.touch(moves === 'shelf' ? 'anything' : 'marked')
  }

  /** So much was written at once that everything is worked out again. */
  touchAll(): void {
    this.onAnything()
    this.shelf.everything().catch(this.onError)
    this.cards.touch('anything')
  }

  /** Ends all of it; whatever is under way has no answer. */
  async stop(): Promise<void> {
    // whatever is under way ends with its thread, and is given back
    const rested = this.queue.stop()
    await this.errands.stop()
    await Promise.all([
      this.#keeper.stop(),
      this.cards.stop(),
      this.pages.stop(),
      this.files.stop(),
      this.json.stop(),
    ])
    await rested
  }
}
