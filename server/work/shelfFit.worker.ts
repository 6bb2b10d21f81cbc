// Weighs everything that was thrown for the whole shelf. It takes much memory, which goes with the thread.
import { createHash } from 'node:crypto'
import { labelGaps } from '../../core/judge/label.ts'
import type { LabelGap } from '../../core/judge/label.ts'
import { armsShown } from '../../core/lab/who.ts'
import { baseOf } from '../../core/rating/base.ts'
import type { Base } from '../../core/rating/base.ts'
import { fit } from '../../core/rating/fit.ts'
import { armId, evidenceOf } from '../../core/rating/fromSheet.ts'
import { discsOf } from '../../core/rating/outcome.ts'
import type { DiscRating } from '../../core/rating/outcome.ts'
import type { KnownArm } from '../../contract/lab.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import type { NotWeighed } from '../../contract/shelfPage.ts'
import { connect, wireColumns } from '../store/database.ts'
import type { Database } from '../store/database.ts'
import { sessions, throwers, throws, trials } from '../store/schema.ts'
import { readShelf } from '../store/shelf.ts'
import { readWornOn } from '../store/worn.ts'
import { shelfSheet } from './shelfSheet.ts'
import { answers } from './answering.ts'

/** The shelf as everything that was thrown says it is. */
export interface ShelfWeighed {
  /** Tells whether anything has changed since. */
  readonly digest: string
  /** What a few more throws can follow. */
  readonly base: Base
  readonly ratings: readonly DiscRating[]
  /** Ids of rated discs, by code. */
  readonly idOf: ReadonlyMap<string, string>
  /** Versions of all throws that were read, by id. */
  readonly versions: ReadonlyMap<string, number>
  readonly notWeighed: NotWeighed
  /** What throws say against the numbers of plastics, by disc. */
  readonly gapsOf: ReadonlyMap<string, readonly LabelGap[]>
  /** Arms as all their throws have shown them. */
  readonly arms: readonly KnownArm[]
}

async function everything(db: Database) {
  const [shelf, all, held, people, tried] = await Promise.all([
    readShelf(db),
    db.select(wireColumns(throws)).from(throws),
    db.select(wireColumns(sessions)).from(sessions),
    db.select(wireColumns(throwers)).from(throwers),
    db.select({ control: trials.controlDiscId }).from(trials),
  ])
  const thrown = all.filter((t) => t.takenBackAt === null)
  return {
    ...shelfSheet(shelvedDiscs(shelf), thrown, held, people, tried, await readWornOn(db, thrown, held)),
    trialOf: new Map(thrown.map((t) => [t.id, t.trialId])),
    versions: new Map(all.map((t) => [t.id, t.version])),
  }
}

const work = {
  /**
   * Every disc that was thrown, from everything that was thrown.
   *
   * @param url address of the database
   * @param before digest of the time before
   * @returns undefined where nothing has changed since
   */
  async weigh(url: string, before: string | undefined): Promise<ShelfWeighed | undefined> {
    const { db, close } = connect(url, 2)
    try {
      const { sheet, discs, idOf, trialOf, versions } = await everything(db)
      const hash = createHash('sha1').update(JSON.stringify(discs))
      for (const line of sheet) hash.update(JSON.stringify(line))
      const digest = hash.digest('base64')
      if (digest === before) return undefined
      const state = fit(evidenceOf(sheet, discs))
      const thrownBy = new Map(sheet.map((t) => [armId(t), t]))
      const discOf = new Map(sheet.map((t) => [t.throw, t.disc]))
      return {
        digest,
        base: baseOf(state),
        ratings: discsOf(state),
        arms: armsShown(state).map(({ arm, ...known }) => {
          const { thrower, hand, stroke } = thrownBy.get(arm)!
          return { thrower, hand, stroke, ...known }
        }),
        idOf,
        versions,
        gapsOf: new Map(
          labelGaps(state).flatMap((p) => p.discs.map((code) => [idOf.get(code)!, p.gaps] as const)),
        ),
        notWeighed: state.leftOut.map(({ throw: throwId, why }) => {
          const code = discOf.get(throwId)!
          return { throwId, trialId: trialOf.get(throwId)!, discId: idOf.get(code)!, code, why }
        }),
      }
    } finally {
      await close()
    }
  },
}

export type ShelfFitWork = typeof work
answers(work)
