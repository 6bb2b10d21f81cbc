import type Router from '@koa/router'
import type { z } from 'zod'
import { PAGE_HEADER } from '../../contract/news.ts'
import { Id } from '../../contract/shelf.ts'
import { WRITE_KINDS, WRITES } from '../../contract/writes.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import { inShapeOfToday } from '../middleware/wire.ts'
import { whoOf } from '../middleware/who.ts'
import { byOf } from '../store/by.ts'
import type { Database } from '../store/database.ts'
import { storeRow } from '../store/writes.ts'
import type { NewsWire } from '../store/newsWire.ts'
import type { Works } from '../work/works.ts'
import type { Ctx } from './router.ts'

/** Kinds that may move a rating; the rater finds out whether they do. */
const RATED = new Set<WriteKind>([
  ...(['throws', 'trials', 'sessions', 'throwers', 'entries', 'shelf-edits'] as const),
  ...(['discs', 'molds', 'plastics', 'runs', 'makers'] as const),
])

/** Of no concern to others. */
const QUIET = new Set<WriteKind>(['preferences', 'wind-logs'])

/** Addresses rows of every kind: `PUT /api/KIND/:id` parses a row, stores it and answers with it as stored. */
export function rowRoutes(router: Router, db: Database, works: Works, wire: NewsWire | undefined): void {
  for (const kind of WRITE_KINDS)
    router.put(`/api/${kind}/:id`, async (ctx: Ctx) => {
      const row = parse(WRITES[kind] as z.ZodType<Written>, inShapeOfToday(ctx, kind, ctx.request.body))
      if (row.id !== ctx.params['id'])
        throw new Refusal(
          422,
          'Some fields are not right',
          `The id is ${row.id}, but the address names ${ctx.params['id']}.`,
          [{ path: 'id', message: 'must be the id the address names' }],
        )
      ctx.body = await storeRow(db, kind, row, byOf(whoOf(ctx)))
      if (RATED.has(kind)) works.touch(kind)
      if (!QUIET.has(kind)) {
        const pageId = Id.safeParse(ctx.get(PAGE_HEADER)).data ?? null
        wire?.tell({ type: 'row', kind, id: row.id, row: ctx.body as Record<string, unknown>, pageId })
      }
    })
}
