import { expose } from 'comlink'
import type { Lane, NamedJob } from '../../core/rotation/board.ts'
import type { ShelfDisc } from '../../core/rotation/carried.ts'
import { ShelfBoard } from '../../core/rotation/shelfBoard.ts'
import { isAtHand, laneRead, laneWritten, namedJob, shelfDiscOf } from '../../contract/rotation.ts'
import type { Board, JobRow, RotationDisc } from '../../contract/rotation.ts'

const board = new ShelfBoard()
/** The board as the server last answered it, told once. */
let told: {
  readonly key: string
  readonly discs: ReadonlyMap<string, RotationDisc>
  /** The same as the core speaks of them. */
  readonly shelf: ReadonlyMap<string, ShelfDisc>
  readonly lanes: readonly Lane[]
}

/** The discs that were told, some of them changed since. */
function withChanged(key: string, changed: readonly RotationDisc[]) {
  if (told?.key !== key) throw new RangeError('This board was never told.')
  const [discs, shelf] = [new Map(told.discs), new Map(told.shelf)]
  for (const d of changed) {
    discs.set(d.id, d)
    shelf.set(d.id, shelfDiscOf(d))
  }
  return { discs: [...discs.values()], shelf: [...shelf.values()] }
}

/** Works out which discs do which jobs, on the device: at once, and without a server. */
const rotation = {
  tell(key: string, { discs, lanes }: Pick<Board, 'discs' | 'lanes'>): void {
    told = {
      key,
      discs: new Map(discs.map((d) => [d.id, d])),
      shelf: new Map(discs.map((d) => [d.id, shelfDiscOf(d)])),
      lanes: lanes.map(laneRead),
    }
    // how all of it wears is worked out now, before anything is asked
    board.blends([...told.shelf.values()])
  },
  /**
   * Lanes after some discs and jobs have changed.
   *
   * @param keep jobs whose lanes stand but for the changed discs
   */
  after(
    key: string,
    changed: readonly RotationDisc[],
    jobs: readonly JobRow[],
    keep: ReadonlySet<string>,
  ): Board['lanes'] {
    const { discs, shelf } = withChanged(key, changed)
    return board
      .after(
        told.lanes.filter((l) => keep.has(l.jobId)),
        new Set(changed.map((d) => d.id)),
        {
          shelf,
          here: new Set(discs.filter(isAtHand).map((d) => d.id)),
          jobs: jobs.map(namedJob),
          assigned: new Map(discs.flatMap(({ id, jobId }) => (jobId === null ? [] : [[id, jobId]]))),
        },
      )
      .map(laneWritten)
  },
  /** How surely discs do jobs now: job, then disc. */
  does(
    key: string,
    changed: readonly RotationDisc[],
    discIds: readonly string[],
    jobs: readonly JobRow[],
  ): Map<string, Map<string, number>> {
    const { shelf } = withChanged(key, changed)
    const named: NamedJob[] = jobs.map(namedJob)
    const does = new Map(named.map((j) => [j.id, new Map<string, number>()]))
    for (const [discId, of] of board.does(shelf, discIds, named))
      for (const [jobId, now] of of) does.get(jobId)!.set(discId, now)
    return does
  },
}

export type RotationWorker = typeof rotation
expose(rotation)
