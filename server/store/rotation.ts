import { group } from 'd3'
import { asc, isNull } from 'drizzle-orm'
import { lifeOf } from '../../core/rotation/life.ts'
import type { WantedOfShelf } from '../../core/rotation/shelfBoard.ts'
import type { Board, DiscEvent, JobRow, PlasticWear, RotationDisc } from '../../contract/rotation.ts'
import { isAtHand, laneWritten, namedJob } from '../../contract/rotation.ts'
import type { Weighing } from './weighing.ts'
import { wireColumns } from './database.ts'
import type { Database, Queryable } from './database.ts'
import { discEvents, jobs, plasticWear, wearNotes } from './schema.ts'
import { readShelfRows } from './shelfPage.ts'
import { readWorn } from './worn.ts'

export const overwriteJob = (db: Queryable, row: JobRow) =>
  db.insert(jobs).values(row).onConflictDoUpdate({ target: jobs.id, set: row })
export const overwriteDiscEvent = (db: Queryable, row: DiscEvent) =>
  db.insert(discEvents).values(row).onConflictDoUpdate({ target: discEvents.id, set: row })
export const overwritePlasticWear = (db: Queryable, row: PlasticWear) =>
  db.insert(plasticWear).values(row).onConflictDoUpdate({ target: plasticWear.id, set: row })

/** The board, as it is by now. */
export async function readBoard(db: Database, weighs: Weighing, today: string): Promise<Board> {
  const [rows, own, log, noted] = await Promise.all([
    readShelfRows(db, 'on the shelf'),
    db
      .select(wireColumns(jobs))
      .from(jobs)
      .where(isNull(jobs.removedAt))
      .orderBy(asc(jobs.rank), asc(jobs.createdAt)),
    db
      .select(wireColumns(discEvents))
      .from(discEvents)
      .where(isNull(discEvents.removedAt))
      .orderBy(asc(discEvents.day), asc(discEvents.createdAt)),
    db
      .select(wireColumns(wearNotes))
      .from(wearNotes)
      .where(isNull(wearNotes.removedAt))
      .orderBy(asc(wearNotes.day), asc(wearNotes.createdAt)),
  ])
  const worn = await readWorn(db, weighs, rows, today)
  const logOf = group(log, (e) => e.discId)
  const all = rows.map(({ disc, plastic, mold, maker }): RotationDisc => {
    const { use, ...known } = worn.discs.get(disc.id)!
    return {
      ...known,
      ...use,
      code: disc.code,
      maker: maker.name,
      mold: mold.name,
      plastic: plastic.name,
      plasticId: plastic.id,
      ...lifeOf(logOf.get(disc.id) ?? []),
      outOfMake: worn.plasticOf(plastic.id)?.outOfMake ?? false,
      aDay: worn.paceOf(disc.id),
    }
  })
  const wanted: WantedOfShelf = {
    shelf: [...worn.discs.values()],
    here: new Set(all.filter(isAtHand).map((d) => d.id)),
    jobs: own.map(namedJob),
    assigned: new Map(all.flatMap(({ id, jobId }) => (jobId === null ? [] : [[id, jobId]]))),
  }
  // half of the test days would say something else of every disc
  const { lanes, blends, whole } = await weighs.rotation.board(wanted, !worn.weighing)
  return {
    jobs: own,
    discs: all,
    events: log,
    noted,
    lanes: lanes.map(laneWritten),
    blends,
    weighing: !whole || (await weighs.shelf.behind()),
  }
}
