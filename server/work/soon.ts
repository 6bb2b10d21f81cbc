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

/** What was asked for gave way to something newer before it was begun. */
export class Overtaken extends Error {}

/**
 * Work of which only the latest matters: one is under way, one waits, and one that is asked for meanwhile takes the place of the
 * one that waits. However fast what it depends on changes, and however long it takes, no more than that is ever kept.
 */
export class Latest {
  #running = false
  #waiting: { readonly begin: () => void; readonly giveWay: () => void } | undefined

  /** @throws Overtaken where something newer was asked for before this was begun */
  ask<T>(work: () => Promise<T>): Promise<T> {
    return new Promise<T>((done, failed) => {
      const begin = () => {
        this.#running = true
        work()
          .then(done, failed)
          .finally(() => {
            this.#running = false
            const next = this.#waiting
            this.#waiting = undefined
            next?.begin()
          })
      }
      if (!this.#running) return begin()
      this.#waiting?.giveWay()
      this.#waiting = { begin, giveWay: () => failed(new Overtaken()) }
    })
  }
}

/** The same for each of many things. */
export class LatestOf {
  readonly #of = new LRUCache<string, Latest>({ max: 1000 })

  ask<T>(about: string, work: () => Promise<T>): Promise<T> {
    const latest = this.#of.get(about) ?? new Latest()
    this.#of.set(about, latest)
    return latest.ask(work)
  }
}

/**
 * The same question, asked by many at once: one answer is under way, and whoever asks meanwhile gets the next one, for which
 * everything is read after they asked.
 */
export class Shared<T> {
  readonly #under = new Map<string, { readonly now: Promise<T>; next?: Promise<T> }>()

  ask(about: string, work: () => Promise<T>): Promise<T> {
    const under = this.#under.get(about)
    if (under) return (under.next ??= under.now.catch(() => {}).then(() => this.#begin(about, work)))
    return this.#begin(about, work)
  }

  #begin(about: string, work: () => Promise<T>): Promise<T> {
    const turn: { readonly now: Promise<T>; next?: Promise<T> } = { now: work() }
    this.#under.set(about, turn)
    const over = () => {
      if (this.#under.get(about) === turn && !turn.next) this.#under.delete(about)
    }
    turn.now.then(over, over)
    return turn.now
  }
}

/** Answers that may take a while: whoever asks waits a little, and asks again. */
export class Soon {
  readonly #once: Once<object>
  readonly #latest = new LatestOf()
  #stopped = false

  /** @param kept so many answers are kept */
  constructor(
    kept: number,
    private readonly onError: (error: unknown) => void,
  ) {
    this.#once = new Once(kept)
  }

  /**
   * An answer that is there, or comes soon; undefined while it is being worked out, or when something newer is about the same.
   *
   * @param key the same answer has the same; see {@link digest}
   * @param about what it is about, however often that changes: of what waits to be worked out about it, the latest is
   */
  async get<T extends object>(key: string, about: string, work: () => Promise<T>): Promise<T | undefined> {
    const there = this.#once.there(key) as T | undefined
    if (there) return there
    const answer = this.#once
      .get(key, async () => {
        try {
          return await this.#latest.ask(about, work)
        } catch (e) {
          if (!this.#stopped && !(e instanceof Overtaken)) this.onError(e)
          throw e
        }
      })
      .catch((e: unknown) => {
        if (e instanceof Overtaken) return undefined
        throw e
      }) as Promise<T | undefined>
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
