import type { Problem } from '../../contract/problems.ts'
import { clockPutRight } from '../../core/throw/clock.ts'
import { WIRE } from '../../contract/writes.ts'
import type { Sent, WriteKind } from '../../contract/writes.ts'
import { madeFrom, NotKept, QueueStore } from './queueStore.ts'
import type { Refused, Waiting } from './queueStore.ts'
import type { Row } from '../../contract/row.ts'

export interface QueueOptions {
  readonly name: string
  /** Sends a row and answers with it as stored. */
  readonly send: (kind: WriteKind, body: Row, signal: AbortSignal) => Promise<Row>
  /** What the server said against a row; undefined where it said nothing of the row. */
  readonly refusal: (error: unknown) => Problem | undefined
  /** Why nobody here may write rows of a kind; undefined where they may. */
  readonly against?: (kind: WriteKind) => string | undefined
  /** Called with every row as the server has it, before it leaves the queue, on every page of this device. */
  readonly onSent: (sent: Pick<Waiting, 'kind' | 'body'>, stored: Row) => Promise<void>
  /** Called when a row was set aside: what is stored instead is not what is shown. */
  readonly onRefused: (refused: Omit<Refused, 'key'>) => void
  /** How far this device's clock is off, ms to be added; asked before what waits is sent. */
  readonly clock?: () => Promise<number>
  /** Called when times of a row were put right, by so much. */
  readonly onPutRight?: (offMs: number) => void
  /** Pause before a write that nobody answered is tried again; it doubles from one to the next, up to `longestMs`. */
  readonly retryMs: number
  readonly longestMs: number
  /** Does something while no other page of this device does it. */
  readonly alone?: (work: () => Promise<void>, signal: AbortSignal) => Promise<void>
}

/** What pages of one device tell each other. */
type News =
  | { readonly type: 'changed' }
  | {
      readonly type: 'sent'
      readonly sent: Pick<Waiting, 'kind' | 'body'>
      readonly stored: Row
    }

/**
 * Writes are put down on the device first, shown at once, and sent once, in order. A write that fails because nobody
 * answers is tried again; one of which the server says what is wrong with it is set aside with its reason. A write that was
 * stored but not acknowledged is sent again: it carries its row's id, so that it stays one row.
 *
 * Pages of one device share one store: one of them sends at a time, and each shows what all of them put down.
 */
export class Queue {
  readonly #store: QueueStore
  readonly #others: BroadcastChannel | undefined
  #waiting: readonly Waiting[] = []
  #refused: readonly Refused[] = []
  #listeners = new Set<() => void>()
  /** Readings of the store begun, and the latest that is shown. */
  #begun = 0
  #shown = 0
  #sending: Promise<void> | undefined
  #again = false
  #retry: ReturnType<typeof setTimeout> | undefined
  #pause = 0
  #held: string | undefined
  #stopped = new AbortController()

  constructor(private readonly options: QueueOptions) {
    this.#store = new QueueStore(options.name)
    if (typeof BroadcastChannel === 'undefined') return
    this.#others = new BroadcastChannel(options.name)
    this.#others.onmessage = (event: MessageEvent<News>) => void this.#hear(event.data)
  }

  readonly subscribe = (listener: () => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }
  readonly waiting = () => this.#waiting
  readonly refused = () => this.#refused
  /** Why the first write that waits could not be sent when that was last tried. */
  readonly held = () => this.#held

  /** Reads what an earlier visit left and starts sending. */
  async open(): Promise<void> {
    try {
      await this.#load()
    } catch (e) {
      this.#later((e as Error).message)
      throw e
    }
    this.send()
  }

  /**
   * Puts a row down; resolved once it is stored on this device.
   *
   * @throws NotKept when the device does not take it, or nobody here may write it
   */
  async put<K extends WriteKind>(kind: K, row: Sent<K>): Promise<void> {
    const against = this.options.against?.(kind)
    if (against !== undefined) throw new NotKept(against)
    const put = await this.#store.add(kind, WIRE, row)
    this.#now([...this.#waiting.filter((w) => w.key !== put.key), put])
    this.#others?.postMessage({ type: 'changed' } satisfies News)
    this.send()
  }

  /** Sends a refused write once more: put right, or as it is where what stood against it was put right elsewhere. */
  async sendAgain(key: number, mended?: Row): Promise<void> {
    const refused = this.#refused.find((r) => r.key === key)
    if (!refused) return
    await this.#store.again(refused, mended ?? refused.body)
    await this.#changed()
    this.send()
  }

  /** Lets a refused write go. */
  async drop(key: number): Promise<void> {
    await this.#store.drop(key)
    await this.#changed()
  }

  /** Sends what waits, if it is not being sent already. */
  send(): void {
    const { signal } = this.#stopped
    if (signal.aborted) return
    if (this.#sending) {
      this.#again = true
      return
    }
    clearTimeout(this.#retry)
    this.#again = false
    const work = () => this.#sendAll()
    this.#sending = (this.options.alone?.(work, signal) ?? work())
      // what went wrong with the store itself is tried again as well
      .catch((e: unknown) => void (signal.aborted || this.#later((e as Error).message)))
      .finally(() => {
        this.#sending = undefined
        if (this.#again) this.send()
      })
  }

  /** Ends as a page does that is closed: whatever is under way is left as it is. */
  async stop(): Promise<void> {
    this.#stopped.abort()
    clearTimeout(this.#retry)
    this.#others?.close()
    await this.#sending?.catch(() => {})
    await this.#store.close()
  }

  async #sendAll(): Promise<void> {
    const { signal } = this.#stopped
    // another page may have sent some of it meanwhile
    await this.#load()
    let offMs: number | undefined
    for (let next = this.#waiting[0]; next && !signal.aborted; next = this.#waiting[0]) {
      let stored: Row
      try {
        offMs ??= (await this.options.clock?.()) ?? 0
        const { body, at } = next
        const isNew = (body.version ?? 0) === 0
        const right = at === undefined ? body : clockPutRight(body, at, offMs, isNew, null)
        stored = await this.options.send(next.kind, right, signal)
        if (right !== body) this.options.onPutRight?.(offMs)
      } catch (e) {
        if (signal.aborted) return
        const problem = this.options.refusal(e)
        if (!problem) return this.#later((e as Error).message)
        this.#goesOn()
        const refused = await this.#store.refuse(next, problem)
        this.options.onRefused(refused)
        await this.#changed()
        continue
      }
      if (signal.aborted) return
      this.#goesOn()
      await this.options.onSent(next, stored)
      if (signal.aborted) return
      await this.#store.sent(next, stored)
      this.#others?.postMessage({
        type: 'sent',
        sent: { kind: next.kind, body: next.body },
        stored,
      } satisfies News)
      this.#now(withoutSent(this.#waiting, next, stored))
    }
  }

  #later(why: string): void {
    const { retryMs, longestMs } = this.options
    this.#pause = Math.min(longestMs, Math.max(retryMs, 2 * this.#pause))
    this.#hold(why)
    this.#retry = setTimeout(() => this.send(), this.#pause)
  }
  #goesOn(): void {
    this.#pause = 0
    this.#hold(undefined)
  }

  /** What another page did. */
  async #hear(news: News): Promise<void> {
    if (this.#stopped.signal.aborted) return
    try {
      if (news.type === 'sent') await this.options.onSent(news.sent, news.stored)
      await this.#load()
    } catch {
      // the store is read again with whatever comes next
      return
    }
    if (this.#waiting.length > 0) this.send()
  }

  async #changed(): Promise<void> {
    this.#others?.postMessage({ type: 'changed' } satisfies News)
    await this.#load()
  }
  /** Shows what the store holds; what this page did meanwhile has the reading made again. */
  async #load(): Promise<void> {
    let at: number
    let held: Awaited<ReturnType<QueueStore['load']>>
    do {
      at = ++this.#begun
      held = await this.#store.load()
    } while (at < this.#shown)
    const { waiting, refused } = held
    this.#shown = at
    ;[this.#waiting, this.#refused] = [waiting, refused]
    this.#tell()
  }
  /** Shows what the store holds since this page changed it. */
  #now(waiting: readonly Waiting[]): void {
    this.#shown = ++this.#begun
    this.#waiting = waiting
    this.#tell()
  }
  #hold(why: string | undefined): void {
    if (why === this.#held) return
    this.#held = why
    this.#tell()
  }
  #tell(): void {
    for (const listener of this.#listeners) listener()
  }
}

/** What waits once a write was acknowledged: later edits of the same row are made from what is stored now. */
const withoutSent = (waiting: readonly Waiting[], { key, body }: Waiting, stored: Row): Waiting[] =>
  waiting.filter((w) => w.key !== key).map((w) => ({ ...w, body: madeFrom(w.body, body, stored) }))
