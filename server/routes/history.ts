import { Refusal } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { readLoggers, readThrowHistory } from '../store/history.ts'
import type { Serve } from './serve.ts'

/** Addresses who wrote a throw, when and how: `GET /api/throws/:id/history`. */
export function historyRoutes(on: Serve, db: Database): void {
  on('GET /api/throws/:id/history', async ({ params: { id } }) => {
    const history = await readThrowHistory(db, id)
    if (history.length === 0) throw new Refusal(404, 'Not found', `There is no throw ${id}.`)
    return history
  })
  on('GET /api/trials/:id/loggers', ({ params }) => readLoggers(db, params.id))
}
