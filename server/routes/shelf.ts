import type Router from '@koa/router'
import { Disc, DiscEntry, Maker, Mold, Plastic, Run } from '../../contract/shelf.ts'
import { parse } from '../middleware/problems.ts'
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
import { rowsOf } from './rows.ts'

export function shelfRoutes(router: Router, db: Database): void {
  const put = rowsOf(router)
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
