import { Worker } from 'node:worker_threads'
import { wrap } from 'comlink'
import type { Remote } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'

/** A thread nobody has asked for so long is let go, with all its memory, ms. */
const IDLE_MS = 20_000
/** One that remembers what it worked out for pages stays so long after somebody last looked, ms. */
export const REMEMBERED_MS = 30_000

/** A thread started when there is something to do, and let go when there is nothing more. */
export class Thread<W> {
  #alive: { readonly worker: Worker; readonly remote: Remote<W>; readonly died: Promise<never> } | undefined
  #idle: ReturnType<typeof setTimeout> | undefined
  #under = 0

  /** @param idleMs how long it is kept with nothing to do; Infinity for one that remembers something */
  constructor(
    private readonly file: URL,
    private readonly idleMs = IDLE_MS,
  ) {}

  /**
   * Has the thread do something.
   *
   * @throws what ended the thread, where it died over it
   */
  async asked<T>(ask: (work: Remote<W>) => Promise<T>): Promise<T> {
    this.#under++
    clearTimeout(this.#idle)
    try {
      const { remote, died } = (this.#alive ??= this.#start())
      return await Promise.race([ask(remote), died])
    } finally {
      if (--this.#under === 0 && this.idleMs < Infinity)
        this.#idle = setTimeout(() => void this.stop(), this.idleMs).unref()
    }
  }

  /** Whether it runs, asked for something or kept for the next who asks. */
  get alive(): boolean {
    return this.#alive !== undefined
  }

  #start() {
    // from a bundle it needs no loader
    const worker = new Worker(this.file, process.env['VEER_THREADS'] ? { execArgv: [] } : {})
    const died = new Promise<never>((_, reject) => {
      const gone = (why: Error) => {
        if (this.#alive?.worker === worker) this.#alive = undefined
        reject(why)
      }
      worker.once('error', gone)
      worker.once('exit', () => gone(new Error('The thread was ended before it answered.')))
    })
    died.catch(() => {})
    const remote = wrap<W>(nodeEndpoint(worker))
    // listening to it must not keep the process up; that undoes what listening did
    worker.unref()
    return { worker, remote, died }
  }

  async stop(): Promise<void> {
    clearTimeout(this.#idle)
    const alive = this.#alive
    this.#alive = undefined
    await alive?.worker.terminate()
  }
}
