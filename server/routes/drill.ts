import type Router from '@koa/router'
import type { Database } from '../store/database.ts'
import { readDrillAnswers, readRecorded } from '../store/drill.ts'

/** Addresses what eyes said of the flights they were asked about, and throws of one's own to ask about. */
export function drillRoutes(router: Router, db: Database): void {
  router.get('/api/drill-answers', async (ctx) => {
    ctx.body = await readDrillAnswers(db)
  })
  router.get('/api/recorded-throws', async (ctx) => {
    ctx.body = await readRecorded(db)
  })
}
