import fs from 'node:fs'
import path from 'node:path'
import { connect } from '../../server/store/database.ts'
import { overwriteShelf } from '../../server/store/shelf.ts'
import {
  overwriteSession,
  overwriteThrower,
  overwriteThrows,
  overwriteTrialIn,
} from '../../server/store/trials.ts'
import { urlOf } from '../../scripts/running.mjs'
import { data } from './app.ts'
import type { GrownShelf } from './shelf.ts'

/** Puts a shelf of years into the database of the app that runs. */
export async function fill(grown: GrownShelf): Promise<void> {
  const { db, close } = connect(
    urlOf(
      JSON.parse(fs.readFileSync(path.join(data, 'running.json'), 'utf8')) as Parameters<typeof urlOf>[0],
    ),
  )
  await overwriteShelf(db, grown.shelf)
  for (const row of grown.throwers) await overwriteThrower(db, row)
  for (const row of grown.sessions) await overwriteSession(db, row)
  for (const row of grown.trials) await overwriteTrialIn(db, row)
  await overwriteThrows(db, grown.throws)
  await db.execute('analyze')
  await close()
}
