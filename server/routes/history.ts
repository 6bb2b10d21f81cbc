import type Router from '@koa/router'
import { Id } from '../../contract/shelf.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { readLoggers, readThrowHistory } from '../store/history.ts'
import type { Ctx } from './router.ts'

/** Addresses who wrote a throw, when and how: `GET /api/throws/:id/history`. */
export function historyRoutes(router: Router, db: Database): void {
  router.get('/api/throws/:id/history', async (ctx: Ctx) => {
    const id = parse(Id, ctx.params['id'])
    const history = await readThrowHistory(db, id)
    if (history.length === 0) throw new Refusal(404, 'Not found', `There is no throw ${id}.`)
    ctx.body = history
  })
  router.get('/api/trials/:id/loggers', async (ctx: Ctx) => {
    ctx.body = await readLoggers(db, parse(Id, ctx.params['id']))
  })
}
