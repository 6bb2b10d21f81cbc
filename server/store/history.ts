import { desc, eq, getTableColumns, inArray } from 'drizzle-orm'
import type { Throw, ThrowHistory } from '../../contract/trials.ts'
import { wireColumns } from './database.ts'
import type { Queryable } from './database.ts'
import { deviceKeys, people, throws, throwVersions } from './schema.ts'

type Version = typeof throws.$inferSelect

/** A row that a trigger kept, as it is read of its table. */
function versionOf(was: Readonly<Record<string, unknown>>): Version {
  const columns = Object.entries(getTableColumns(throws))
  const value = (column: (typeof columns)[number][1]) => {
    const kept = was[column.name] ?? null
    return kept === null || column.dataType === 'json' ? kept : column.mapFromDriverValue(kept as never)
  }
  return Object.fromEntries(columns.map(([key, column]) => [key, value(column)])) as Version
}

/** Every way a throw was written, with who wrote it so, the latest first; empty where there is no such throw. */
export async function readThrowHistory(db: Queryable, id: string): Promise<ThrowHistory> {
  const [now] = await db.select().from(throws).where(eq(throws.id, id))
  if (!now) return []
  const before = await db
    .select({ was: throwVersions.was })
    .from(throwVersions)
    .where(eq(throwVersions.throwId, id))
    .orderBy(desc(throwVersions.replacedAt))
  const versions = [now, ...before.map((v) => versionOf(v.was))]
  const ids = (key: 'byPersonId' | 'byKeyId') => versions.map((v) => v[key]).filter((k) => k !== null)
  const [persons, keys] = await Promise.all([
    db
      .select({ id: people.id, name: people.name })
      .from(people)
      .where(inArray(people.id, ids('byPersonId'))),
    db
      .select({ id: deviceKeys.id, name: deviceKeys.name })
      .from(deviceKeys)
      .where(inArray(deviceKeys.id, ids('byKeyId'))),
  ])
  const ours = Object.keys(wireColumns(throws))
  return versions.map((v) => ({
    at: v.writtenAt,
    person: persons.find((p) => p.id === v.byPersonId)?.name ?? null,
    device: keys.find((k) => k.id === v.byKeyId)?.name ?? null,
    throw: Object.fromEntries(Object.entries(v).filter(([key]) => ours.includes(key))) as Throw,
  }))
}

/** A throw as it was first stored; undefined where there is none. */
export async function readFirstThrow(db: Queryable, id: string): Promise<Throw | undefined> {
  return (await readThrowHistory(db, id)).at(-1)?.throw
}

/** Who wrote each throw of a trial last, and with which device; those of which nobody knows are not among them. */
export const readLoggers = (db: Queryable, trialId: string) =>
  db
    .select({ throwId: throws.id, person: people.name, device: deviceKeys.name })
    .from(throws)
    .innerJoin(people, eq(people.id, throws.byPersonId))
    .leftJoin(deviceKeys, eq(deviceKeys.id, throws.byKeyId))
    .where(eq(throws.trialId, trialId))
