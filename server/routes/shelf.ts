import type Router from '@koa/router'
import type { z } from 'zod'
import { Disc, DiscEntry, Maker, Mold, Plastic, Run } from '../../contract/shelf.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import {
  readShelf,
  writeDisc,
  writeEntry,
  writeMaker,
  writeMold,
  writePlastic,
  writeRun,
} from '../store/shelf.ts'
import type { Ctx } from './router.ts'

/** Parses a row and checks that it is the one the address names. */
export function rowAt<T extends { id: string }>(schema: z.ZodType<T>, ctx: Ctx): T {
  const row = parse(schema, ctx.request.body)
  if (row.id !== ctx.params['id'])
    throw new Refusal(
      422,
      'Some fields are not right',
      `id is ${row.id}, but the address names ${ctx.params['id']}.`,
      [{ path: 'id', message: 'must be the id the address names' }],
    )
  return row
}

export function shelfRoutes(router: Router, db: Database): void {
  const put = <T extends { id: string }>(
    path: string,
    schema: z.ZodType<T>,
    write: (row: T) => PromiseLike<unknown>,
  ) =>
    router.put(`/api/${path}/:id`, async (ctx: Ctx) => {
      const row = rowAt(schema, ctx)
      await write(row)
      ctx.body = row
    })
  router.get('/api/shelf', async (ctx) => {
    ctx.body = await readShelf(db)
  })
  put('makers', Maker, (row) => writeMaker(db, row))
  put('molds', Mold, (row) => writeMold(db, row))
  put('plastics', Plastic, (row) => writePlastic(db, row))
  put('runs', Run, (row) => writeRun(db, row))
  put('discs', Disc, (row) => writeDisc(db, row))
  router.put('/api/entries/:id', async (ctx: Ctx) => {
    const entry = parse(DiscEntry, ctx.request.body)
    await writeEntry(db, entry)
    ctx.body = entry
  })
}
