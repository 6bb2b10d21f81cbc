import type { LabelGap } from '../../core/judge/label.ts'
import type { NotWeighed } from '../../contract/shelfPage.ts'
import type { ShelfRated, ShelfWork } from './shelf.worker.ts'
import { Thread } from './thread.ts'

/** Writes follow one another in the field; the shelf waits until they pause, but not for ever, ms. */
const PAUSE_MS = 600
const LONGEST_MS = 5000
/** Throws that follow what all the others say wait for no more than those sent with them, ms. */
const SHORT_PAUSE_MS = 25
/** Everything is weighed again once nothing has been thrown for so long, ms. */
const IDLE_MS = 120_000
/** Before a rating that failed is tried again, ms: its database may be back by then. */
const AFTER_FAILURE_MS = 5000
const AFTER_FAILURES_MS = 300_000

/** Writes of one kind: how many came, and how many the ratings show. */
interface Count {
  wanted: number
  done: number
}

/** Keeps the ratings of the shelf in step with what was thrown. */
export class ShelfRater {
  /** It remembers what all throws say. */
  readonly #thread = new Thread<ShelfWork>(new URL('./shelf.worker.mjs', import.meta.url), Infinity)
  /** Throws written one by one, and what may change anything. */
  readonly #throws: Count = { wanted: 0, done: 0 }
  readonly #anything: Count = { wanted: 0, done: 0 }
  /** Throws written that no rating knows of. */
  #written = new Set<string>()
  #notWeighed: NotWeighed = []
  #gapsOf: ReadonlyMap<string, readonly LabelGap[]> = new Map()
  #failures = 0
  /** When the first write came that no rating under way knows of. */
  #since: number | undefined
  #timer: ReturnType<typeof setTimeout> | undefined
  #shortTimer: ReturnType<typeof setTimeout> | undefined
  #idleTimer: ReturnType<typeof setTimeout> | undefined
  #rating = false
  #following = false
  #stopped = false

  constructor(
    /** Address of the database. */
    private readonly url: string,
    private readonly onError: (error: unknown) => void,
  ) {}

  /** Something was written that ratings may depend on: a throw, or anything at all. */
  touch(throwId?: string): void {
    if (this.#stopped) return
    if (throwId !== undefined) {
      this.#throws.wanted++
      this.#written.add(throwId)
      this.#followSoon()
      return
    }
    this.#anything.wanted++
    this.#since ??= Date.now()
    this.#rateSoon(Math.max(0, Math.min(PAUSE_MS, this.#since + LONGEST_MS - Date.now())))
  }

  /** Whether newer throws are being weighed than the ratings show. */
  get behind(): boolean {
    return [this.#throws, this.#anything].some((c) => c.done < c.wanted)
  }

  /** Throws that could not be weighed with the rest. */
  get notWeighed(): NotWeighed {
    return this.#notWeighed
  }

  /** What throws say against the numbers of a disc's plastic. */
  gapsOf(discId: string): readonly LabelGap[] {
    return this.#gapsOf.get(discId) ?? []
  }

  async stop(): Promise<void> {
    this.#stopped = true
    for (const timer of [this.#timer, this.#shortTimer, this.#idleTimer]) clearTimeout(timer)
    // a rating under way ends with its thread; nothing waits for its answer
    await this.#thread.stop()
  }

  #rateSoon(ms: number): void {
    if (this.#stopped) return
    clearTimeout(this.#timer)
    this.#timer = setTimeout(() => void this.#rate(), ms).unref()
  }

  #followSoon(): void {
    if (this.#stopped || this.#following) return
    clearTimeout(this.#shortTimer)
    this.#shortTimer = setTimeout(() => void this.#follow(), SHORT_PAUSE_MS).unref()
  }

  /** Everything anew. */
  async #rate(): Promise<void> {
    if (this.#rating || this.#stopped) return
    this.#rating = true
    const { wanted } = this.#anything
    this.#since = undefined
    clearTimeout(this.#idleTimer)
    try {
      const { all } = this.#took(await this.#thread.asked((work) => work.rate(this.url)))
      this.#anything.done = wanted
      this.#failures = 0
      if (!all) this.#anything.wanted++
      if (this.#anything.done < this.#anything.wanted) this.#rateSoon(PAUSE_MS)
    } catch (error) {
      if (this.#stopped) return
      this.onError(error)
      this.#rateSoon(Math.min(AFTER_FAILURES_MS, AFTER_FAILURE_MS * 2 ** this.#failures++))
    } finally {
      this.#rating = false
    }
  }

  /** Throws written since, on top of what everything else says; where that cannot be, everything anew. */
  async #follow(): Promise<void> {
    if (this.#following || this.#stopped) return
    this.#following = true
    const { wanted } = this.#throws
    const ids = [...this.#written]
    this.#written = new Set()
    const followed = await this.#thread
      .asked((work) => work.follow(this.url, ids))
      .then(
        (rated) => this.#took(rated).all,
        () => false,
      )
    this.#following = false
    if (this.#stopped) return
    // what does not follow is part of everything
    this.#throws.done = wanted
    if (!followed) this.touch()
    if (this.#throws.done < this.#throws.wanted) this.#followSoon()
    clearTimeout(this.#idleTimer)
    this.#idleTimer = setTimeout(() => void this.#rate(), IDLE_MS).unref()
  }

  #took(rated: ShelfRated): ShelfRated {
    this.#notWeighed = rated.notWeighed
    this.#gapsOf = rated.gapsOf ?? this.#gapsOf
    return rated
  }
}
