import type Router from '@koa/router'
import type { Database } from '../store/database.ts'
import { readShelf } from '../store/shelf.ts'

export function shelfRoutes(router: Router, db: Database): void {
  router.get('/api/shelf', async (ctx) => {
    ctx.body = await readShelf(db)
  })
}
