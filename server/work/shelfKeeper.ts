import { v7 as newId } from 'uuid'
import { setTimeout as pause } from 'node:timers/promises'
import type { Connection } from '../store/database.ts'
import type { WorkQueue } from './queue.ts'
import type { ShelfRatings } from './shelf.ts'
import type { ShelfWork } from './shelf.worker.ts'
import { Thread } from './thread.ts'

/** Throws that follow what all the others say wait for no more than those sent with them, ms. */
const SHORT_PAUSE_MS = 25
/** Everything is weighed again once nothing has been thrown for so long, ms. */
const IDLE_MS = 120_000
/** Whoever keeps the shelf says so so often, ms. */
const BEAT_MS = 1500

/**
 * Keeps the ratings of the shelf in step with what was thrown. It remembers what all throws say, so that a few more can follow:
 * one instance at a time does that, and another takes its place when it is gone.
 */
export class ShelfKeeper {
  readonly #me = newId()
  readonly #thread = new Thread<ShelfWork>(new URL('./shelf.worker.mjs', import.meta.url), Infinity)
  #timer: ReturnType<typeof setTimeout> | undefined
  #idleTimer: ReturnType<typeof setTimeout> | undefined
  #keeping = false
  #stopped = false

  constructor(
    private readonly connection: Connection,
    private readonly queue: WorkQueue,
    private readonly shelf: ShelfRatings,
  ) {}

  /** Keeps the shelf as soon as nobody else does. */
  start(): Promise<void> {
    return this.#beat()
  }

  async stop(): Promise<void> {
    this.#stopped = true
    clearTimeout(this.#timer)
    clearTimeout(this.#idleTimer)
    // a rating under way ends with its thread; nothing waits for its answer
    await this.#thread.stop()
    await this.shelf.leave(this.#me).catch(() => {})
  }

  async #beat(): Promise<void> {
    try {
      const mine = await this.shelf.keep(this.#me)
      if (!this.#stopped && mine !== this.#keeping) await this.#turn(mine)
    } catch {
      // a database that is away is kept by nobody
    }
    if (!this.#stopped) this.#timer = setTimeout(() => void this.#beat(), BEAT_MS).unref()
  }

  async #turn(keeping: boolean): Promise<void> {
    if (keeping) {
      // whatever whoever kept it before had under way
      await this.shelf.everything()
      this.queue.work('weigh', () => this.#weigh(), MANY)
      this.queue.work('follow', () => this.#follow(), MANY)
    } else {
      clearTimeout(this.#idleTimer)
      await this.queue.rest('weigh', 'follow')
      // what it remembers is not what the one who keeps it now finds
      await this.#thread.stop()
    }
    this.#keeping = keeping
  }

  /** Everything anew. */
  async #weigh(): Promise<void> {
    clearTimeout(this.#idleTimer)
    const { all } = await this.#thread.asked((work) => work.weigh(this.connection.url, this.#me))
    if (!all) this.shelf.changed()
  }

  /** Throws written since, on top of what everything else says; where that cannot be, everything anew. */
  async #follow(): Promise<void> {
    await pause(SHORT_PAUSE_MS)
    const { all } = await this.#thread
      .asked((work) => work.follow(this.connection.url, this.#me))
      .catch(() => ({ all: false }))
    if (this.#stopped) return
    if (!all) this.shelf.changed()
    clearTimeout(this.#idleTimer)
    this.#idleTimer = setTimeout(() => this.queue.ask('weigh', {}), IDLE_MS).unref()
  }
}

/** Whatever was asked for is done at once. */
const MANY = 100
