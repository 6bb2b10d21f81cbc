import { Worker } from 'node:worker_threads'
import { wrap } from 'comlink'
import type { Remote } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'

/** A thread nobody has asked for so long is let go, with all its memory, ms. */
const IDLE_MS = 20_000

/** A thread started when there is something to do, and let go when there is nothing more. */
export class Thread<W> {
  #worker: Worker | undefined
  #remote: Remote<W> | undefined
  #idle: ReturnType<typeof setTimeout> | undefined
  #under = 0

  constructor(private readonly file: URL) {}

  /** Has the thread do something. */
  async asked<T>(ask: (work: Remote<W>) => Promise<T>): Promise<T> {
    this.#under++
    clearTimeout(this.#idle)
    try {
      if (!this.#remote) {
        this.#worker = new Worker(this.file)
        this.#remote = wrap<W>(nodeEndpoint(this.#worker))
        // listening to it must not keep the process up; that undoes what listening did
        this.#worker.unref()
      }
      return await ask(this.#remote)
    } finally {
      if (--this.#under === 0) this.#idle = setTimeout(() => void this.stop(), IDLE_MS).unref()
    }
  }

  async stop(): Promise<void> {
    clearTimeout(this.#idle)
    const worker = this.#worker
    this.#worker = undefined
    this.#remote = undefined
    await worker?.terminate()
  }
}
