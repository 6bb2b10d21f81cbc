// Weighs what was thrown for the whole shelf: reads it, weighs it and stores what came out, away from the thread that answers requests.
import { parentPort } from 'node:worker_threads'
import { expose } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import { isNull } from 'drizzle-orm'
import { fit } from '../../core/rating/fit.ts'
import type { FitState } from '../../core/rating/state.ts'
import { evidenceOf } from '../../core/rating/fromSheet.ts'
import { discsOf } from '../../core/rating/outcome.ts'
import { ratedFromShelf, sheetOf, shelvedDiscs } from '../../contract/sheet.ts'
import type { NotWeighed } from '../../contract/shelfPage.ts'
import { connect, wireColumns } from '../store/database.ts'
import type { Database } from '../store/database.ts'
import { ratings, sessions, throwers, throws, trials } from '../store/schema.ts'
import { readShelf } from '../store/shelf.ts'

const INSERT_AT_ONCE = 500

let last: FitState | undefined
let weighed = ''
let notWeighed: NotWeighed = []

async function everything(db: Database) {
  const [shelf, thrown, held, people, tried] = await Promise.all([
    readShelf(db),
    db.select(wireColumns(throws)).from(throws).where(isNull(throws.takenBackAt)),
    db.select(wireColumns(sessions)).from(sessions),
    db.select(wireColumns(throwers)).from(throwers),
    db.select({ control: trials.controlDiscId }).from(trials),
  ])
  const counted = new Set(thrown.filter((t) => t.counts).map((t) => t.discId))
  const controls = new Set(tried.map((t) => t.control))
  const shelved = shelvedDiscs(shelf).filter((d) => counted.has(d.disc.id))
  const file = { trial: { controlDiscId: null }, sessions: held, throws: thrown }
  return {
    sheet: sheetOf(file, shelved, people),
    discs: shelved.map((d) => ratedFromShelf(d, controls.has(d.disc.id) ? d.disc.id : null)),
    trialOf: new Map(thrown.map((t) => [t.id, t.trialId])),
    idOf: new Map(shelved.map((d) => [d.disc.code, d.disc.id])),
  }
}

const work = {
  /**
   * Every disc that was thrown, from everything that was thrown; a warm start from the time before.
   *
   * @param url address of the database
   * @returns the throws that could not be weighed with the rest
   */
  async rate(url: string): Promise<NotWeighed> {
    const { db, close } = connect(url, 2)
    try {
      const { sheet, discs, idOf, trialOf } = await everything(db)
      const key = JSON.stringify([sheet, discs])
      if (key === weighed) return notWeighed
      last = fit(evidenceOf(sheet, discs), last && { warm: last })
      const rows = discsOf(last).map((d) => ({
        discId: idOf.get(d.disc)!,
        glide: d.observed.glide,
        turn: d.observed.turn,
        fade: d.observed.fade,
        covariance: [...d.covariance],
        side: d.side.value,
        sideSd: d.side.sd,
        finish: d.finish.value,
        finishSd: d.finish.sd,
        stability: d.stability.value,
        stabilitySd: d.stability.sd,
      }))
      await db.transaction(async (tx) => {
        await tx.delete(ratings)
        for (let i = 0; i < rows.length; i += INSERT_AT_ONCE)
          await tx.insert(ratings).values(rows.slice(i, i + INSERT_AT_ONCE))
      })
      const thrown = new Map(sheet.map((t) => [t.throw, t.disc]))
      notWeighed = last.leftOut.map(({ throw: throwId, why }) => {
        const code = thrown.get(throwId)!
        return { throwId, trialId: trialOf.get(throwId)!, discId: idOf.get(code)!, code, why }
      })
      weighed = key
      return notWeighed
    } finally {
      await close()
    }
  },
}

export type ShelfWork = typeof work
expose(work, nodeEndpoint(parentPort!))
