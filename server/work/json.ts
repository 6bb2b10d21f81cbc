import { BadJson, boundedJson } from '../../core/formats/boundedJson.ts'
import type { JsonWork } from './json.worker.ts'
import { Thread } from './thread.ts'

/** Texts longer than that are read away from the thread that answers requests, characters. */
const LONG = 256_000

/** Reads JSON texts, long ones in a thread of its own. */
export class Json {
  readonly #thread = new Thread<JsonWork>(new URL('./json.worker.mjs', import.meta.url))

  /** @throws BadJson where it is none, or holds too much */
  async read(text: string): Promise<unknown> {
    if (text.length <= LONG) return boundedJson(text)
    const { value, wrong } = await this.#thread.asked((work) => work.read(text))
    if (wrong !== undefined) throw new BadJson(wrong)
    return value
  }

  stop(): Promise<void> {
    return this.#thread.stop()
  }
}
