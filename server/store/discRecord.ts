import { and, asc, desc, eq, inArray, isNull, lt, sql } from 'drizzle-orm'
import { leavesSlot, wearRate } from '../../core/judge/wear.ts'
import type { Retest } from '../../core/judge/wear.ts'
import { STANDARD_BODY } from '../../core/flight/disc.ts'
import { fadeSign, mirrored } from '../../core/flight/hand.ts'
import { REFERENCE_ARM_MPS } from '../../core/flight/arm.ts'
import type { FlownDisc } from '../../core/judge/likeness.ts'
import { gramsOf, ratedFromShelf, sheetOf, shelved } from '../../contract/sheet.ts'
import { stabilityOf } from '../../contract/shelfPage.ts'
import type {
  DiscRecord,
  DiscThrow,
  LikenessRead,
  LikeDisc,
  Rating,
  ShelfRow,
  TestDay,
} from '../../contract/shelfPage.ts'
import type { Day } from '../work/records.ts'
import type { Works } from '../work/works.ts'
import { wireColumns } from './database.ts'
import type { Database, Queryable } from './database.ts'
import { hasPhoto, readInspections, readWearNotes } from './inspections.ts'
import { discs, plastics, sessions, throwers, throws, trials } from './schema.ts'
import { readShelfRows } from './shelfPage.ts'

/** Test days further back are not weighed again. */
const MOST_DAYS = 12
/** Throws that are listed. */
const MOST_THROWS = 200
/** Likest and unlikest that are shown. */
const LIKEST = 4
const UNLIKEST = 1
/** A disc leaves its place when it has changed by so much. */
const LEAVES_BY = 0.5

const flown = (row: ShelfRow): FlownDisc => {
  const grams = gramsOf(row.disc)
  const { numbers } = shelved(row).inForce
  return {
    numbers: row.rating ? { speed: numbers.speed, ...row.rating } : numbers,
    body: grams === null ? STANDARD_BODY : { ...STANDARD_BODY, massKg: grams / 1000 },
  }
}

/** The trials a disc was thrown for. */
const trialsOf = (db: Queryable, discId: string) =>
  db
    .select({
      id: trials.id,
      name: trials.name,
      throws: sql<number>`(count(*) filter (where ${throws.counts}))::int`,
      leftOut: sql<number>`(count(*) filter (where not ${throws.counts}))::int`,
      last: sql<string>`max(${sessions.day})::text`,
    })
    .from(throws)
    .innerJoin(trials, eq(trials.id, throws.trialId))
    .innerJoin(sessions, eq(sessions.id, throws.sessionId))
    .where(and(eq(throws.discId, discId), isNull(throws.takenBackAt)))
    .groupBy(trials.id, trials.name)
    .orderBy(desc(sql`max(${throws.thrownAt})`))

/** The latest throws of a disc, side seen from the throw. */
async function throwsOf(db: Queryable, discId: string): Promise<DiscThrow[]> {
  const rows = await db
    .select({
      id: throws.id,
      trialId: throws.trialId,
      thrownAt: throws.thrownAt,
      thrower: throwers.name,
      hand: throws.hand,
      stroke: throws.stroke,
      hyzerDeg: throws.hyzerDeg,
      power: throws.power,
      carryM: throws.carryM,
      rightM: throws.rightM,
      counts: throws.counts,
      whyNot: throws.whyNot,
    })
    .from(throws)
    .innerJoin(throwers, eq(throwers.id, throws.throwerId))
    .where(and(eq(throws.discId, discId), isNull(throws.takenBackAt)))
    .orderBy(desc(throws.thrownAt))
    .limit(MOST_THROWS)
  return rows.map(({ hand, stroke, rightM, ...t }) => ({
    ...t,
    veerM: mirrored(rightM, fadeSign(hand, stroke)),
  }))
}

/** Days on which discs of a plastic were thrown, as the fit takes them. */
async function daysOf(db: Queryable, ids: readonly string[]): Promise<Day[]> {
  const found = await db
    .selectDistinct({ day: sessions.day })
    .from(throws)
    .innerJoin(sessions, eq(sessions.id, throws.sessionId))
    .where(and(inArray(throws.discId, [...ids]), isNull(throws.takenBackAt), throws.counts))
    .orderBy(desc(sessions.day))
    .limit(MOST_DAYS)
  const days = found.map((d) => d.day).sort()
  if (days.length === 0) return []
  const held = await db.select(wireColumns(sessions)).from(sessions).where(inArray(sessions.day, days))
  const thrown = await db
    .select(wireColumns(throws))
    .from(throws)
    .where(
      and(
        inArray(
          throws.sessionId,
          held.map((s) => s.id),
        ),
        isNull(throws.takenBackAt),
      ),
    )
    .orderBy(asc(throws.thrownAt))
  const [people, controls, rows] = await Promise.all([
    db.select(wireColumns(throwers)).from(throwers),
    db.select({ id: trials.controlDiscId }).from(trials),
    readShelfRows(db, inArray(discs.id, [...new Set(thrown.map((t) => t.discId))])),
  ])
  const known = new Set(controls.map((c) => c.id))
  const shelf = rows.map(shelved)
  return days.map((day) => {
    const own = held.filter((s) => s.day === day)
    const of = thrown.filter((t) => own.some((s) => s.id === t.sessionId))
    const there = new Set(of.map((t) => t.discId))
    return {
      day,
      sheet: sheetOf({ trial: { controlDiscId: null }, sessions: own, throws: of }, shelf, people),
      discs: shelf
        .filter((d) => there.has(d.disc.id))
        .map((d) => ratedFromShelf(d, known.has(d.disc.id) ? d.disc.id : null)),
    }
  })
}

/** Throws of a disc logged before a day, and what their wear notes add up to by then. */
export async function wornBefore(db: Queryable, discId: string, day: string) {
  const [logged] = await db
    .select({ count: sql<number>`count(*)::int` })
    .from(throws)
    .innerJoin(sessions, eq(sessions.id, throws.sessionId))
    .where(and(eq(throws.discId, discId), isNull(throws.takenBackAt), lt(sessions.day, day)))
  const notes = (await readWearNotes(db, discId)).filter((n) => n.day <= day)
  return {
    throws: (logged?.count ?? 0) + notes.reduce((n, w) => n + w.throws, 0),
    hardHits: notes.reduce((n, w) => n + w.hardHits, 0),
  }
}

/**
 * Null where there is nothing to compare with, undefined while it is worked out.
 *
 * @param arm V₉ of the arm they are thrown by, m/s: that of whoever threw the disc most unless told otherwise
 */
async function likenessOf(
  db: Database,
  works: Works,
  row: ShelfRow,
  arm?: number,
): Promise<DiscRecord['likeness'] | undefined> {
  const others = (await readShelfRows(db, isNull(discs.removedAt))).filter(
    (r) => r.rating && r.disc.id !== row.disc.id,
  )
  if (others.length === 0) return null
  const [thrower] = await db
    .select({ backhandMps: throwers.backhandMps })
    .from(throws)
    .innerJoin(throwers, eq(throwers.id, throws.throwerId))
    .where(eq(throws.discId, row.disc.id))
    .groupBy(throwers.id, throwers.backhandMps)
    .orderBy(desc(sql`count(*)`))
    .limit(1)
  const armMps = arm ?? thrower?.backhandMps ?? REFERENCE_ARM_MPS
  const found = await works.records.likest({
    disc: flown(row),
    others: new Map(others.map((o) => [o.disc.id, flown(o)])),
    armMps,
    shown: { most: LIKEST, least: UNLIKEST },
  })
  if (!found) return undefined
  const { spread, others: by } = found
  const like = by.map(({ disc, ...l }): LikeDisc => ({ discId: disc, ...l }))
  return {
    armMps,
    spread,
    most: like.slice(0, LIKEST),
    least: like.slice(LIKEST).slice(-UNLIKEST),
  }
}

/** What of the shelf flies like a disc at some arm; undefined where there is no disc of that id. */
export async function readLikeness(
  db: Database,
  works: Works,
  discId: string,
  arm?: number,
): Promise<LikenessRead | undefined> {
  const [row] = await readShelfRows(db, eq(discs.id, discId))
  if (!row) return undefined
  const likeness = await likenessOf(db, works, row, arm)
  return { weighing: likeness === undefined, likeness: likeness ?? null }
}

/** Everything known of one disc; undefined where there is none of that id. */
export async function readDiscRecord(
  db: Database,
  works: Works,
  discId: string,
  today: string,
): Promise<DiscRecord | undefined> {
  const [row] = await readShelfRows(db, eq(discs.id, discId))
  if (!row) return undefined
  const ofPlastic = await readShelfRows(db, and(eq(plastics.id, row.plastic.id), isNull(discs.removedAt)))
  const siblings = ofPlastic.some((r) => r.disc.id === discId) ? ofPlastic : [...ofPlastic, row]
  const idOf = new Map(siblings.map((r) => [r.disc.code, r.disc.id]))
  const days = await daysOf(
    db,
    siblings.map((r) => r.disc.id),
  )
  const [weighed, likeness] = await Promise.all([works.records.days(days), likenessOf(db, works, row)])
  const tests: TestDay[] = []
  const retests: Retest[] = []
  for (const [i, rated] of weighed.entries())
    for (const d of rated ?? []) {
      const id = idOf.get(d.disc)
      if (id === undefined || d.throws === 0) continue
      const { day } = days[i]!
      retests.push({
        disc: d.disc,
        ...(await wornBefore(db, id, day)),
        stability: d.stability,
      })
      if (id === discId)
        tests.push({ day, throws: d.throws, stability: d.stability.value, sd: d.stability.sd })
    }
  const weighing = likeness === undefined || weighed.includes(undefined)
  const rate = wearRate(retests)
  const now = await wornBefore(db, discId, nextDay(today))
  // half of its days would foretell something else
  const forecast = row.rating && !weighing ? forecastOf(row.rating, rate, now) : null
  return {
    row,
    behind: works.shelf.behind,
    weighing,
    photo: await hasPhoto(db, discId),
    inspections: await readInspections(db, discId),
    wearNotes: await readWearNotes(db, discId),
    trials: await trialsOf(db, discId),
    tests,
    throws: await throwsOf(db, discId),
    likeness: likeness ?? null,
    wear: { rate, ...now, forecast },
    disagreements: [...works.shelf.gapsOf(discId)],
  }
}

const nextDay = (day: string) => new Date(Date.parse(day) + 86_400_000).toISOString().slice(0, 10)

function forecastOf(
  rating: Rating,
  rate: ReturnType<typeof wearRate>,
  now: { readonly throws: number; readonly hardHits: number },
) {
  const stability = stabilityOf(rating)
  const slot = { low: stability.value - LEAVES_BY, high: stability.value + LEAVES_BY }
  const hitsPerThrow = now.throws > 0 ? now.hardHits / now.throws : 0
  // where it is now is where it belongs: only what wear adds is uncertain
  const f = leavesSlot({ ...stability, sd: 0 }, rate, slot, hitsPerThrow)
  const seen = (n: number) => (Number.isFinite(n) ? n : null)
  return {
    inSlotNow: f.inSlotNow,
    earliest: seen(f.earliest),
    leavesAfterThrows: seen(f.leavesAfterThrows),
    latest: seen(f.latest),
  }
}
