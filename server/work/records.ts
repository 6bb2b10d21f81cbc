import { createHash } from 'node:crypto'
import { LRUCache } from 'lru-cache'
import type { FlownDisc, Likenesses } from '../../core/judge/likeness.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import type { DiscOutcome } from '../../core/rating/outcome.ts'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import type { RecordWork } from './records.worker.ts'
import { Thread } from './thread.ts'

/** A day's throws, as the fit takes them. */
export interface Day {
  readonly day: string
  readonly sheet: readonly SheetThrow[]
  readonly discs: readonly RatedDisc[]
}

/** Which discs fly most like another, and how many are wanted. */
export interface LikeQuestion {
  readonly disc: FlownDisc
  readonly others: ReadonlyMap<string, FlownDisc>
  readonly armMps: number
  readonly shown: { readonly most: number; readonly least: number }
}

/** A page waits so long for what has to be weighed; what takes longer comes when the page asks again, ms. */
const PATIENCE_MS = 100
/** Answers that are kept. */
const KEPT = 400

const digest = (...told: unknown[]) => createHash('sha1').update(JSON.stringify(told)).digest('base64')

/** What has to be weighed for discs' pages. The same throws are weighed once. */
export class Records {
  readonly #thread = new Thread<RecordWork>(new URL('./records.worker.mjs', import.meta.url))
  readonly #answers = new LRUCache<string, Promise<object> | object>({ max: KEPT })

  #stopped = false

  constructor(private readonly onError: (error: unknown) => void) {}

  /** Every day weighed on its own; undefined for those still being weighed. */
  days(days: readonly Day[]): Promise<(readonly DiscOutcome[] | undefined)[]> {
    return Promise.all(
      days.map((day) =>
        this.#soon(digest('day', day.sheet, day.discs), () =>
          this.#thread.asked((work) => work.day(day.sheet, day.discs)),
        ),
      ),
    )
  }

  /** Undefined while it is being worked out. */
  likest({ disc, others, armMps, shown }: LikeQuestion): Promise<Likenesses | undefined> {
    return this.#soon(digest('like', disc, [...others], armMps, shown), () =>
      this.#thread.asked((work) => work.likest(disc, others, armMps, shown)),
    )
  }

  async stop(): Promise<void> {
    this.#stopped = true
    await this.#thread.stop()
  }

  /** An answer that is there, or comes soon. */
  async #soon<T extends object>(key: string, work: () => Promise<T>): Promise<T | undefined> {
    const before = this.#answers.get(key) as T | Promise<T> | undefined
    const answer = before ?? work()
    if (before === undefined) {
      this.#answers.set(key, answer)
      void (answer as Promise<T>).then(
        (value) => this.#answers.set(key, value),
        (e: unknown) => {
          this.#answers.delete(key)
          if (!this.#stopped) this.onError(e)
        },
      )
    }
    if (!(answer instanceof Promise)) return answer
    return await Promise.race([
      answer,
      new Promise<undefined>((late) => setTimeout(() => late(undefined), PATIENCE_MS)),
    ])
  }
}
