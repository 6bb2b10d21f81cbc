import type Router from '@koa/router'
import type { z } from 'zod'
import { WRITE_KINDS, WRITES } from '../../contract/writes.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { storeRow } from '../store/writes.ts'
import type { Works } from '../work/works.ts'
import type { Ctx } from './router.ts'

/** Kinds that may move a rating; the rater finds out whether they do. */
const RATED = new Set<WriteKind>([
  ...(['throws', 'trials', 'sessions', 'throwers', 'entries', 'shelf-edits'] as const),
  ...(['discs', 'molds', 'plastics', 'runs', 'makers'] as const),
])

/** Addresses rows of every kind: `PUT /api/KIND/:id` parses a row, stores it and answers with it as stored. */
export function rowRoutes(router: Router, db: Database, works: Works): void {
  for (const kind of WRITE_KINDS)
    router.put(`/api/${kind}/:id`, async (ctx: Ctx) => {
      const row = parse(WRITES[kind] as z.ZodType<Written>, ctx.request.body)
      if (row.id !== ctx.params['id'])
        throw new Refusal(
          422,
          'Some fields are not right',
          `The id is ${row.id}, but the address names ${ctx.params['id']}.`,
          [{ path: 'id', message: 'must be the id the address names' }],
        )
      ctx.body = await storeRow(db, kind, row)
      if (RATED.has(kind)) works.touch(kind, row.id)
    })
}
