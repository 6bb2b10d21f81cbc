import type { NotWeighed } from '../../contract/shelfPage.ts'
import type { ShelfWork } from './shelf.worker.ts'
import { Thread } from './thread.ts'

/** Writes follow one another in the field; the shelf waits until they pause, but not for ever, ms. */
const PAUSE_MS = 600
const LONGEST_MS = 5000
/** Before a rating that failed is tried again, ms: its database may be back by then. */
const AFTER_FAILURE_MS = 5000
const AFTER_FAILURES_MS = 300_000

/** Keeps the ratings of the shelf in step with what was thrown. */
export class ShelfRater {
  /** It remembers where the last rating ended. */
  readonly #thread = new Thread<ShelfWork>(new URL('./shelf.worker.mjs', import.meta.url), Infinity)
  #wanted = 0
  #done = 0
  #notWeighed: NotWeighed = []
  #failures = 0
  /** When the first write came that no rating under way knows of. */
  #since: number | undefined
  #timer: ReturnType<typeof setTimeout> | undefined
  #running: Promise<void> | undefined
  #stopped = false

  constructor(
    /** Address of the database. */
    private readonly url: string,
    private readonly onError: (error: unknown) => void,
  ) {}

  /** Something was written that ratings may depend on. */
  touch(): void {
    if (this.#stopped) return
    this.#wanted++
    this.#since ??= Date.now()
    this.#soon(Math.max(0, Math.min(PAUSE_MS, this.#since + LONGEST_MS - Date.now())))
  }

  #soon(ms: number): void {
    if (this.#stopped) return
    clearTimeout(this.#timer)
    this.#timer = setTimeout(() => this.#run(), ms)
    this.#timer.unref()
  }

  /** Whether newer throws are being weighed than the ratings show. */
  get behind(): boolean {
    return this.#done < this.#wanted
  }

  /** Throws that could not be weighed with the rest. */
  get notWeighed(): NotWeighed {
    return this.#notWeighed
  }

  async stop(): Promise<void> {
    this.#stopped = true
    clearTimeout(this.#timer)
    // a rating under way ends with its thread; nothing waits for its answer
    await this.#thread.stop()
  }

  #run(): void {
    if (this.#running || this.#stopped) return
    const at = this.#wanted
    this.#since = undefined
    this.#running = this.#rate()
      .then(
        () => {
          this.#done = at
          this.#failures = 0
          if (this.behind) this.#soon(PAUSE_MS)
        },
        (error: unknown) => {
          this.onError(error)
          this.#soon(Math.min(AFTER_FAILURES_MS, AFTER_FAILURE_MS * 2 ** this.#failures++))
        },
      )
      .finally(() => {
        this.#running = undefined
      })
  }

  async #rate(): Promise<void> {
    this.#notWeighed = await this.#thread.asked((work) => work.rate(this.url))
  }
}
