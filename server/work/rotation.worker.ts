// Works out which discs do which jobs, and what wear does to them, away from the thread that answers requests. It remembers what
// has not changed since.
import type { ShelfDisc } from '../../core/rotation/carried.ts'
import { ShelfBoard } from '../../core/rotation/shelfBoard.ts'
import type { WantedOfShelf } from '../../core/rotation/shelfBoard.ts'
import { answers } from './answering.ts'

const board = new ShelfBoard()

const work = {
  soon: (wanted: WantedOfShelf) => ({ lanes: board.soon(wanted), blends: board.blends(wanted.shelf) }),
  board: (wanted: WantedOfShelf) => ({ lanes: board.lanes(wanted), blends: board.blends(wanted.shelf) }),
  foretell: (shelf: readonly ShelfDisc[], discId: string) => board.foretell(shelf, discId),
}

export type RotationWork = typeof work
answers(work)
