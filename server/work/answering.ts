import { parentPort } from 'node:worker_threads'
import { expose, transferHandlers } from 'comlink'
import type { TransferHandler } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import { givesBackAtRest } from './rest.ts'

interface Told {
  readonly isError: boolean
  readonly value: object
}
const thrown = transferHandlers.get('throw') as TransferHandler<{ readonly value: unknown }, Told>

/** What the database said, which an error of a query has as its cause. */
function causeOf(error: unknown) {
  if (!(error instanceof Error) || !(error.cause instanceof Error)) return {}
  const { message, code } = error.cause as Error & { code?: unknown }
  return { cause: { message, code } }
}

// by itself an error crosses threads without its cause: nobody could tell a database that is away from a fault
transferHandlers.set('throw', {
  ...thrown,
  serialize: (failed: { readonly value: unknown }) => {
    const [told, moved] = thrown.serialize(failed)
    return [
      { ...told, value: told.isError ? { ...told.value, ...causeOf(failed.value) } : told.value },
      moved,
    ]
  },
} as TransferHandler<unknown, unknown>)

/** Has this thread do what whoever started it asks. */
export function answers(work: object): void {
  givesBackAtRest()
  expose(work, nodeEndpoint(parentPort!))
}
