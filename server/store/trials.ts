import { FULL_POWER_FROM } from '../../core/plan/armLoad.ts'
import { createHash } from 'node:crypto'
import { isDeepStrictEqual } from 'node:util'
import { group } from 'd3'
import { and, asc, desc, eq, gte, inArray, isNull, max, min, ne, notInArray, sql } from 'drizzle-orm'
import { Plan } from '../../contract/trials.ts'
import type {
  ArmDay,
  KnownThrows,
  Place,
  Session,
  ShortThrow,
  Throw,
  Thrower,
  Trial,
  TrialFile,
  TrialSummary,
  WindLog,
} from '../../contract/trials.ts'
import { mayChange, NOBODY, ofSomebodyElse, overwriteOwn, writtenBy } from './by.ts'
import type { By } from './by.ts'
import { Conflict } from './conflicts.ts'
import { overwriteAll, wireColumns } from './database.ts'
import { readFirstThrow } from './history.ts'
import { overwriteShared } from './merging.ts'
import type { Database, Queryable } from './database.ts'
import { readWornOn } from './worn.ts'
import { places, sessions, shortThrows, throwers, throws, trialDiscs, trials, windLogs } from './schema.ts'

export const readThrowers = (db: Queryable): Promise<Thrower[]> =>
  db
    .select(wireColumns(throwers))
    .from(throwers)
    .orderBy(sql`${throwers.name} collate "en-x-icu"`)

export const overwriteThrower = (db: Queryable, row: Thrower) => overwriteShared(db, 'throwers', row)

export const readSessions = (db: Queryable): Promise<Session[]> =>
  db.select(wireColumns(sessions)).from(sessions).orderBy(desc(sessions.day), desc(sessions.createdAt))

export const overwriteSession = (db: Queryable, row: Session) => overwriteShared(db, 'sessions', row)

export const readWindLogs = (db: Queryable, sessionId: string): Promise<WindLog[]> =>
  db
    .select(wireColumns(windLogs))
    .from(windLogs)
    .where(eq(windLogs.sessionId, sessionId))
    .orderBy(asc(windLogs.startedAt))

/** Stores a minute of wind; a scribe changes those they logged. */
export const overwriteWindLog = (db: Queryable, row: WindLog, by: By = NOBODY): Promise<void> =>
  overwriteOwn(db, windLogs, row, by, 'minute of wind')

/** Throws of the short game of a trial, oldest first; taken back ones are not among them. */
export const readShortThrows = (db: Queryable, trialId: string): Promise<ShortThrow[]> =>
  db
    .select(wireColumns(shortThrows))
    .from(shortThrows)
    .where(and(eq(shortThrows.trialId, trialId), isNull(shortThrows.takenBackAt)))
    .orderBy(asc(shortThrows.thrownAt))

/** Stores a throw of the short game; a scribe changes those they logged. */
export const overwriteShortThrow = (db: Queryable, row: ShortThrow, by: By = NOBODY): Promise<void> =>
  overwriteOwn(db, shortThrows, row, by, 'throw')

export const readPlaces = (db: Queryable): Promise<Place[]> =>
  db
    .select(wireColumns(places))
    .from(places)
    .orderBy(sql`${places.name} collate "en-x-icu"`)

export const overwritePlace = (db: Queryable, row: Place) => overwriteShared(db, 'places', row)

/** What every arm threw on each day since one, as the days were where it threw; whether it counted or not, taken back is not thrown. */
export async function readArmDays(db: Queryable, since: string): Promise<ArmDay[]> {
  const { day } = sessions
  return await db
    .select({
      throwerId: throws.throwerId,
      day,
      throws: sql<number>`count(*)::int`,
      fullPower: sql<number>`(count(*) filter (where ${throws.power} >= ${FULL_POWER_FROM}))::int`,
    })
    .from(throws)
    .innerJoin(sessions, eq(sessions.id, throws.sessionId))
    .where(and(isNull(throws.takenBackAt), gte(sessions.day, since)))
    .groupBy(throws.throwerId, day)
    .orderBy(day)
}

/** Stores throws as they are given, whatever was there before: what a file or the demo says. */
export const overwriteThrows = (db: Queryable, rows: readonly Throw[], told?: (done: number) => void) =>
  overwriteAll(
    db,
    throws,
    rows.map(({ version: _, ...row }) => row),
    { version: sql`${throws.version} + 1` },
    told,
  )

const instantOf = (at: string | null) => at && new Date(at).toISOString()
/** A throw without its version, times in one way of writing. */
const contentOf = ({ version: _, ...row }: Throw) => ({
  ...row,
  thrownAt: instantOf(row.thrownAt),
  takenBackAt: instantOf(row.takenBackAt),
})

/**
 * Stores a throw that a device sent, and answers with it as stored. A write that comes again is the same write. An edit made
 * from another version than the stored one is refused with what is stored, so that neither is lost.
 */
export async function writeThrow(db: Queryable, row: Throw, by: By = NOBODY): Promise<Throw> {
  const columns = wireColumns(throws)
  const [made] = await db
    .insert(throws)
    .values({ ...row, ...writtenBy(by), version: 1 })
    .onConflictDoNothing()
    .returning(columns)
  if (made) return made
  const { trialId: _, ...content } = row
  const [changed] = await db
    .update(throws)
    .set({ ...content, ...writtenBy(by), version: row.version + 1 })
    .where(
      and(
        eq(throws.id, row.id),
        eq(throws.version, row.version),
        eq(throws.trialId, row.trialId),
        mayChange(by, throws.byPersonId),
      ),
    )
    .returning(columns)
  if (changed) return changed
  const [stored] = await db.select(columns).from(throws).where(eq(throws.id, row.id))
  if (stored?.version === row.version && by.onlyOwn && !isDeepStrictEqual(contentOf(stored), contentOf(row)))
    throw ofSomebodyElse()
  if (stored && stored.trialId !== row.trialId)
    throw new Conflict(
      'Of another trial',
      'The throw belongs to another trial, and stays there.',
      undefined,
      [{ path: 'trialId', message: 'is not that of the throw, which stays in its trial' }],
    )
  if (stored && isDeepStrictEqual(contentOf(stored), contentOf(row))) return stored
  if (stored && row.version === 0) {
    const first = await readFirstThrow(db, row.id)
    if (first && isDeepStrictEqual(contentOf(first), contentOf(row))) return { ...row, version: 1 }
  }
  throw changedElsewhere('throw', stored)
}

/** What stands for a trial as a device sent it first: by it the same write is known when it comes again. */
const digestOf = (row: Trial): string =>
  createHash('sha256')
    .update(JSON.stringify(trialContent(row)))
    .digest('base64url')

const changedElsewhere = (what: string, stored: Throw | Trial | undefined) =>
  new Conflict(
    'Changed elsewhere',
    `This ${what} was changed on another device meanwhile. Both versions are kept; choose one.`,
    stored,
  )

/** A trial without its version, times in one way of writing. */
const trialContent = ({ version: _, ...row }: Trial) => ({
  ...row,
  finishedAt: instantOf(row.finishedAt),
  removedAt: instantOf(row.removedAt),
})

/** Stores a trial that a device sent, and answers with it as stored; versions as {@link writeThrow} has them. */
export const writeTrial = (db: Database, row: Trial): Promise<Trial> =>
  db.transaction(async (tx) => {
    // one after the other, a trial not yet stored too
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${row.id}, 0))`)
    const stored = await trialWithDiscs(tx, row.id)
    if (stored && row.version !== undefined && row.version !== stored.version) {
      if (isDeepStrictEqual(trialContent(stored), trialContent(row))) return stored
      // the write it was made by, come again because its answer was lost, while others have changed it since
      if (row.version === 0) {
        const [made] = await tx.select({ as: trials.madeAs }).from(trials).where(eq(trials.id, row.id))
        if (made?.as === digestOf(row)) return { ...row, version: 1 }
      }
      throw changedElsewhere('trial', stored)
    }
    await overwriteTrialIn(tx, row)
    if (!stored)
      await tx
        .update(trials)
        .set({ madeAs: digestOf(row) })
        .where(eq(trials.id, row.id))
    return { ...row, version: (stored?.version ?? 0) + 1 }
  })

/** What was expected is locked by the first throw, taken back or not: afterwards nobody remembers it right. */
async function keepExpectation(tx: Queryable, { id, plan }: Pick<Trial, 'id' | 'plan'>): Promise<void> {
  const [before] = await tx.select({ plan: trials.plan }).from(trials).where(eq(trials.id, id)).for('update')
  if (!before?.plan) return
  // by content: the database keeps the parts of a claim in an order of its own
  const told = (p: Plan | null) => [p?.expected ?? [], p?.claims ?? [], p?.built ?? [], p?.likeDiscId ?? null]
  if (isDeepStrictEqual(told(plan), told(before.plan))) return
  const [first] = await tx
    .select({ at: min(throws.thrownAt) })
    .from(throws)
    .where(eq(throws.trialId, id))
  if (first?.at)
    throw new Conflict(
      'Locked',
      'What was expected is locked since the first throw; the plan may change, the expectation may not.',
      undefined,
      [{ path: 'plan.expected', message: 'is locked since the first throw' }],
    )
}

/** The trial and its discs; a disc that has been thrown for it cannot be dropped. */
export async function overwriteTrialIn(tx: Queryable, { discIds, version: _, ...row }: Trial): Promise<void> {
  await keepExpectation(tx, row)
  await tx
    .insert(trials)
    .values(row)
    .onConflictDoUpdate({ target: trials.id, set: { ...row, version: sql`${trials.version} + 1` } })
  await tx
    .delete(trialDiscs)
    .where(and(eq(trialDiscs.trialId, row.id), notInArray(trialDiscs.discId, discIds)))
  await tx
    .insert(trialDiscs)
    .values(discIds.map((discId, place) => ({ trialId: row.id, discId, place })))
    .onConflictDoUpdate({
      target: [trialDiscs.trialId, trialDiscs.discId],
      set: { place: sql`excluded.place` },
    })
}

/** Trials with their discs in the order they stand in them. */
async function withDiscs<T extends { readonly id: string }>(db: Queryable, rows: readonly T[]) {
  if (rows.length === 0) return []
  const members = await db
    .select()
    .from(trialDiscs)
    .where(
      inArray(
        trialDiscs.trialId,
        rows.map((r) => r.id),
      ),
    )
    .orderBy(asc(trialDiscs.place))
  const byTrial = group(members, (m) => m.trialId)
  return rows.map((row) => ({ ...row, discIds: (byTrial.get(row.id) ?? []).map((m) => m.discId) }))
}

async function trialWithDiscs(db: Queryable, id: string): Promise<Trial | undefined> {
  const [row] = await db.select(wireColumns(trials)).from(trials).where(eq(trials.id, id))
  // plans of an earlier day lack what has been added since
  const [trial] = await withDiscs(db, row ? [{ ...row, plan: row.plan && Plan.parse(row.plan) }] : [])
  return trial
}

export async function readTrials(db: Queryable): Promise<TrialSummary[]> {
  const { plan: _, ...head } = wireColumns(trials)
  const [list, tallies] = await Promise.all([
    db.select(head).from(trials).orderBy(desc(trials.createdAt)),
    db
      .select({
        trialId: throws.trialId,
        counted: sql<number>`count(*) filter (where ${throws.counts})::int`,
        leftOut: sql<number>`count(*) filter (where not ${throws.counts})::int`,
        lastThrownAt: max(throws.thrownAt),
      })
      .from(throws)
      .where(sql`${throws.takenBackAt} is null`)
      .groupBy(throws.trialId),
  ])
  const byTrial = new Map(tallies.map((t) => [t.trialId, t]))
  return (await withDiscs(db, list)).map((trial) => {
    const tally = byTrial.get(trial.id)
    return {
      trial,
      counted: tally?.counted ?? 0,
      leftOut: tally?.leftOut ?? 0,
      lastThrownAt: tally?.lastThrownAt ?? null,
    }
  })
}

/** The name of a trial; undefined where there is none. */
export async function readTrialName(db: Queryable, id: string): Promise<string | undefined> {
  const [trial] = await db.select({ name: trials.name }).from(trials).where(eq(trials.id, id))
  return trial?.name
}

/** A trial with its sessions and every throw, those taken back included; undefined when there is none. */
export async function readTrial(db: Queryable, id: string): Promise<TrialFile | undefined> {
  const trial = await trialWithDiscs(db, id)
  if (!trial) return undefined
  const thrown = await db
    .select(wireColumns(throws))
    .from(throws)
    .where(eq(throws.trialId, id))
    .orderBy(asc(throws.thrownAt), asc(throws.id))
  const ids = [...new Set(thrown.map((t) => t.sessionId))]
  const held =
    ids.length === 0
      ? []
      : await db.select(wireColumns(sessions)).from(sessions).where(inArray(sessions.id, ids))
  return { trial, sessions: held, throws: thrown, worn: await readWornOn(db, thrown, held) }
}

/** As many throws of other trials are read beside a trial's own, the latest first. */
const MOST_KNOWN = 1500

/** Throws of other trials that share discs with one, with their outings: what is known of its discs besides. */
export async function readKnown(db: Queryable, { trial }: TrialFile): Promise<KnownThrows> {
  if (trial.discIds.length === 0) return { sessions: [], throws: [] }
  const counted = and(ne(throws.trialId, trial.id), isNull(throws.takenBackAt), throws.counts)
  const sharing = await db
    .selectDistinct({ id: throws.trialId })
    .from(throws)
    .where(and(counted, inArray(throws.discId, [...trial.discIds])))
  if (sharing.length === 0) return { sessions: [], throws: [] }
  const thrown = await db
    .select(wireColumns(throws))
    .from(throws)
    .where(
      and(
        counted,
        inArray(
          throws.trialId,
          sharing.map((t) => t.id),
        ),
      ),
    )
    .orderBy(desc(throws.thrownAt), asc(throws.id))
    .limit(MOST_KNOWN)
  const held = await db
    .select(wireColumns(sessions))
    .from(sessions)
    .where(inArray(sessions.id, [...new Set(thrown.map((t) => t.sessionId))]))
  const worn = await readWornOn(db, thrown, held)
  return { sessions: held, throws: thrown.reverse(), worn }
}
