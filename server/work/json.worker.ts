// Reads long JSON texts, away from the thread that answers requests.
import { BadJson, boundedJson } from '../../core/formats/boundedJson.ts'
import { answers } from './answering.ts'

/** What a text says, or what is wrong with it. */
interface Came {
  readonly value: unknown
  readonly wrong: string | undefined
}

const work = {
  read(text: string): Came {
    try {
      return { value: boundedJson(text), wrong: undefined }
    } catch (e) {
      if (e instanceof BadJson) return { value: undefined, wrong: e.message }
      throw e
    }
  },
}

export type JsonWork = typeof work
answers(work)
