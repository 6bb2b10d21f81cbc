// Reads pages that look at the whole shelf, and writes them out, away from the thread that answers requests: with thousands of
// discs either takes longer than a throw may wait to be stored.
import { sayError } from './sayError.ts'
import { connect } from '../store/database.ts'
import { readDiscRecord, readLikeness } from '../store/discRecord.ts'
import { readBoard } from '../store/rotation.ts'
import { answers } from './answering.ts'
import { KeptDays } from '../store/keptDays.ts'
import { Records } from './records.ts'
import { RotationBoards } from './rotation.ts'
import { ShelfState } from '../store/shelfState.ts'

/** Connections of this thread. */
const CONNECTIONS = 4

function opened(url: string) {
  const { db } = connect(url, CONNECTIONS)
  return {
    url,
    db,
    weighing: {
      records: new Records(new KeptDays(db, sayError), sayError),
      rotation: new RotationBoards(sayError),
      shelf: new ShelfState(db),
    },
  }
}
let open: ReturnType<typeof opened> | undefined
const at = (url: string) => (open?.url === url ? open : (open = opened(url)))
const written = (page: object | undefined) => (page === undefined ? undefined : JSON.stringify(page))

/** Each takes the address of the database, and answers a page as JSON; undefined where there is no such disc. */
const work = {
  async board(url: string, today: string) {
    const { db, weighing } = at(url)
    return written(await readBoard(db, weighing, today))
  },
  async record(url: string, today: string, discId: string) {
    const { db, weighing } = at(url)
    return written(await readDiscRecord(db, weighing, discId, today))
  },
  async likeness(url: string, discId: string, arm: number | undefined) {
    const { db, weighing } = at(url)
    return written(await readLikeness(db, weighing, discId, arm))
  },
}

export type PageWork = typeof work
answers(work)
