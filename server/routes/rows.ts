import type Router from '@koa/router'
import type { z } from 'zod'
import { DEVICE_HEADER, PAGE_HEADER } from '../../contract/news.ts'
import { Id } from '../../contract/shelf.ts'
import { writeOf, WRITE_KINDS, WRITES } from '../../contract/writes.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import { inShapeOfToday } from '../middleware/wire.ts'
import { whoOf } from '../middleware/who.ts'
import { byOf, NotTheirs } from '../store/by.ts'
import type { Database } from '../store/database.ts'
import { dropOffer, offer, readOffers, takeOver } from '../store/offers.ts'
import { storeRow } from '../store/writes.ts'
import type { NewsWire } from '../store/newsWire.ts'
import type { Works } from '../work/works.ts'
import type { Ctx } from './router.ts'
import type { Serve } from './serve.ts'

/** Addresses rows of every kind: `PUT /api/KIND/:id` parses a row, stores it and answers with it as stored. */
export function rowRoutes(
  router: Router,
  on: Serve,
  db: Database,
  works: Works,
  wire: NewsWire | undefined,
): void {
  for (const kind of WRITE_KINDS)
    router.put(`/api/${kind}/:id`, async (ctx: Ctx) => {
      const row = parse(WRITES[kind].row as z.ZodType<Written>, inShapeOfToday(ctx, kind, ctx.request.body))
      if (row.id !== ctx.params['id'])
        throw new Refusal(
          422,
          'Some fields are not right',
          `The id is ${row.id}, but the address names ${ctx.params['id']}.`,
          [{ path: 'id', message: 'must be the id the address names' }],
        )
      const deviceId = Id.safeParse(ctx.get(DEVICE_HEADER)).data ?? null
      const by = byOf(whoOf(ctx), deviceId)
      ctx.body = await storeRow(db, kind, row, by).catch(async (e: unknown) => {
        // what is not theirs to change stands; an owner may take the change over
        if (e instanceof NotTheirs && (await offer(db, kind, row, by))) throw e.offered()
        throw e
      })
      written(ctx, kind, ctx.body as Written)
    })

  /** Tells whoever works or reads with a row that it was written. */
  function written(ctx: Ctx, kind: WriteKind, row: Written): void {
    const { moves, quiet } = writeOf(kind)
    // the rater finds out whether it does
    if (moves) works.touch(moves)
    if (quiet) return
    const pageId = Id.safeParse(ctx.get(PAGE_HEADER)).data ?? null
    wire?.tell({ type: 'row', kind, id: row.id, row, pageId })
  }

  on('GET /api/offers', () => readOffers(db))
  on('POST /api/offers/:id/take', async ({ params: { id } }, ctx) => {
    const taken = await takeOver(db, id, byOf(whoOf(ctx)))
    if (!taken) throw missing(id)
    written(ctx, taken.kind, taken.row)
    return await readOffers(db)
  })
  on('DELETE /api/offers/:id', async ({ params: { id } }) => {
    if (!(await dropOffer(db, id))) throw missing(id)
    return await readOffers(db)
  })
}

const missing = (id: string) => new Refusal(404, 'Not found', `There is no change ${id} to take over.`)
