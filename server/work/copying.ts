import type { Copies } from '../custody/copies.ts'
import { countedThrows, troubleOf } from '../custody/words.ts'
import type { Works } from './works.ts'

/** Makes copies that are asked for, wherever that is, from now on. */
export function makeCopies({ queue, errands }: Works, copies: Copies): void {
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
  // whoever died before it had noted that it makes one leaves it waiting for the next
  errands.underWay().then(
    (open) => {
      for (const { id, kind, state } of open)
        if (kind === 'copy' && state === 'waiting') queue.ask('copy', { errandId: id })
    },
    // a database that is away for a moment has whoever asked for it ask again
    () => {},
  )
}
