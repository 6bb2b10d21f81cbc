import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import { STANDARD_BODY } from '../../core/flight/disc.ts'
import { fadeSign, mirrored } from '../../core/flight/hand.ts'
import { REFERENCE_ARM_MPS } from '../../core/flight/arm.ts'
import type { FlownDisc } from '../../core/judge/likeness.ts'
import { gramsOf, shelved } from '../../contract/sheet.ts'
import type {
  DiscRecord,
  DiscThrow,
  LikenessRead,
  LikeDisc,
  ShelfRow,
  TestDay,
} from '../../contract/shelfPage.ts'
import type { Weighing } from './weighing.ts'
import type { Database, Queryable } from './database.ts'
import { hasPhoto, readInspections, readWearNotes } from './inspections.ts'
import { sessions, throwers, throws, trials } from './schema.ts'
import { readShelfRows } from './shelfPage.ts'
import { daysOf, readDays } from './testDays.ts'
import { readWorn } from './worn.ts'

/** Throws that are listed. */
const MOST_THROWS = 200
/** Likest and unlikest that are shown. */
const LIKEST = 4
const UNLIKEST = 1

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

/**
 * Null where there is nothing to compare with, undefined while it is worked out.
 *
 * @param arm V₉ of the arm they are thrown by, m/s: that of whoever threw the disc most unless told otherwise
 */
async function likenessOf(
  db: Database,
  weighs: Weighing,
  row: ShelfRow,
  shelf: readonly ShelfRow[],
  arm?: number,
): Promise<DiscRecord['likeness'] | undefined> {
  const others = shelf.filter((r) => r.rating && r.disc.id !== row.disc.id)
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
  const found = await weighs.records.likest({
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
  weighs: Weighing,
  discId: string,
  arm?: number,
): Promise<LikenessRead | undefined> {
  const [row] = await readShelfRows(db, [discId])
  if (!row) return undefined
  const likeness = await likenessOf(db, weighs, row, await readShelfRows(db, 'on the shelf'), arm)
  return { weighing: likeness === undefined, likeness: likeness ?? null }
}

/** Everything known of one disc; undefined where there is none of that id. */
export async function readDiscRecord(
  db: Database,
  weighs: Weighing,
  discId: string,
  today: string,
): Promise<DiscRecord | undefined> {
  const [row] = await readShelfRows(db, [discId])
  if (!row) return undefined
  const [rows, days] = await Promise.all([readShelfRows(db, 'on the shelf'), daysOf(db, [discId])])
  const all = rows.some((r) => r.disc.id === discId) ? rows : [...rows, row]
  const [weighed, likeness, worn] = await Promise.all([
    weighs.records.days(days, (changed) => readDays(db, changed)),
    likenessOf(db, weighs, row, rows),
    readWorn(db, weighs, all, today),
  ])
  const tests = weighed.flatMap((rated, i): TestDay[] => {
    const own = rated?.find((d) => d.disc === row.disc.code)
    if (!own || own.throws === 0) return []
    return [{ day: days[i]!.day, throws: own.throws, stability: own.stability.value, sd: own.stability.sd }]
  })
  const weighing = likeness === undefined || worn.weighing || weighed.includes(undefined)
  const { use, kind } = worn.discs.get(discId)!
  // half of the test days would foretell something else
  const foretold = weighing ? undefined : await weighs.rotation.foretell([...worn.discs.values()], discId)
  return {
    row,
    behind: await weighs.shelf.behind(),
    weighing,
    photo: await hasPhoto(db, discId),
    inspections: await readInspections(db, discId),
    wearNotes: await readWearNotes(db, discId),
    trials: await trialsOf(db, discId),
    tests,
    throws: await throwsOf(db, discId),
    likeness: likeness ?? null,
    wear: { ...use, kind, foretold: foretold ?? null },
    disagreements: [...(await weighs.shelf.gapsOf(discId))],
  }
}
