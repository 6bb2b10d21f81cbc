import { createHash } from 'node:crypto'
import { LRUCache } from 'lru-cache'

/** A page waits so long for what has to be worked out; what takes longer comes when the page asks again, ms. */
const PATIENCE_MS = 100

/** What stands for everything an answer depends on. */
export const digest = (...told: unknown[]): string =>
  createHash('sha1').update(JSON.stringify(told)).digest('base64')

/** Answers worked out once, by whoever asks first; what failed is tried again by whoever asks next. */
export class Once<T extends object> {
  readonly #answers: LRUCache<string, T, () => Promise<T>>

  /** @param kept so many answers are kept */
  constructor(kept: number) {
    this.#answers = new LRUCache<string, T, () => Promise<T>>({
      max: kept,
      fetchMethod: (_key, _before, { context: work }) => work(),
      // what is pushed out while it is worked out is still an answer to those who wait for it
      ignoreFetchAbort: true,
    })
  }

  /** The answer, where it is there already. */
  there(key: string): T | undefined {
    return this.#answers.get(key)
  }

  /** @param key the same answer has the same; see {@link digest} */
  get(key: string, work: () => Promise<T>): Promise<T> {
    return this.#answers.forceFetch(key, { context: work })
  }
}

/** Answers that may take a while: whoever asks waits a little, and asks again. */
export class Soon {
  readonly #once: Once<object>
  #stopped = false

  /** @param kept so many answers are kept */
  constructor(
    kept: number,
    private readonly onError: (error: unknown) => void,
  ) {
    this.#once = new Once(kept)
  }

  /**
   * An answer that is there, or comes soon; undefined while it is being worked out.
   *
   * @param key the same answer has the same; see {@link digest}
   */
  async get<T extends object>(key: string, work: () => Promise<T>): Promise<T | undefined> {
    const there = this.#once.there(key) as T | undefined
    if (there) return there
    const answer = this.#once.get(key, async () => {
      try {
        return await work()
      } catch (e) {
        if (!this.#stopped) this.onError(e)
        throw e
      }
    }) as Promise<T>
    return await Promise.race([
      answer,
      new Promise<undefined>((late) => setTimeout(() => late(undefined), PATIENCE_MS)),
    ])
  }

  /** Whatever fails from now on failed because everything ends. */
  stop(): void {
    this.#stopped = true
  }
}
