import { proposeDiscs } from '../../core/plan/propose.ts'
import { SHELF_CSV_LIMIT, writeShelfCsv } from '../../core/formats/shelfCsv.ts'
import { proposedOf } from '../../contract/proposed.ts'
import { dayAt } from '../../core/throw/day.ts'
import { present } from '../../core/throw/observed.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import type { InspectedDisc } from '../../contract/shelfPage.ts'
import { Refusal, refuseFile } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { importShelf } from '../store/importShelf.ts'
import { readLatestInspections, readPhoto } from '../store/inspections.ts'
import { readShelfPage, readShelfRows } from '../store/shelfPage.ts'
import { readShelf } from '../store/shelf.ts'
import type { Works } from '../work/works.ts'
import { JsonText } from './serve.ts'
import { plainText } from './router.ts'
import type { Serve } from './serve.ts'

export function discRoutes(on: Serve, db: Database, works: Works): void {
  const missing = (id: string) => new Refusal(404, 'Not found', `There is no disc ${id}.`)
  const found = (id: string, page: string | undefined): JsonText => {
    if (page === undefined) throw missing(id)
    return new JsonText(page)
  }

  on('GET /api/discs', async ({ query }) => ({
    ...(await readShelfPage(db, query, new Date())),
    behind: await works.shelf.behind(),
    notWeighed: await works.shelf.notWeighed(),
  }))
  on('GET /api/arms', () => works.shelf.arms())
  on('GET /api/discs.csv', async (_, ctx) => {
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
  on('POST /api/discs/import', async ({ query: { job, store } }, ctx) => {
    const body = plainText(ctx)
    if (body.length > SHELF_CSV_LIMIT.bytes)
      throw new Refusal(
        413,
        'Too large',
        `A file of discs may hold at most ${SHELF_CSV_LIMIT.bytes / 1e6} MB.`,
      )
    const done = await works.errands.within(job, async () => {
      const read = await works.files.discs(body)
      return read.ok ? await importShelf(db, read.lines, store === '1') : read.problems
    })
    if (!('discs' in done)) refuseFile(done)
    if (done.stored) works.touchAll()
    return done
  })
  on('GET /api/proposal', async ({ query: { kind, disc } }) => {
    const rows = await readShelfRows(db, 'on the shelf')
    const shelf = rows.map(proposedOf)
    const about = shelf.find((d) => d.id === disc)
    if (!about) throw missing(disc)
    return proposeDiscs(kind, about, shelf)
  })
  on('GET /api/discs/:id/record', async ({ params: { id } }) =>
    found(id, await works.pages.record(id, dayAt(Date.now(), null))),
  )
  on('GET /api/discs/:id/likeness', async ({ params: { id }, query: { arm } }) =>
    found(id, await works.pages.likeness(id, arm)),
  )
  on('GET /api/inspections', async () => {
    const inspected = await readLatestInspections(db)
    const rows = await readShelfRows(
      db,
      inspected.map((i) => i.discId),
    )
    return inspected.flatMap((inspection): InspectedDisc[] => {
      const row = rows.find((r) => r.disc.id === inspection.discId)
      return row ? [{ row, inspection }] : []
    })
  })

  on('GET /api/discs/:id/photo', async ({ params: { id } }, ctx) => {
    const photo = await readPhoto(db, id)
    if (!photo) throw new Refusal(404, 'Not found', `There is no photo of disc ${id}.`)
    ctx.type = photo.kind
    ctx.set('cache-control', 'no-cache')
    ctx.body = photo.bytes
  })
}
