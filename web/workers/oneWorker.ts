import { wrap } from 'comlink'
import type { Remote } from 'comlink'

/** A worker that is started when first asked, and again after it has died. */
export class OneWorker<W, Told> {
  #started: { readonly remote: Remote<W>; readonly told: Told; readonly died: Promise<never> } | undefined

  /**
   * @param what is said to have stopped working when it dies, such as “The rating”
   * @param nothingTold what a worker has been told that was just started
   */
  constructor(
    private readonly make: () => Worker,
    private readonly what: string,
    private readonly nothingTold: () => Told,
  ) {}

  /** Asks the worker; an answer or an error, never silence. */
  async ask<T>(question: (worker: Remote<W>, told: Told) => Promise<T>): Promise<T> {
    const { remote, told, died } = (this.#started ??= this.#start())
    return await Promise.race([question(remote, told), died])
  }

  #start() {
    const worker = this.make()
    // it never answers once it has died
    const died = new Promise<never>((_, reject) => {
      worker.addEventListener('error', (e) => {
        this.#started = undefined
        worker.terminate()
        reject(new Error(`${this.what} stopped working: ${e.message || 'its worker could not be loaded'}.`))
      })
    })
    died.catch(() => {})
    return { remote: wrap<W>(worker), told: this.nothingTold(), died }
  }
}
