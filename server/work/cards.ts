import { ratedFromShelf, shelved, sheetOf } from '../../contract/sheet.ts'
import { trialNames } from '../../contract/naming.ts'
import type { TrialCard } from '../../contract/cards.ts'
import type { Database } from '../store/database.ts'
import { CardRows } from '../store/cards.ts'
import { readShelfRows } from '../store/shelfPage.ts'
import { readThrowers, readTrial } from '../store/trials.ts'
import type { CardWork } from './cards.worker.ts'
import type { WorkQueue } from './queue.ts'
import { Thread } from './thread.ts'

/** Writes follow one another in the field; cards wait a moment for more, ms. */
const PAUSE_MS = 1500
/** Cards worked out one after the other before it is looked whether another instance would do the next. */
const AT_ONCE = 4

/** Keeps what each trial says so far, worked out when it has changed, so that nobody waits for it on the bench. */
export class Cards {
  readonly #thread = new Thread<CardWork>(new URL('./cards.worker.mjs', import.meta.url))

  readonly #rows: CardRows

  constructor(
    private readonly db: Database,
    private readonly queue: WorkQueue,
    private readonly onError: (error: unknown) => void,
  ) {
    this.#rows = new CardRows(db)
  }

  /** Cards of some trials as they are now; of a trial whose card is behind there is none. */
  async read(ids: readonly string[]): Promise<TrialCard[]> {
    const rows = await this.#rows.read(ids)
    if (rows.length < ids.length) this.queue.ask('cards', {})
    return rows
  }

  /** Something was written: throws or a trial, whose marks say so themselves, or what any trial may depend on. */
  touch(what: 'marked' | 'anything'): void {
    if (what === 'anything')
      this.#rows.touch().then(
        () => this.queue.ask('cards', {}, PAUSE_MS),
        (e: unknown) => this.onError(e),
      )
    else this.queue.ask('cards', {}, PAUSE_MS)
  }

  /** Works cards out, from now on. */
  start(): void {
    this.queue.work('cards', () => this.#find())
    this.queue.work(
      'card',
      async (asked) => {
        for (const { trialId } of asked) await this.#make(trialId)
      },
      AT_ONCE,
    )
    this.queue.ask('cards', {})
  }

  stop(): Promise<void> {
    return this.#thread.stop()
  }

  /** Asks for every card that is behind, those of the trials thrown last first. */
  async #find(): Promise<void> {
    for (const trialId of await this.#rows.behind()) await this.queue.send('card', { trialId })
  }

  async #make(trialId: string): Promise<void> {
    const { db } = this
    const at = await this.#rows.mark(trialId)
    const file = at && (await readTrial(db, trialId))
    if (!file) return
    const [rows, people] = await Promise.all([readShelfRows(db, file.trial.discIds), readThrowers(db)])
    const byId = new Map(rows.map((r) => [r.disc.id, shelved(r)]))
    const thrown = file.trial.discIds.flatMap((d) => byId.get(d) ?? [])
    const rated = thrown.map((d) => ratedFromShelf(d, file.trial.controlDiscId))
    const sheet = sheetOf(file, thrown, people)
    const card = await this.#thread.asked((work) => work.card(trialId, sheet, rated, trialNames(thrown)))
    await this.#rows.keep(trialId, at, card)
  }
}
