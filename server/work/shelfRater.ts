import { Worker } from 'node:worker_threads'
import { wrap } from 'comlink'
import type { Remote } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import { isNull } from 'drizzle-orm'
import { ratedFromShelf, sheetOf, shelvedDiscs } from '../../contract/sheet.ts'
import type { NotWeighed } from '../../contract/shelfPage.ts'
import { wireColumns } from '../store/database.ts'
import type { Database } from '../store/database.ts'
import { ratings, sessions, throwers, throws, trials } from '../store/schema.ts'
import { readShelf } from '../store/shelf.ts'
import type { WriteKind } from '../../contract/writes.ts'
import { Cards } from './cards.ts'
import type { ShelfWork } from './shelf.worker.ts'

/** Writes follow one another in the field; the shelf waits until they pause, but not for ever, ms. */
const PAUSE_MS = 600
const LONGEST_MS = 5000
/** Before a rating that failed is tried again, ms: its database may be back by then. */
const AFTER_FAILURE_MS = 5000
const AFTER_FAILURES_MS = 300_000
const INSERT_AT_ONCE = 500

/** Keeps the ratings of the shelf in step with what was thrown. */
export class ShelfRater {
  /** What each trial says so far. */
  readonly cards: Cards
  #worker: Worker | undefined
  #remote: Remote<ShelfWork> | undefined
  #wanted = 0
  #done = 0
  #weighed = ''
  #notWeighed: NotWeighed = []
  #failures = 0
  /** When the first write came that no rating under way knows of. */
  #since: number | undefined
  #timer: ReturnType<typeof setTimeout> | undefined
  #running: Promise<void> | undefined
  #stopped = false

  constructor(
    private readonly db: Database,
    private readonly onError: (error: unknown) => void,
  ) {
    this.cards = new Cards(db, onError)
  }

  /** Something was written that ratings may depend on; of which kind, where that is known. */
  touch(kind?: WriteKind): void {
    if (this.#stopped) return
    this.cards.touch(kind === 'throws' || kind === 'trials' ? 'marked' : 'anything')
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

  /** The thread that does the arithmetic, started when first asked. */
  get work(): Remote<ShelfWork> {
    if (!this.#remote) {
      this.#worker = new Worker(new URL('./shelf.worker.mjs', import.meta.url))
      this.#remote = wrap<ShelfWork>(nodeEndpoint(this.#worker))
      // listening to it must not keep the process up; that undoes what listening did
      this.#worker.unref()
    }
    return this.#remote
  }

  async stop(): Promise<void> {
    this.#stopped = true
    clearTimeout(this.#timer)
    await this.cards.stop()
    // a rating under way ends with its thread; nothing waits for its answer
    await this.#worker?.terminate()
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
    const { sheet, discs, idOf, trialOf } = await this.#everything()
    const key = JSON.stringify([sheet, discs])
    if (key === this.#weighed || this.#stopped) return
    const { discs: rated, leftOut } = await this.work.rate(sheet, discs)
    if (this.#stopped) return
    await this.db.transaction(async (tx) => {
      await tx.delete(ratings)
      const rows = rated.map((d) => ({
        discId: idOf.get(d.disc)!,
        glide: d.observed.glide,
        turn: d.observed.turn,
        fade: d.observed.fade,
        covariance: [...d.covariance],
      }))
      for (let i = 0; i < rows.length; i += INSERT_AT_ONCE)
        await tx.insert(ratings).values(rows.slice(i, i + INSERT_AT_ONCE))
    })
    const thrown = new Map(sheet.map((t) => [t.throw, t.disc]))
    this.#notWeighed = leftOut.map(({ throw: throwId, why }) => {
      const code = thrown.get(throwId)!
      return { throwId, trialId: trialOf.get(throwId)!, discId: idOf.get(code)!, code, why }
    })
    this.#weighed = key
  }

  async #everything() {
    const [shelf, thrown, held, people, tried] = await Promise.all([
      readShelf(this.db),
      this.db.select(wireColumns(throws)).from(throws).where(isNull(throws.takenBackAt)),
      this.db.select(wireColumns(sessions)).from(sessions),
      this.db.select(wireColumns(throwers)).from(throwers),
      this.db.select({ control: trials.controlDiscId }).from(trials),
    ])
    const counted = new Set(thrown.filter((t) => t.counts).map((t) => t.discId))
    const controls = new Set(tried.map((t) => t.control))
    const shelved = shelvedDiscs(shelf).filter((d) => counted.has(d.disc.id))
    const file = { trial: { controlDiscId: null }, sessions: held, throws: thrown }
    return {
      sheet: sheetOf(file, shelved, people),
      discs: shelved.map((d) => ratedFromShelf(d, controls.has(d.disc.id) ? d.disc.id : null)),
      trialOf: new Map(thrown.map((t) => [t.id, t.trialId])),
      idOf: new Map(shelved.map((d) => [d.disc.code, d.disc.id])),
    }
  }
}
