import { openDB } from 'idb'
import type { DBSchema, IDBPDatabase, IDBPTransaction } from 'idb'
import type { Problem } from '../../contract/problems.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import { broughtForward } from '../../contract/older.ts'
import type { KeptWrite } from '../../contract/older.ts'
import { writtenBeside } from '../../contract/reviews.ts'
import type { Row } from '../../contract/row.ts'

/** A write that waits on this device until the server has acknowledged it. */
export interface Waiting {
  readonly key: number
  readonly kind: WriteKind
  /** Version of the wire its row is in. */
  readonly wire: number
  readonly body: Row
  /** What this device's clock showed when it was put down, ms since 1970; none of what an earlier version of the app put down. */
  readonly at?: number | undefined
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
  /** What this device’s own edits made of each version of a row: “id version” → version, or the row they became beside another’s. */
  made: { key: string; value: number | Row }
}
type Write = IDBPTransaction<QueueSchema, ('waiting' | 'refused' | 'made')[], 'readwrite'>

/** The device did not take a write: nothing was kept, and whoever asked still has it. */
export class NotKept extends Error {}

const FULL = 'This device is full: it could not keep that. Make room on it, then keep it again.'
const DENIED =
  'This browser lets the app store nothing (a private window, or its settings): it could not keep that.'
const HELD =
  'Another page of the app, of an older day, is open and holds what is kept on this device. Close it, then keep this again.'

/** Longer than this another page holds the store, ms. */
const HELD_MS = 1500

/** Where writes wait on this device, one store for all its pages; every change of it is one transaction. */
export class QueueStore {
  #db: Promise<IDBPDatabase<QueueSchema>> | undefined
  /** Another page holds it, and has not given way yet. */
  #blocked = false

  constructor(private readonly name: string) {}

  /** Everything that waits and everything refused, in the order it was put down, in the shapes of today. */
  async load(): Promise<{ waiting: Waiting[]; refused: Refused[] }> {
    const tx = (await this.#open()).transaction(['waiting', 'refused'])
    const [keys, values, oldKeys, old] = await Promise.all([
      tx.objectStore('waiting').getAllKeys(),
      tx.objectStore('waiting').getAll(),
      tx.objectStore('refused').getAllKeys(),
      tx.objectStore('refused').getAll(),
    ])
    return {
      waiting: values.flatMap((v, i) => {
        const write = broughtForward(v)
        return write ? [{ key: keys[i]!, ...write }] : []
      }),
      refused: old.flatMap((v, i) => {
        const write = broughtForward(v)
        const { why, errors, stored } = v
        return write
          ? [{ key: oldKeys[i]!, ...write, why, ...(errors && { errors }), ...(stored && { stored }) }]
          : []
      }),
    }
  }

  /** @throws NotKept when the device does not take it */
  async add(kind: WriteKind, wire: number, row: Row): Promise<Waiting> {
    return await this.#change(async (tx) => {
      const write = { kind, wire, body: await upToDate(tx, row), at: Date.now() }
      return { key: await tx.objectStore('waiting').add(write), ...write }
    })
  }

  /** Takes an acknowledged write off; later edits of the same row are made from what is stored now. */
  async sent({ key, body }: Waiting, stored: Row): Promise<void> {
    await this.#change(async (tx) => {
      const made = madeOf(body, stored)
      if (made !== undefined) await tx.objectStore('made').put(made, `${body.id} ${body.version}`)
      await tx.objectStore('waiting').delete(key)
      for (let at = await tx.objectStore('waiting').openCursor(); at; at = await at.continue())
        if (at.value.body.id === body.id)
          await at.update({ ...at.value, body: await upToDate(tx, at.value.body) })
    })
  }

  /** Sets a write aside with what was said against it. */
  async refuse({ key, kind, wire, body }: Waiting, problem: Problem): Promise<Omit<Refused, 'key'>> {
    const value = {
      kind,
      wire,
      body,
      why: problem.detail,
      ...(problem.errors && { errors: problem.errors }),
      ...(problem.stored && { stored: problem.stored as unknown as Row }),
    }
    await this.#change(async (tx) => {
      await tx.objectStore('refused').add(value)
      await tx.objectStore('waiting').delete(key)
    })
    return value
  }

  /** Has a refused write wait again, as it is or mended. */
  async again({ key, kind, wire }: Refused, body: Row): Promise<void> {
    await this.#change(async (tx) => {
      if ((await tx.objectStore('refused').getKey(key)) === undefined) return
      await tx.objectStore('waiting').add({ kind, wire, body })
      await tx.objectStore('refused').delete(key)
    })
  }

  async drop(key: number): Promise<void> {
    await this.#change(async (tx) => {
      await tx.objectStore('refused').delete(key)
    })
  }

  async close(): Promise<void> {
    ;(await this.#db?.catch(() => undefined))?.close()
  }

  async #change<T>(change: (tx: Write) => Promise<T>, once = false): Promise<T> {
    const db = await this.#open()
    try {
      const tx = db.transaction(['waiting', 'refused', 'made'], 'readwrite')
      const [changed] = await Promise.all([change(tx), tx.done])
      return changed
    } catch (e) {
      const { name } = e as DOMException
      // it was closed just then, for a page of a newer day or by the browser
      if (name === 'InvalidStateError' && !once) {
        this.#db = undefined
        return await this.#change(change, true)
      }
      throw new NotKept(name === 'QuotaExceededError' ? FULL : DENIED)
    }
  }

  async #open(): Promise<IDBPDatabase<QueueSchema>> {
    let held: ReturnType<typeof setInterval> | undefined
    const blocked = new Promise<never>((_, reject) => {
      this.#db ??= openDB<QueueSchema>(this.name, 3, {
        upgrade: (db, from) => {
          if (from < 1) db.createObjectStore('waiting', { autoIncrement: true })
          if (from < 2) db.createObjectStore('refused', { autoIncrement: true })
          if (from < 3) db.createObjectStore('made')
        },
        blocked: () => {
          this.#blocked = true
        },
        // a page of a newer day wants it: this one gives way, and opens it again when it needs it
        blocking: () => {
          void this.close()
          this.#db = undefined
        },
        terminated: () => {
          this.#db = undefined
        },
      })
      // a slow device is waited for; one whose store is held is not
      held = setInterval(() => this.#blocked && reject(new NotKept(HELD)), HELD_MS)
    })
    try {
      const db = await Promise.race([this.#db!, blocked])
      this.#blocked = false
      return db
    } catch (e) {
      if (e instanceof NotKept) throw e
      this.#db = undefined
      throw new NotKept((e as DOMException).name === 'VersionError' ? NEWER : DENIED)
    } finally {
      clearInterval(held)
    }
  }
}
const NEWER = 'A newer version of the app has been open here. Reload this page, then keep that again.'

/** What an edit of this device became: a version of its row, or a row of its own beside what another device wrote. */
function madeOf(edit: Row, stored: Row): number | Row | undefined {
  if (edit.version === undefined || stored.version === undefined) return undefined
  if (stored.id !== edit.id) return stored
  return stored.version > edit.version ? stored.version : undefined
}

/** The next edit of a row, made from what this device’s last one became. */
export function madeFrom(edit: Row, last: Row, stored: Row): Row {
  if (edit.id !== last.id || edit.version !== last.version) return edit
  const made = madeOf(last, stored)
  return made === undefined ? edit : goesOn(edit, made)
}
const goesOn = (edit: Row, made: number | Row): Row =>
  typeof made === 'number' ? { ...edit, version: made } : writtenBeside(edit, made)

/** A row made from a version that this device itself has replaced is made from what replaced it. */
async function upToDate(tx: Write, body: Row): Promise<Row> {
  let now = body
  const made = async () => await tx.objectStore('made').get(`${now.id} ${now.version}`)
  for (let next = await made(); next !== undefined; next = await made()) now = goesOn(now, next)
  return now
}
