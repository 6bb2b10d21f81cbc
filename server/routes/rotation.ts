import type Router from '@koa/router'
import { dayAt } from '../../core/throw/day.ts'
import type { Database } from '../store/database.ts'
import { readBoard } from '../store/rotation.ts'
import type { Works } from '../work/works.ts'

/** Addresses the board of jobs and the discs that do them. */
export function rotationRoutes(router: Router, db: Database, works: Works): void {
  router.get('/api/rotation', async (ctx) => {
    ctx.body = await readBoard(db, works, dayAt(Date.now(), null))
  })
}
