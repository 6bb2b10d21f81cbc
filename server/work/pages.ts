import type { Remote } from 'comlink'
import type { PageWork } from './pages.worker.ts'
import { Shared } from './soon.ts'
import { REMEMBERED_MS, Thread } from './thread.ts'

/** Pages that look at the whole shelf, each as JSON. However many ask for the same one, it is read for one of them at a time. */
export class Pages {
  readonly #thread = new Thread<PageWork>(new URL('./pages.worker.mjs', import.meta.url), REMEMBERED_MS)
  readonly #shared = new Shared<string | undefined>()

  /** @param url address of the database */
  constructor(private readonly url: string) {}

  /** Jobs, and the discs that do them. */
  async board(today: string): Promise<string> {
    return (await this.#asked(`board ${today}`, (work) => work.board(this.url, today)))!
  }
  /** Everything known of one disc; undefined where there is none of that id. */
  record(discId: string, today: string): Promise<string | undefined> {
    return this.#asked(`record ${discId} ${today}`, (work) => work.record(this.url, today, discId))
  }
  /** What flies like a disc; undefined where there is none of that id. */
  likeness(discId: string, arm: number | undefined): Promise<string | undefined> {
    return this.#asked(`likeness ${discId} ${arm}`, (work) => work.likeness(this.url, discId, arm))
  }

  stop(): Promise<void> {
    return this.#thread.stop()
  }

  #asked(about: string, ask: (work: Remote<PageWork>) => Promise<string | undefined>) {
    return this.#shared.ask(about, () => this.#thread.asked(ask))
  }
}
