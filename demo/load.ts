import { getTableName, sql } from 'drizzle-orm'
import type { Database } from '../server/store/database.ts'
import * as schema from '../server/store/schema.ts'
import { overwriteInspection, overwriteWearNote } from '../server/store/inspections.ts'
import { overwriteDiscEvent, overwriteJob, overwritePlasticWear } from '../server/store/rotation.ts'
import { overwriteShelf } from '../server/store/shelf.ts'
import {
  overwritePlace,
  overwriteSession,
  overwriteThrows,
  overwriteThrower,
  overwriteTrialIn,
} from '../server/store/trials.ts'
import type { Nature } from '../server/devices/volunteer.ts'
import { demoState, markDemo } from './state.ts'
import { harrowmere } from './harrowmere.ts'
import { SHED, VOLUNTEERS } from './shed.ts'

/** How the shed’s discs really fly and its volunteers really throw. */
export const nature: Nature = {
  numbersOf: (code) => SHED.find((d) => d.code === code)?.truth,
  armOf: (name) => VOLUNTEERS.find((v) => v.thrower.name === name)?.backhand,
}

const TABLES = [
  schema.ratings,
  schema.photos,
  schema.inspections,
  schema.wearNotes,
  schema.discEvents,
  schema.jobs,
  schema.plasticWear,
  schema.places,
  schema.throws,
  schema.shortThrows,
  schema.windLogs,
  schema.trialDiscs,
  schema.trials,
  schema.sessions,
  schema.throwers,
  schema.discs,
  schema.runs,
  schema.plastics,
  schema.molds,
  schema.makers,
]

/** Writes the demo into a database, in one go. */
export const loadDemo = (db: Database): Promise<void> =>
  db.transaction(async (tx) => {
    const demo = harrowmere()
    await overwriteShelf(tx, demo)
    for (const row of demo.inspections) await overwriteInspection(tx, row)
    for (const row of demo.wearNotes) await overwriteWearNote(tx, row)
    for (const row of demo.places) await overwritePlace(tx, row)
    for (const row of demo.throwers) await overwriteThrower(tx, row)
    for (const row of demo.jobs) await overwriteJob(tx, row)
    for (const row of demo.discEvents) await overwriteDiscEvent(tx, row)
    for (const row of demo.plasticWear) await overwritePlasticWear(tx, row)
    // oldest first: the bench shows the newest on top, and trials are told apart by when they were made
    for (const row of demo.trials) await overwriteTrialIn(tx, row)
    for (const row of demo.sessions) await overwriteSession(tx, row)
    await overwriteThrows(tx, demo.throws)
    await markDemo(tx, 'here')
  })

/** Loads the demo where nothing is on the shelf, no trial was made and nobody put it away; says whether it did. */
export async function loadDemoIfEmpty(db: Database): Promise<boolean> {
  if ((await demoState(db)) === 'away') return false
  const [row] = await db
    .select({ n: sql<number>`(select count(*) from makers) + (select count(*) from trials)` })
    .from(sql`(values (1)) as one`)
  if (Number(row!.n) > 0) return false
  await loadDemo(db)
  return true
}

/** Empties every table and loads the demo. */
export async function resetToDemo(db: Database): Promise<void> {
  await db.execute(sql.raw(`truncate ${TABLES.map((t) => `"${getTableName(t)}"`).join(', ')} cascade`))
  await loadDemo(db)
}
