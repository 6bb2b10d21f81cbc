import { and, eq, inArray, isNotNull } from 'drizzle-orm'
import type { DiscRating } from '../../core/rating/outcome.ts'
import type { KnownArm } from '../../contract/lab.ts'
import type { NotWeighed } from '../../contract/shelfPage.ts'
import type { LabelGap } from '../../core/judge/label.ts'
import { wireColumns } from './database.ts'
import type { Database, Queryable } from './database.ts'
import { discs, ratings, sessions, shelfState, throws, trials, unweighed } from './schema.ts'

const INSERT_AT_ONCE = 500

/** A rating of a disc as it is stored. */
export const ratingRow = (discId: string, d: DiscRating) => ({
  discId,
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
})
export type RatingRow = ReturnType<typeof ratingRow>

/** Throws, those taken back among them. */
export const readThrows = (db: Queryable, ids: readonly string[]) =>
  db
    .select(wireColumns(throws))
    .from(throws)
    .where(inArray(throws.id, [...ids]))

export const readRatedSessions = (db: Queryable, ids: readonly string[]) =>
  db
    .select(wireColumns(sessions))
    .from(sessions)
    .where(inArray(sessions.id, [...ids]))

/** Which of some discs are the control disc of a trial: a line a trial. */
export const readControls = (db: Queryable, discIds: readonly string[]) =>
  db
    .select({ control: trials.controlDiscId })
    .from(trials)
    .where(inArray(trials.controlDiscId, [...discIds]))

/** What the database has noted that the ratings do not show. */
export const readUnweighed = (db: Queryable, which: 'throws' | 'all') =>
  db
    .select()
    .from(unweighed)
    .where(which === 'throws' ? isNotNull(unweighed.throwId) : undefined)

const insert = async (db: Queryable, rows: readonly RatingRow[]) => {
  for (let i = 0; i < rows.length; i += INSERT_AT_ONCE)
    await db.insert(ratings).values(rows.slice(i, i + INSERT_AT_ONCE))
}

/** Rows of the discs there still are, which stay until this is stored: everything may have been restored from a copy meanwhile. */
async function holding(tx: Queryable, rows: readonly RatingRow[]): Promise<RatingRow[]> {
  const ids = rows.map((r) => r.discId)
  // in one order, so that two who hold some of the same do not wait for each other for ever
  const there = await tx
    .select({ id: discs.id })
    .from(discs)
    .where(inArray(discs.id, ids))
    .orderBy(discs.id)
    .for('key share')
  const known = new Set(there.map((d) => d.id))
  return rows.filter((r) => known.has(r.discId))
}

/** Ratings that were found. */
export interface FoundRatings {
  /** Whoever keeps the shelf. */
  readonly keeper: string
  /** Discs whose ratings are others, or everyone’s. */
  readonly gone: readonly string[] | 'all'
  readonly rows: readonly RatingRow[]
  readonly notWeighed: NotWeighed
  /** What everything says besides, where it was weighed anew. */
  readonly besides?: {
    readonly gapsOf: ReadonlyMap<string, readonly LabelGap[]>
    readonly arms: readonly KnownArm[]
  }
  /** What was noted that the ratings now show. */
  readonly shown: readonly number[]
}

/** Stores what was found, all of it or, where another keeps the shelf by now, nothing. */
export const storeRatings = (
  db: Database,
  { keeper, gone, rows, notWeighed, besides, shown }: FoundRatings,
) =>
  db.transaction(async (tx) => {
    const kept = await tx
      .update(shelfState)
      .set({ notWeighed, ...(besides && { gaps: Object.fromEntries(besides.gapsOf), arms: besides.arms }) })
      .where(and(eq(shelfState.id, 1), eq(shelfState.keeper, keeper)))
      .returning({ id: shelfState.id })
    if (kept.length === 0) throw new Error('Another server keeps the shelf by now.')
    const held = await holding(tx, rows)
    if (gone === 'all') await tx.delete(ratings)
    else if (gone.length > 0) await tx.delete(ratings).where(inArray(ratings.discId, [...gone]))
    await insert(tx, held)
    for (let i = 0; i < shown.length; i += INSERT_AT_ONCE)
      await tx.delete(unweighed).where(inArray(unweighed.id, shown.slice(i, i + INSERT_AT_ONCE)))
  })
