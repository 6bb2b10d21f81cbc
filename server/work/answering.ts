import os from 'node:os'
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

/** How far a thread gives way to the one that answers requests, on the scale of the system: 0 as it, 19 to everything. */
const GIVES_WAY = 10

/** Has this thread do what whoever started it asks, while nobody waits for an answer to a request. */
export function answers(work: object): void {
  // where the system knows of priorities of processes alone, it would be everything that gives way
  if (process.platform === 'linux') os.setPriority(0, GIVES_WAY)
  givesBackAtRest()
  expose(work, nodeEndpoint(parentPort!))
}
