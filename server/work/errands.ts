import { v7 as newId } from 'uuid'
import type { Errand } from '../../contract/custody.ts'
import type { TellProgress } from '../custody/write.ts'
import { CANCELLED, ErrandRows } from '../store/errands.ts'
import type { ErrandEnd, ErrandTrouble } from '../store/errands.ts'

/** How often it is noted how far an errand is, ms. */
const BEAT_MS = 300

/** What an errand does; answers with what came of it. Its id is for what notes its own end in the same transaction. */
type Work = (told: TellProgress, signal: AbortSignal, errandId: string) => Promise<string | ErrandTrouble>

/** Long work that somebody asked for. How far it is stands in the database. */
export class Errands extends ErrandRows {
  readonly #under = new Set<{ readonly stop: AbortController; readonly over: Promise<void> }>()

  /** Notes an errand that whichever instance does such work is going to {@link take}. */
  async note(kind: Errand['kind']): Promise<Errand> {
    const id = newId()
    await this.add({ id, kind, state: 'waiting' })
    return (await this.read(id))!
  }

  /** Does an errand that was noted, to its end; one that was cancelled meanwhile, or that another has taken, is not begun. */
  async take(id: string, work: Work, trouble: (e: unknown) => ErrandTrouble): Promise<void> {
    if (await this.claim(id)) await this.#begun(id, work, trouble)
  }

  /** Does something that somebody waits for, and tells whoever asks by its id how far it is meanwhile. */
  async within<T>(id: string | undefined, work: (told: TellProgress) => Promise<T>): Promise<T> {
    if (id === undefined) return await work(() => {})
    let at = { stage: 'reading', done: 0, total: 0 }
    await this.beginImport(id, at)
    const timer = setInterval(() => void this.beatImport(id, at).catch(() => {}), BEAT_MS)
    try {
      return await work((progress) => void (at = { ...progress }))
    } finally {
      clearInterval(timer)
      await this.endImport(id).catch(() => {})
    }
  }

  /**
   * Begins an errand and answers at once.
   *
   * @param work what it does; answers with what came of it, in a sentence
   * @param trouble what an error is called
   */
  async begin(kind: Errand['kind'], work: Work, trouble: (e: unknown) => ErrandTrouble): Promise<Errand> {
    const id = newId()
    await this.add({ id, kind })
    void this.#begun(id, work, trouble)
    return (await this.read(id))!
  }

  #begun(id: string, work: Work, trouble: (e: unknown) => ErrandTrouble): Promise<void> {
    const stop = new AbortController()
    const under = { stop, over: this.#run(id, work, trouble, stop) }
    this.#under.add(under)
    return under.over.finally(() => this.#under.delete(under))
  }

  async #run(
    id: string,
    work: Work,
    trouble: (e: unknown) => ErrandTrouble,
    stop: AbortController,
  ): Promise<void> {
    let at = { stage: '', done: 0, total: 0 }
    const beat = async () => {
      if (await this.beat(id, at)) stop.abort(new Error('Cancelled.'))
    }
    // a database that is away for a moment says nothing against the errand
    const timer = setInterval(() => void beat().catch(() => {}), BEAT_MS)
    const told: TellProgress = (progress) => void (at = { ...progress })
    let ended: ErrandEnd
    try {
      const came = await work(told, stop.signal, id)
      ended = { state: 'done', ...(typeof came === 'string' ? { said: came } : came) }
    } catch (e) {
      const { said, problems = [] } = trouble(e)
      ended = stop.signal.aborted ? CANCELLED : { state: 'failed', said, problems }
    } finally {
      clearInterval(timer)
    }
    await this.end(id, at, ended).catch(() => {})
  }

  /** Ends what is under way; nothing of it is done. */
  async stop(): Promise<void> {
    const under = [...this.#under]
    for (const { stop } of under) stop.abort(new Error('The server was stopped.'))
    await Promise.all(under.map((u) => u.over))
  }
}
