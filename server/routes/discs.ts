import type Router from '@koa/router'
import { inArray, isNull } from 'drizzle-orm'
import { z } from 'zod'
import { proposeDiscs } from '../../core/plan/propose.ts'
import type { ProposedDisc } from '../../core/plan/propose.ts'
import { QUESTION_KINDS } from '../../core/plan/questions.ts'
import { readShelfCsv, SHELF_CSV_LIMIT, writeShelfCsv } from '../../core/formats/shelfCsv.ts'
import { Inspection, WearNote } from '../../contract/inspection.ts'
import { PHOTO_KINDS, PHOTO_LIMIT } from '../../contract/photo.ts'
import { gramsOf, shelved, shelvedDiscs } from '../../contract/sheet.ts'
import { DISC_CLASSES, Id, ShelfEdit, SOURCES, WEAR_STATES } from '../../contract/shelf.ts'
import { ShelfQuery, stabilityOf } from '../../contract/shelfPage.ts'
import type { InspectedDisc, ShelfRow } from '../../contract/shelfPage.ts'
import { parse, Refusal, refuseFile } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { readDiscRecord } from '../store/discRecord.ts'
import { importShelf } from '../store/importShelf.ts'
import {
  dropPhoto,
  readLatestInspections,
  readPhoto,
  writeInspection,
  writePhoto,
  writeWearNote,
} from '../store/inspections.ts'
import { discs } from '../store/schema.ts'
import { readShelfPage, readShelfRows } from '../store/shelfPage.ts'
import { readShelf, writeDisc } from '../store/shelf.ts'
import type { ShelfRater } from '../work/shelfRater.ts'
import type { Ctx } from './router.ts'
import { rowAt, rowsOf } from './rows.ts'

const ProposalQuery = z.object({ kind: z.enum(QUESTION_KINDS), disc: Id })

/** A line of the shelf as a question sees it. */
function proposedOf(row: ShelfRow): ProposedDisc {
  const { numbers } = shelved(row).inForce
  return {
    id: row.disc.id,
    mold: `${row.maker.name} ${row.mold.name}`,
    plastic: row.plastic.name,
    run: row.run?.name ?? null,
    discClass: row.mold.discClass,
    wear: WEAR_STATES.indexOf(row.disc.wear),
    grams: gramsOf(row.disc),
    speed: numbers.speed,
    stability: row.rating ? stabilityOf(row.rating).value : numbers.turn + numbers.fade,
    throws: row.throws,
  }
}

export function discRoutes(router: Router, db: Database, rater: ShelfRater): void {
  const put = rowsOf(router)
  const idAt = (ctx: Ctx) => parse(Id, ctx.params['id'])
  const missing = (id: string) => new Refusal(404, 'Not found', `There is no disc ${id}.`)

  router.get('/api/discs', async (ctx) => {
    ctx.body = {
      ...(await readShelfPage(db, parse(ShelfQuery, { ...ctx.query }), new Date())),
      behind: rater.behind,
    }
  })
  router.get('/api/discs.csv', async (ctx) => {
    const shelf = shelvedDiscs(await readShelf(db)).filter((d) => d.disc.removedAt === null)
    ctx.type = 'text/csv; charset=utf-8'
    ctx.attachment('shelf.csv')
    ctx.body = writeShelfCsv(
      shelf.map((d) => {
        const line = {
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
          numbers: Object.fromEntries(Object.entries(d.levels).filter(([, n]) => n !== null)),
        }
        return Object.fromEntries(Object.entries(line).filter(([, v]) => v !== null)) as typeof line & {
          markedG: number
          weighedG: number
          acquiredOn: string
          run: string
        }
      }),
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
    const read = readShelfCsv(body, { class: DISC_CLASSES, wear: WEAR_STATES, source: SOURCES })
    const done = read.ok ? await importShelf(db, read.lines, ctx.query['store'] === '1') : read.problems
    if ('discs' in done) ctx.body = done
    else refuseFile(done)
  })
  router.get('/api/proposal', async (ctx) => {
    const { kind, disc } = parse(ProposalQuery, { ...ctx.query })
    const rows = await readShelfRows(db, isNull(discs.removedAt))
    const shelf = rows.map(proposedOf)
    const about = shelf.find((d) => d.id === disc)
    if (!about) throw missing(disc)
    ctx.body = proposeDiscs(kind, about, shelf)
  })
  router.put('/api/shelf-edits/:id', async (ctx: Ctx) => {
    const edit = rowAt(ShelfEdit, ctx)
    await db.transaction(async (tx) => {
      for (const row of edit.discs) await writeDisc(tx, row)
    })
    ctx.body = edit
  })
  router.get('/api/discs/:id/record', async (ctx: Ctx) => {
    const id = idAt(ctx)
    const record = await readDiscRecord(db, rater, id, new Date().toISOString().slice(0, 10))
    if (!record) throw missing(id)
    ctx.body = record
  })
  router.get('/api/inspections', async (ctx) => {
    const inspected = await readLatestInspections(db)
    const rows = await readShelfRows(
      db,
      inArray(
        discs.id,
        inspected.map((i) => i.discId),
      ),
    )
    ctx.body = inspected.flatMap((inspection): InspectedDisc[] => {
      const row = rows.find((r) => r.disc.id === inspection.discId)
      return row ? [{ row, inspection }] : []
    })
  })
  put('inspections', Inspection, (row) => writeInspection(db, row))
  put('wear-notes', WearNote, (row) => writeWearNote(db, row))

  router.get('/api/discs/:id/photo', async (ctx: Ctx) => {
    const id = idAt(ctx)
    const photo = await readPhoto(db, id)
    if (!photo) throw new Refusal(404, 'Not found', `There is no photo of disc ${id}.`)
    ctx.type = photo.kind
    ctx.set('cache-control', 'no-cache')
    ctx.body = photo.bytes
  })
  router.put('/api/discs/:id/photo', async (ctx: Ctx) => {
    const id = idAt(ctx)
    const kind = ctx.request.type
    if (!(PHOTO_KINDS as readonly string[]).includes(kind))
      throw new Refusal(415, 'Unknown kind of content', `A photo must be one of ${PHOTO_KINDS.join(', ')}.`)
    const parts: Buffer[] = []
    let size = 0
    for await (const part of ctx.req) {
      size += (part as Buffer).length
      if (size > PHOTO_LIMIT)
        throw new Refusal(413, 'Too large', `A photo may hold at most ${PHOTO_LIMIT / 1e6} MB.`)
      parts.push(part as Buffer)
    }
    if (size === 0) throw new Refusal(422, 'Nothing in it', 'The photo holds no bytes.')
    await writePhoto(db, { discId: id, kind, bytes: Buffer.concat(parts) })
    ctx.body = { ok: true }
  })
  router.delete('/api/discs/:id/photo', async (ctx: Ctx) => {
    await dropPhoto(db, idAt(ctx))
    ctx.body = { ok: true }
  })
}
