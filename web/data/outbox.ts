import { openDB } from 'idb'
import type { DBSchema, IDBPDatabase } from 'idb'
import { useSyncExternalStore } from 'react'
import { mutate } from 'swr'
import type { Throw, Trial, TrialFile } from '../../contract/trials.ts'
import { ApiProblem, write } from './api.ts'

/** A write that waits on this device until the server has acknowledged it. */
export interface Waiting {
  readonly key: number
  readonly path: string
  readonly body: { readonly id: string }
}
/** A write the server refused; kept here until somebody mends or drops it. */
export interface Refused extends Waiting {
  readonly why: string
}

interface OutboxSchema extends DBSchema {
  waiting: { key: number; value: { path: string; body: { readonly id: string } } }
}

/**
 * Writes are put down on the device first, shown at once, and sent once, in order. A write that fails because
 * nobody answers is tried again; one the server refuses is set aside with its reason.
 */
class Outbox {
  #db: Promise<IDBPDatabase<OutboxSchema>> | undefined
  #waiting: readonly Waiting[] = []
  #refused: readonly Refused[] = []
  #listeners = new Set<() => void>()
  #sending = false
  #retry: ReturnType<typeof setTimeout> | undefined

  readonly subscribe = (listener: () => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }
  readonly waiting = () => this.#waiting
  readonly refused = () => this.#refused

  /** Reads what an earlier visit left and starts sending. */
  async open(): Promise<void> {
    const db = await this.#open()
    const keys = await db.getAllKeys('waiting')
    const values = await db.getAll('waiting')
    const before = values.map((v, i) => ({ key: keys[i]!, ...v }))
    this.#set([...before, ...this.#waiting.filter((w) => !keys.includes(w.key))])
    window.addEventListener('online', () => void this.#send())
    void this.#send()
  }

  /** Puts a row down; resolved once it is stored on this device. */
  async put(path: string, body: { readonly id: string }): Promise<void> {
    const db = await this.#open()
    const key = await db.add('waiting', { path, body })
    this.#set([...this.#waiting, { key, path, body }])
    void this.#send()
  }

  drop(key: number): void {
    this.#refused = this.#refused.filter((r) => r.key !== key)
    this.#tell()
  }

  async #send(): Promise<void> {
    if (this.#sending) return
    this.#sending = true
    clearTimeout(this.#retry)
    try {
      for (let next = this.#waiting[0]; next; next = this.#waiting[0]) {
        try {
          await write(next.path, next.body)
        } catch (e) {
          if (!(e instanceof ApiProblem)) {
            this.#retry = setTimeout(() => void this.#send(), 3000)
            return
          }
          this.#refused = [...this.#refused, { ...next, why: e.message }]
        }
        const sent = next
        if (!this.#refused.some((r) => r.key === sent.key)) await settle(sent)
        await (await this.#open()).delete('waiting', sent.key)
        this.#set(this.#waiting.filter((w) => w.key !== sent.key))
      }
    } finally {
      this.#sending = false
    }
  }

  #open(): Promise<IDBPDatabase<OutboxSchema>> {
    this.#db ??= openDB<OutboxSchema>('veer-line', 1, {
      upgrade: (db) => void db.createObjectStore('waiting', { autoIncrement: true }),
    })
    return this.#db
  }
  #set(waiting: readonly Waiting[]): void {
    this.#waiting = waiting
    this.#tell()
  }
  #tell(): void {
    for (const listener of this.#listeners) listener()
  }
}

/** Puts an acknowledged row into what was read before, so that nothing blinks when it leaves the queue. */
async function settle({ path, body }: Waiting): Promise<void> {
  const [, , kind] = path.split('/')
  const into = <T extends { readonly id: string }>(rows: readonly T[] | undefined) =>
    rows && [...rows.filter((r) => r.id !== body.id), body as unknown as T]
  // a mutation makes a reading under way void, so what is not there yet has to be asked for again
  const keep = { revalidate: (data: unknown) => data === undefined }
  if (kind === 'throws') {
    const row = body as Throw
    await mutate<TrialFile>(`/api/trials/${row.trialId}`, (f) => f && { ...f, throws: into(f.throws)! }, keep)
  } else if (kind === 'trials') {
    await mutate<TrialFile>(path, (f) => f && { ...f, trial: body as Trial }, keep)
  } else if (kind === 'preferences') {
    await mutate(path, body, keep)
  } else {
    await mutate<readonly { readonly id: string }[]>(`/api/${kind}`, into, keep)
  }
  if (kind === 'throws' || kind === 'trials') void mutate('/api/trials')
}

export const outbox = new Outbox()

export const useWaiting = (): readonly Waiting[] => useSyncExternalStore(outbox.subscribe, outbox.waiting)
export const useRefused = (): readonly Refused[] => useSyncExternalStore(outbox.subscribe, outbox.refused)

/** Rows the server sent with those that still wait laid over them. */
export function overlaid<T extends { readonly id: string }>(
  rows: readonly T[],
  waiting: readonly Waiting[],
  belongs: (w: Waiting) => boolean,
): T[] {
  const byId = new Map(rows.map((r) => [r.id, r]))
  for (const w of waiting) if (belongs(w)) byId.set(w.body.id, w.body as unknown as T)
  return [...byId.values()]
}
