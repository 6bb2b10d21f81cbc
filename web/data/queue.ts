import { openDB } from 'idb'
import type { DBSchema, IDBPDatabase } from 'idb'
import type { Problem } from '../../contract/imports.ts'
import { WIRE } from '../../contract/writes.ts'
import type { Sent, WriteKind, Written } from '../../contract/writes.ts'
import { broughtForward } from './older.ts'
import type { KeptWrite } from './older.ts'
import type { Row } from './row.ts'

/** A write that waits on this device until the server has acknowledged it. */
export interface Waiting {
  readonly key: number
  readonly kind: WriteKind
  /** Version of the wire its row is in. */
  readonly wire: number
  readonly body: Row
}
/** Whether a write is of a kind; its row then has the shape of that kind. */
export const isOf = <K extends WriteKind>(
  w: Waiting,
  ...kinds: readonly K[]
): w is Waiting & { readonly kind: K; readonly body: Written<K> } =>
  (kinds as readonly WriteKind[]).includes(w.kind)
/** A write the server refused; kept on this device until somebody mends or drops it. */
export interface Refused extends Waiting {
  readonly why: string
  /** The fields at fault. */
  readonly errors?: Problem['errors']
  /** What is stored instead, where somebody else changed the row meanwhile. */
  readonly stored?: Row
}

interface QueueSchema extends DBSchema {
  waiting: { key: number; value: KeptWrite }
  refused: { key: number; value: KeptWrite & Pick<Refused, 'why' | 'errors' | 'stored'> }
}

export interface QueueOptions {
  readonly name: string
  /** Sends a row and answers with it as stored. */
  readonly send: (kind: WriteKind, body: Row, signal: AbortSignal) => Promise<Row>
  /** What the server said against a row; undefined where it said nothing of the row. */
  readonly refusal: (error: unknown) => Problem | undefined
  /** Called with every row as the server has it, before it leaves the queue. */
  readonly onSent: (sent: Waiting, stored: Row) => Promise<void>
  /** Called when a row was set aside: what is stored instead is not what is shown. */
  readonly onRefused: (refused: Refused) => void
  /** Pause before a write that nobody answered is tried again; it doubles from one to the next, up to `longestMs`. */
  readonly retryMs: number
  readonly longestMs: number
}

/**
 * Writes are put down on the device first, shown at once, and sent once, in order. A write that fails because nobody
 * answers is tried again; one of which the server says what is wrong with it is set aside with its reason. A write that was stored but not
 * acknowledged is sent again: it carries its row's id, so that it stays one row.
 */
export class Queue {
  #db: Promise<IDBPDatabase<QueueSchema>> | undefined
  #waiting: readonly Waiting[] = []
  #refused: readonly Refused[] = []
  #listeners = new Set<() => void>()
  #sending: Promise<void> | undefined
  #again = false
  #retry: ReturnType<typeof setTimeout> | undefined
  #pause = 0
  #held: string | undefined
  #stopped = new AbortController()
  /** What this device’s own edits made of each version of a row: “id version” → version. */
  #made = new Map<string, number>()

  constructor(private readonly options: QueueOptions) {}

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
    const db = await this.#open()
    const [keys, values, oldKeys, old] = await Promise.all([
      db.getAllKeys('waiting'),
      db.getAll('waiting'),
      db.getAllKeys('refused'),
      db.getAll('refused'),
    ])
    const before = values.flatMap((v, i) => {
      const write = broughtForward(v)
      return write ? [{ key: keys[i]!, ...write }] : []
    })
    this.#refused = old.flatMap((v, i) => {
      const write = broughtForward(v)
      const { why, errors, stored } = v
      return write
        ? [{ key: oldKeys[i]!, ...write, why, ...(errors && { errors }), ...(stored && { stored }) }]
        : []
    })
    this.#set([...before, ...this.#waiting.filter((w) => !keys.includes(w.key))])
    this.send()
  }

  /** Puts a row down; resolved once it is stored on this device. */
  async put<K extends WriteKind>(kind: K, row: Sent<K>): Promise<void> {
    const body: Row = row
    const db = await this.#open()
    // what is read of this device’s own edits and the write itself must not be parted by another one
    const value = { kind, wire: WIRE, body: this.#upToDate(body) }
    const key = await db.add('waiting', value)
    // an acknowledgement that came meanwhile has brought it up to date in the store
    this.#set([...this.#waiting, { ...value, key, body: this.#upToDate(value.body) }])
    this.send()
  }

  /** Sends a refused write once more: put right, or as it is where what stood against it was put right elsewhere. */
  async sendAgain(key: number, mended?: Row): Promise<void> {
    const refused = this.#refused.find((r) => r.key === key)
    if (!refused) return
    const value = { kind: refused.kind, wire: refused.wire, body: mended ?? refused.body }
    const tx = (await this.#open()).transaction(['waiting', 'refused'], 'readwrite')
    const waitingKey = await tx.objectStore('waiting').add(value)
    await tx.objectStore('refused').delete(key)
    await tx.done
    this.#refused = this.#refused.filter((r) => r.key !== key)
    this.#set([...this.#waiting, { ...value, key: waitingKey }])
    this.send()
  }

  /** Lets a refused write go. */
  async drop(key: number): Promise<void> {
    await (await this.#open()).delete('refused', key)
    this.#refused = this.#refused.filter((r) => r.key !== key)
    this.#tell()
  }

  /** Sends what waits, if it is not being sent already. */
  send(): void {
    if (this.#stopped.signal.aborted) return
    if (this.#sending) {
      this.#again = true
      return
    }
    clearTimeout(this.#retry)
    this.#again = false
    this.#sending = this.#sendAll().finally(() => {
      this.#sending = undefined
      if (this.#again) this.send()
    })
  }

  /** Ends as a page does that is closed: whatever is under way is left as it is. */
  async stop(): Promise<void> {
    this.#stopped.abort()
    clearTimeout(this.#retry)
    await this.#sending?.catch(() => {})
    ;(await this.#db)?.close()
  }

  async #sendAll(): Promise<void> {
    const { signal } = this.#stopped
    for (let next = this.#waiting[0]; next && !signal.aborted; next = this.#waiting[0]) {
      let stored: Row
      try {
        stored = await this.options.send(next.kind, next.body, signal)
      } catch (e) {
        if (signal.aborted) return
        const problem = this.options.refusal(e)
        if (!problem) {
          const { retryMs, longestMs } = this.options
          this.#pause = Math.min(longestMs, Math.max(retryMs, 2 * this.#pause))
          this.#hold((e as Error).message)
          this.#retry = setTimeout(() => this.send(), this.#pause)
          return
        }
        this.#pause = 0
        this.#hold(undefined)
        await this.#refuse(next, problem)
        continue
      }
      if (signal.aborted) return
      this.#pause = 0
      this.#hold(undefined)
      await this.options.onSent(next, stored)
      if (signal.aborted) return
      await this.#sent(next, stored)
    }
  }

  /** A row made from a version that this device itself has replaced is made from what replaced it. */
  #upToDate(body: Row): Row {
    let { version } = body
    if (version === undefined) return body
    for (let next = this.#made.get(`${body.id} ${version}`); next !== undefined;) {
      version = next
      next = this.#made.get(`${body.id} ${version}`)
    }
    return version === body.version ? body : { ...body, version }
  }

  /** Takes an acknowledged write off; later edits of the same row are made from what is stored now. */
  async #sent({ key, body }: Waiting, stored: Row): Promise<void> {
    if (body.version !== undefined && stored.version !== undefined && stored.version > body.version)
      this.#made.set(`${body.id} ${body.version}`, stored.version)
    const tx = (await this.#open()).transaction('waiting', 'readwrite')
    await tx.store.delete(key)
    for (let at = await tx.store.openCursor(); at; at = await at.continue())
      if (at.value.body.id === body.id) await at.update({ ...at.value, body: this.#upToDate(at.value.body) })
    await tx.done
    this.#set(
      this.#waiting
        .filter((w) => w.key !== key)
        .map((w) => (w.body.id === body.id ? { ...w, body: this.#upToDate(w.body) } : w)),
    )
  }

  async #refuse({ key, kind, wire, body }: Waiting, problem: Problem): Promise<void> {
    const value = {
      kind,
      wire,
      body,
      why: problem.detail,
      ...(problem.errors && { errors: problem.errors }),
      ...(problem.stored && { stored: problem.stored as unknown as Row }),
    }
    const tx = (await this.#open()).transaction(['waiting', 'refused'], 'readwrite')
    const refusedKey = await tx.objectStore('refused').add(value)
    await tx.objectStore('waiting').delete(key)
    await tx.done
    const refused = { key: refusedKey, ...value }
    this.#refused = [...this.#refused, refused]
    this.options.onRefused(refused)
    this.#set(this.#waiting.filter((w) => w.key !== key))
  }

  #open(): Promise<IDBPDatabase<QueueSchema>> {
    this.#db ??= openDB<QueueSchema>(this.options.name, 2, {
      upgrade: (db, from) => {
        if (from < 1) db.createObjectStore('waiting', { autoIncrement: true })
        db.createObjectStore('refused', { autoIncrement: true })
      },
    })
    return this.#db
  }
  #set(waiting: readonly Waiting[]): void {
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
