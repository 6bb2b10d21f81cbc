import type Router from '@koa/router'
import { z } from 'zod'
import { proposeDiscs } from '../../core/plan/propose.ts'
import { QUESTION_KINDS } from '../../core/plan/questions.ts'
import { SHELF_CSV_LIMIT, writeShelfCsv } from '../../core/formats/shelfCsv.ts'
import { proposedOf } from '../../contract/proposed.ts'
import { dayAt } from '../../core/throw/day.ts'
import { SHEET_RANGE } from '../../core/throw/ranges.ts'
import { present } from '../../core/throw/observed.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import { DISC_CLASSES, Id, SOURCES, WEAR_STATES, within } from '../../contract/shelf.ts'
import { ShelfQuery } from '../../contract/shelfPage.ts'
import type { InspectedDisc } from '../../contract/shelfPage.ts'
import { parse, Refusal, refuseFile } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { importShelf } from '../store/importShelf.ts'
import { readLatestInspections, readPhoto } from '../store/inspections.ts'
import { readShelfPage, readShelfRows } from '../store/shelfPage.ts'
import { readShelf } from '../store/shelf.ts'
import { jobOf } from './imports.ts'
import type { Works } from '../work/works.ts'
import { answerJson } from './router.ts'
import type { Ctx } from './router.ts'

/** V₉ of an arm, m/s. */
const LikenessQuery = z.object({
  arm: z.coerce.number().pipe(within(SHEET_RANGE.fullSpeedMps, ' m/s')).optional(),
})
const ProposalQuery = z.object({ kind: z.enum(QUESTION_KINDS), disc: Id })

export function discRoutes(router: Router, db: Database, works: Works): void {
  const idAt = (ctx: Ctx) => parse(Id, ctx.params['id'])
  const missing = (id: string) => new Refusal(404, 'Not found', `There is no disc ${id}.`)
  const answer = (ctx: Ctx, page: string | undefined) => {
    if (page === undefined) throw missing(idAt(ctx))
    answerJson(ctx, page)
  }

  router.get('/api/discs', async (ctx) => {
    ctx.body = {
      ...(await readShelfPage(db, parse(ShelfQuery, { ...ctx.query }), new Date())),
      behind: await works.shelf.behind(),
      notWeighed: await works.shelf.notWeighed(),
    }
  })
  router.get('/api/arms', async (ctx) => {
    ctx.body = await works.shelf.arms()
  })
  router.get('/api/discs.csv', async (ctx) => {
    const shelf = shelvedDiscs(await readShelf(db)).filter((d) => d.disc.removedAt === null)
    ctx.type = 'text/csv; charset=utf-8'
    ctx.attachment('shelf.csv')
    ctx.body = writeShelfCsv(
      shelf.map((d) =>
        present({
          code: d.disc.code,
          maker: d.maker.name,
          mold: d.mold.name,
          class: d.mold.discClass,
          plastic: d.plastic.name,
          run: d.run?.name,
          markedG: d.disc.markedG,
          weighedG: d.disc.weighedG,
          wear: d.disc.wear,
          source: d.disc.source,
          provenance: d.disc.provenance,
          acquiredOn: d.disc.acquiredOn,
          note: d.disc.note,
          numbers: present(d.levels),
        }),
      ),
    )
  })
  router.post('/api/discs/import', async (ctx: Ctx) => {
    const { body } = ctx.request
    if (!ctx.is('text/csv') || typeof body !== 'string')
      throw new Refusal(415, 'Unknown kind of content', 'Send the file as text/csv.')
    if (body.length > SHELF_CSV_LIMIT.bytes)
      throw new Refusal(
        413,
        'Too large',
        `A file of discs may hold at most ${SHELF_CSV_LIMIT.bytes / 1e6} MB.`,
      )
    const done = await works.errands.within(jobOf(ctx), async () => {
      const read = await works.files.discs(body, { class: DISC_CLASSES, wear: WEAR_STATES, source: SOURCES })
      return read.ok ? await importShelf(db, read.lines, ctx.query['store'] === '1') : read.problems
    })
    if (!('discs' in done)) refuseFile(done)
    if (done.stored) works.touchAll()
    ctx.body = done
  })
  router.get('/api/proposal', async (ctx) => {
    const { kind, disc } = parse(ProposalQuery, { ...ctx.query })
    const rows = await readShelfRows(db, 'on the shelf')
    const shelf = rows.map(proposedOf)
    const about = shelf.find((d) => d.id === disc)
    if (!about) throw missing(disc)
    ctx.body = proposeDiscs(kind, about, shelf)
  })
  router.get('/api/discs/:id/record', async (ctx: Ctx) => {
    answer(ctx, await works.pages.record(idAt(ctx), dayAt(Date.now(), null)))
  })
  router.get('/api/discs/:id/likeness', async (ctx: Ctx) => {
    const { arm } = parse(LikenessQuery, { ...ctx.query })
    answer(ctx, await works.pages.likeness(idAt(ctx), arm))
  })
  router.get('/api/inspections', async (ctx) => {
    const inspected = await readLatestInspections(db)
    const rows = await readShelfRows(
      db,
      inspected.map((i) => i.discId),
    )
    ctx.body = inspected.flatMap((inspection): InspectedDisc[] => {
      const row = rows.find((r) => r.disc.id === inspection.discId)
      return row ? [{ row, inspection }] : []
    })
  })

  router.get('/api/discs/:id/photo', async (ctx: Ctx) => {
    const id = idAt(ctx)
    const photo = await readPhoto(db, id)
    if (!photo) throw new Refusal(404, 'Not found', `There is no photo of disc ${id}.`)
    ctx.type = photo.kind
    ctx.set('cache-control', 'no-cache')
    ctx.body = photo.bytes
  })
}
