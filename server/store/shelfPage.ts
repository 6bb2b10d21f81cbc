import { millisecondsInDay } from 'date-fns/constants'
import { and, asc, desc, eq, gte, ilike, inArray, isNotNull, isNull, lt, or, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { z } from 'zod'
import type { FlightNumbers } from '../../core/flight/disc.ts'
import { labelScale } from '../../core/flight/side.ts'
import { boundsOf } from '../../core/judge/words.ts'
import { DISC_CLASS_WORDS } from '../../core/shelf/kinds.ts'
import { WEAR_STATES } from '../../contract/shelf.ts'
import { PAGE_SIZE } from '../../contract/shelfPage.ts'
import type { ShelfPage, ShelfQuery, ShelfRow } from '../../contract/shelfPage.ts'
import { wireColumns } from './database.ts'
import type { Queryable } from './database.ts'
import { discs, makers, molds, plastics, ratings, runs, throws } from './schema.ts'

const people = (column: unknown) => sql`${column} collate "en-x-icu"`
const inForce = sql`coalesce(${discs.stamped}, ${runs.numbers}, ${plastics.numbers}, ${molds.numbers})`
const number = (key: string) => sql<number>`(${inForce} ->> ${sql.raw(`'${key}'`)})::float8`
/** What the throws say, or the numbers in force where there are none. */
const stability = sql<number>`coalesce(${ratings.stability}, ${number('turn')} + ${number('fade')})`
/** The numbers in force as one word. */
const label = sql<string>`concat_ws('/', ${inForce} ->> 'speed', ${inForce} ->> 'glide', ${inForce} ->> 'turn', ${inForce} ->> 'fade')`
const wearStep = sql`array_position(array[${sql.raw(WEAR_STATES.map((w) => `'${w}'`).join(', '))}], ${discs.wear})`

const thrownOf = (db: Queryable) =>
  db
    .select({
      discId: throws.discId,
      counted: sql<number>`(count(*) filter (where ${throws.counts}))::int`.as('counted'),
      last: sql<string>`max(${throws.thrownAt})`.as('last_thrown'),
    })
    .from(throws)
    .where(isNull(throws.takenBackAt))
    .groupBy(throws.discId)
    .as('thrown')

/** Lines of the shelf, joined, in their order. */
function lines(db: Queryable) {
  const thrown = thrownOf(db)
  const query = db
    .select({
      disc: wireColumns(discs),
      maker: wireColumns(makers),
      mold: wireColumns(molds),
      plastic: wireColumns(plastics),
      run: wireColumns(runs),
      rating: {
        glide: ratings.glide,
        turn: ratings.turn,
        fade: ratings.fade,
        covariance: ratings.covariance,
        side: ratings.side,
        sideSd: ratings.sideSd,
        finish: ratings.finish,
        finishSd: ratings.finishSd,
        stability: ratings.stability,
        stabilitySd: ratings.stabilitySd,
      },
      throws: sql<number>`coalesce(${thrown.counted}, 0)`,
      lastThrownAt: thrown.last,
    })
    .from(discs)
    .innerJoin(plastics, eq(plastics.id, discs.plasticId))
    .innerJoin(molds, eq(molds.id, plastics.moldId))
    .innerJoin(makers, eq(makers.id, molds.makerId))
    .leftJoin(runs, eq(runs.id, discs.runId))
    .leftJoin(ratings, eq(ratings.discId, discs.id))
    .leftJoin(thrown, eq(thrown.discId, discs.id))
  return { query, thrown }
}

type Thrown = ReturnType<typeof thrownOf>
type Line = Awaited<ReturnType<typeof lines>['query']>[number]
const rowOf = (line: Line): ShelfRow => ({
  ...line,
  run: line.run?.id ? line.run : null,
  rating: line.rating?.glide == null ? null : line.rating,
  lastThrownAt: line.lastThrownAt === null ? null : new Date(line.lastThrownAt).toISOString(),
})

type Query = z.infer<typeof ShelfQuery>

/** What a class is called, which is what people look for. */
const classWords = sql`case ${molds.discClass} ${sql.join(
  Object.entries(DISC_CLASS_WORDS).map(([id, words]) => sql`when ${id} then ${words}`),
  sql.raw(' '),
)} end`

function wanted(q: Query, thrown: Thrown, now: Date): SQL | undefined {
  const words = q.find.split(/\s+/).filter(Boolean)
  const text = sql`concat_ws(' ', ${discs.code}, ${makers.name}, ${molds.name}, ${plastics.name}, ${runs.name}, ${discs.wear}, ${classWords}, ${discs.provenance})`
  const bounds = q.word && boundsOf(q.word)
  const ago = q.age && new Date(now.getTime() - q.age * millisecondsInDay).toISOString()
  return and(
    q.removed ? isNotNull(discs.removedAt) : isNull(discs.removedAt),
    ...words.map((w) => ilike(text, `%${w.replace(/[\\%_]/g, '\\$&')}%`)),
    q.class && eq(molds.discClass, q.class),
    q.plastic === undefined ? undefined : eq(plastics.name, q.plastic),
    q.wear && eq(discs.wear, q.wear),
    bounds && Number.isFinite(bounds.low) ? gte(stability, bounds.low) : undefined,
    bounds && Number.isFinite(bounds.high) ? lt(stability, bounds.high) : undefined,
    q.tested === 'yes' ? sql`${thrown.counted} > 0` : undefined,
    q.tested === 'no' ? or(isNull(thrown.counted), eq(thrown.counted, 0)) : undefined,
    ago === undefined ? undefined : sql`${thrown.last} < ${ago}::timestamptz`,
  )
}

/**
 * Where every disc flies, m to the fade side a 100 m: as its throws say, or by its numbers where there are none. Discs of different
 * labels are compared by that, never by their stability on the scale of turn + fade, which each label has for itself.
 */
async function sides(db: Queryable): Promise<SQL> {
  const labels = await db
    .selectDistinct({ label, numbers: sql<FlightNumbers>`${inForce}` })
    .from(discs)
    .innerJoin(plastics, eq(plastics.id, discs.plasticId))
    .innerJoin(molds, eq(molds.id, plastics.moldId))
    .leftJoin(runs, eq(runs.id, discs.runId))
  const byLabel = Object.fromEntries(labels.map((l) => [l.label, labelScale(l.numbers).side]))
  return sql`coalesce(${ratings.side}, (${JSON.stringify(byLabel)}::jsonb ->> ${label})::float8)`
}

function order(q: Query, thrown: Thrown, side: SQL | undefined): SQL[] {
  const way = (column: SQL) => (q.down ? sql`${desc(column)} nulls last` : sql`${asc(column)} nulls last`)
  const code = people(discs.code)
  switch (q.sort) {
    case 'code':
      return [way(code)]
    case 'numbers':
      return [way(number('speed')), way(sql`${number('turn')} + ${number('fade')}`), code]
    case 'weight':
      return [way(sql`coalesce(${discs.weighedG}, ${discs.markedG})`), code]
    case 'wear':
      return [way(wearStep), code]
    case 'stability':
      return [way(side!), code]
    case 'throws':
      return [way(sql`coalesce(${thrown.counted}, 0)`), code]
    case 'last':
      return [way(sql`${thrown.last}`), code]
    default:
      return [
        way(people(makers.name)),
        way(people(molds.name)),
        way(people(plastics.name)),
        sql`${people(runs.name)} nulls first`,
        code,
      ]
  }
}

/** One page of the shelf, found, filtered and sorted. */
export async function readShelfPage(
  db: Queryable,
  q: Query,
  now: Date,
): Promise<Omit<ShelfPage, 'behind' | 'notWeighed'>> {
  const { query, thrown } = lines(db)
  const where = wanted(q, thrown, now)
  const side = q.sort === 'stability' ? await sides(db) : undefined
  const found = db
    .select({ id: discs.id })
    .from(discs)
    .innerJoin(plastics, eq(plastics.id, discs.plasticId))
    .innerJoin(molds, eq(molds.id, plastics.moldId))
    .innerJoin(makers, eq(makers.id, molds.makerId))
    .leftJoin(runs, eq(runs.id, discs.runId))
    .leftJoin(ratings, eq(ratings.discId, discs.id))
    .leftJoin(thrown, eq(thrown.discId, discs.id))
    .where(where)
    .orderBy(...order(q, thrown, side))
  const [rows, ids, [off], blends] = await Promise.all([
    query
      .where(where)
      .orderBy(...order(q, thrown, side))
      .limit(PAGE_SIZE)
      .offset(q.page * PAGE_SIZE),
    found,
    db
      .select({ count: sql<number>`count(*)::int` })
      .from(discs)
      .where(isNotNull(discs.removedAt)),
    db.selectDistinct({ name: plastics.name }).from(plastics).orderBy(plastics.name),
  ])
  return {
    rows: rows.map(rowOf),
    total: ids.length,
    ids: ids.map((r) => r.id),
    removed: off?.count ?? 0,
    plastics: blends.map((b) => b.name),
  }
}

/**
 * The lines of some discs, or of all that are on the shelf.
 *
 * @param which ids of discs
 */
export async function readShelfRows(
  db: Queryable,
  which: readonly string[] | 'on the shelf',
): Promise<ShelfRow[]> {
  const where = which === 'on the shelf' ? isNull(discs.removedAt) : inArray(discs.id, [...which])
  // one order, however the database finds them
  return (await lines(db).query.where(where).orderBy(discs.code, discs.id)).map(rowOf)
}
