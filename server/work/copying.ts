import type { Copies } from '../custody/copies.ts'
import { countedThrows, troubleOf } from '../custody/words.ts'
import type { Works } from './works.ts'

/** Makes copies that are asked for, wherever that is, from now on. */
export const makeCopies = ({ queue, errands }: Works, copies: Copies): void =>
  queue.work('copy', async ([asked]) => {
    await errands.take(
      asked!.errandId,
      async (told, signal) => {
        const copy = await copies.make('by-hand', told, signal)
        return `A copy was made and read back: ${countedThrows(copy.throws)}.`
      },
      troubleOf,
    )
  })
