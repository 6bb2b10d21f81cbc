import { millisecondsInDay } from 'date-fns/constants'
import { group, rollup } from 'd3'
import { and, eq, inArray, isNull, sql } from 'drizzle-orm'
import type { PgColumn } from 'drizzle-orm/pg-core'
import { carriedLabel } from '../../core/rotation/carried.ts'
import type { DayTest, ShelfDisc } from '../../core/rotation/carried.ts'
import { withoutLabel } from '../../core/rotation/wear.ts'
import type { Use } from '../../core/shelf/usualWear.ts'
import { LATELY_DAYS } from '../../core/rotation/life.ts'
import type { Game } from '../../core/throw/short.ts'
import type { PlasticWear } from '../../contract/rotation.ts'
import type { ShelfRow } from '../../contract/shelfPage.ts'
import { shelved } from '../../contract/sheet.ts'
import type { WornOn } from '../../contract/trials.ts'
import type { Weighing } from './weighing.ts'
import { wireColumns } from './database.ts'
import type { Database, Queryable } from './database.ts'
import { discs, plasticWear, sessions, shortThrows, throws, wearNotes } from './schema.ts'
import { daysOf, readDays } from './testDays.ts'

/** What a disc went through on a day. */
interface Went extends Use {
  readonly discId: string
  readonly day: string
  /** It was noted, not logged throw by throw. */
  readonly noted: boolean
}
/** Games of a round whose throws wear a disc; a putt does not. */
const WEARING_GAMES: readonly Game[] = ['ground', 'approach', 'holes']

/** Everything that wore discs, or one: throws that were logged, in the field and on rounds, and what was noted. */
async function usesOf(db: Queryable, discIds?: readonly string[]): Promise<Went[]> {
  const own = (column: PgColumn) => (discIds === undefined ? undefined : inArray(column, [...discIds]))
  const throwsADay = sql<number>`count(*)::int`
  const [logged, played, noted] = await Promise.all([
    db
      .select({ discId: throws.discId, day: sessions.day, throws: throwsADay })
      .from(throws)
      .innerJoin(sessions, eq(sessions.id, throws.sessionId))
      .where(and(isNull(throws.takenBackAt), own(throws.discId)))
      .groupBy(throws.discId, sessions.day),
    db
      .select({ discId: shortThrows.discId, day: sessions.day, throws: throwsADay })
      .from(shortThrows)
      .innerJoin(sessions, eq(sessions.id, shortThrows.sessionId))
      .where(
        and(
          isNull(shortThrows.takenBackAt),
          inArray(shortThrows.game, [...WEARING_GAMES]),
          own(shortThrows.discId),
        ),
      )
      .groupBy(shortThrows.discId, sessions.day),
    db
      .select({
        discId: wearNotes.discId,
        day: wearNotes.day,
        throws: sql<number>`sum(${wearNotes.throws})::int`,
        hardHits: sql<number>`sum(${wearNotes.hardHits})::int`,
      })
      .from(wearNotes)
      .where(and(isNull(wearNotes.removedAt), own(wearNotes.discId)))
      .groupBy(wearNotes.discId, wearNotes.day),
  ])
  return [
    ...[...logged, ...played].map((l) => ({ ...l, hardHits: 0, noted: false })),
    ...noted.map((n) => ({ ...n, noted: true })),
  ]
}

const total = (went: readonly Went[]): Use =>
  went.reduce((sum, w) => ({ throws: sum.throws + w.throws, hardHits: sum.hardHits + w.hardHits }), {
    throws: 0,
    hardHits: 0,
  })
/** What came before the throws of a day: what is noted for the day itself came before it. */
const before = (went: readonly Went[], day: string): Use =>
  total(went.filter((w) => w.day < day || (w.noted && w.day === day)))

/** What a disc had been through before it was thrown on a day. */
export const wornBefore = async (db: Queryable, discId: string, day: string): Promise<Use> =>
  before(await usesOf(db, [discId]), day)

/** What discs had been through before each outing they were thrown on. */
export async function readWornOn(
  db: Queryable,
  thrown: readonly { readonly discId: string; readonly sessionId: string }[],
  held: readonly { readonly id: string; readonly day: string }[],
): Promise<WornOn[]> {
  const dayOf = new Map(held.map((s) => [s.id, s.day]))
  const ids = [...new Set(thrown.map((t) => t.discId))]
  if (ids.length === 0) return []
  const [went, kinds] = await Promise.all([
    usesOf(db, ids),
    db
      .select({ discId: discs.id, kind: plasticWear.kind })
      .from(discs)
      .leftJoin(plasticWear, eq(plasticWear.id, discs.plasticId))
      .where(inArray(discs.id, ids)),
  ])
  const wentOf = group(went, (w) => w.discId)
  const writeOf = new Map(kinds.map((k) => [k.discId, k.kind ?? ('unknown' as const)]))
  const on = rollup(
    thrown.filter((t) => writeOf.has(t.discId) && dayOf.has(t.sessionId)),
    ([first]) => {
      const { discId, sessionId } = first!
      return {
        discId,
        sessionId,
        kind: writeOf.get(discId)!,
        ...before(wentOf.get(discId) ?? [], dayOf.get(sessionId)!),
      }
    },
    (t) => `${t.discId} ${t.sessionId}`,
  )
  return [...on.values()]
}

/** A shelf with what each disc of it has been through. */
export interface WornShelf {
  readonly discs: ReadonlyMap<string, ShelfDisc>
  /** Throws a day, over the last year. */
  readonly paceOf: (discId: string) => number
  readonly plasticOf: (plasticId: string) => PlasticWear | undefined
  /** Test days are still being weighed. */
  readonly weighing: boolean
}

/** What every disc of a shelf has been through by now, and what its tests said. */
export async function readWorn(
  db: Database,
  weighs: Weighing,
  rows: readonly ShelfRow[],
  today: string,
): Promise<WornShelf> {
  const [kinds, went] = await Promise.all([db.select(wireColumns(plasticWear)).from(plasticWear), usesOf(db)])
  const wentOf = group(went, (w) => w.discId)
  const writeOf = new Map(kinds.map((k) => [k.id, k]))
  const { testsOf, weighing } = await testsBefore(db, weighs, rows, wentOf)
  const since = new Date(Date.parse(today) - LATELY_DAYS * millisecondsInDay).toISOString().slice(0, 10)
  const all = rows.map((row): ShelfDisc => {
    const { disc, plastic, maker, rating } = row
    const { numbers: published } = shelved(row).inForce
    return {
      id: disc.id,
      kind: writeOf.get(plastic.id)?.kind ?? 'unknown',
      blend: `${maker.name} ${plastic.name}`,
      published,
      rated: rating && {
        numbers: { speed: published.speed, glide: rating.glide, turn: rating.turn, fade: rating.fade },
        covariance: rating.covariance,
      },
      use: total(wentOf.get(disc.id) ?? []),
      tests: testsOf.get(disc.id) ?? [],
    }
  })
  return {
    discs: new Map(all.map((d) => [d.id, d])),
    paceOf: (id) => total((wentOf.get(id) ?? []).filter((w) => w.day > since)).throws / LATELY_DAYS,
    plasticOf: (id) => writeOf.get(id),
    weighing,
  }
}

/** Every test of every disc: what its throws of a day alone say, and what it had been through by then. */
async function testsBefore(
  db: Database,
  weighs: Weighing,
  rows: readonly ShelfRow[],
  wentOf: ReadonlyMap<string, readonly Went[]>,
) {
  const rated = rows.filter((r) => r.rating)
  const days = await daysOf(
    db,
    rated.map((r) => r.disc.id),
  )
  const weighed = await weighs.records.days(days, (changed) => readDays(db, changed))
  const byCode = new Map(rows.map((r) => [r.disc.code, r]))
  const testsOf = new Map<string, DayTest[]>()
  for (const [i, outcomes] of weighed.entries())
    for (const outcome of outcomes ?? []) {
      const row = byCode.get(outcome.disc)
      if (!row || outcome.throws === 0) continue
      const { day } = days[i]!
      const stability = withoutLabel(outcome.stability, carriedLabel(outcome.published))
      if (!stability) continue
      const use = before(wentOf.get(row.disc.id) ?? [], day)
      const list = testsOf.get(row.disc.id) ?? []
      testsOf.set(row.disc.id, [...list, { use, stability, scatter: outcome.scatter }])
    }
  return { testsOf, weighing: weighed.includes(undefined) }
}
