import type Router from '@koa/router'
import { Id } from '../../contract/shelf.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import type { Errands } from '../work/errands.ts'
import type { Ctx } from './router.ts'

/** What whoever imports calls it, to ask how far it is. */
export const jobOf = (ctx: Ctx): string | undefined =>
  ctx.query['job'] === undefined ? undefined : parse(Id, ctx.query['job'])

/** Addresses how far an import is: `GET /api/imports/:id`. */
export function importRoutes(router: Router, errands: Errands): void {
  router.get('/api/imports/:id', async (ctx: Ctx) => {
    const at = await errands.read(parse(Id, ctx.params['id']))
    if (at?.kind !== 'import' || at.state !== 'under way')
      throw new Refusal(404, 'Not found', 'There is no such import under way.')
    ctx.body = { stage: at.stage, done: at.done, total: at.total }
  })
}
