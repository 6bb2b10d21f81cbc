// Works out which discs do which jobs, and what wear does to them, away from the thread that answers requests. It remembers what
// has not changed since.
import { parentPort } from 'node:worker_threads'
import { expose } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import type { ShelfDisc } from '../../core/rotation/carried.ts'
import { ShelfBoard } from '../../core/rotation/shelfBoard.ts'
import type { Wanted } from '../../core/rotation/shelfBoard.ts'

const board = new ShelfBoard()

const work = {
  soon: (wanted: Wanted) => ({ lanes: board.soon(wanted), blends: board.blends(wanted.shelf) }),
  board: (wanted: Wanted) => ({ lanes: board.lanes(wanted), blends: board.blends(wanted.shelf) }),
  foretell: (shelf: readonly ShelfDisc[], discId: string) => board.foretell(shelf, discId),
}

export type RotationWork = typeof work
expose(work, nodeEndpoint(parentPort!))
