import { getTableColumns, getTableName, is } from 'drizzle-orm'
import { getTableConfig, PgTable } from 'drizzle-orm/pg-core'
import type { PgColumn } from 'drizzle-orm/pg-core'
import * as schema from './schema.ts'

/** What is worked out, and is worked out again; what lets somebody in; and what is of the moment. None of it travels. */
const STAYS = new Set<PgTable>([
  ...[schema.ratings, schema.cards, schema.unweighed, schema.shelfState, schema.weighedDays],
  ...[
    schema.passes,
    schema.attempts,
    schema.failedTries,
    schema.errands,
    schema.hands,
    schema.rowVersions,
    schema.offers,
  ],
])
/** Columns by which somebody comes in or reads what is published, and what of a device is of the moment. */
const SECRET = new Map<PgTable, ReadonlySet<string>>([
  [schema.people, new Set(['passphrase'])],
  [schema.deviceKeys, new Set(['digest', 'seen_at', 'revoked_at'])],
  [schema.revisions, new Set(['token'])],
])

/** Columns of a table, by their names, that never travel; packages of an earlier day may hold some all the same. */
export const secretsOf = (table: string): ReadonlySet<string> =>
  [...SECRET].find(([t]) => getTableName(t) === table)?.[1] ?? new Set()

/** A column as it travels in a CSV file. */
export interface TravellingColumn {
  readonly name: string
  /** Of PostgreSQL. */
  readonly type: string
  readonly required: boolean
}

/** A table as it travels. */
export interface TravellingTable {
  readonly name: string
  readonly columns: readonly TravellingColumn[]
  readonly primaryKey: readonly string[]
  readonly foreignKeys: readonly {
    readonly fields: readonly string[]
    readonly table: string
    readonly of: readonly string[]
  }[]
  /** The column whose bytes travel as files. */
  readonly file: string | undefined
}

const all: readonly PgTable[] = Object.values(schema).flatMap((t) => (is(t, PgTable) ? [t as PgTable] : []))

const travelling = (table: PgTable): TravellingTable => {
  const config = getTableConfig(table)
  const secret = SECRET.get(table)
  const columns = Object.values(getTableColumns(table)).filter((c: PgColumn) => !secret?.has(c.name))
  const names = (list: readonly { readonly name: string }[]) => list.map((c) => c.name)
  return {
    name: getTableName(table),
    columns: columns.map((c) => ({ name: c.name, type: c.getSQLType(), required: c.notNull })),
    primaryKey:
      config.primaryKeys.length > 0
        ? names(config.primaryKeys[0]!.columns)
        : names(columns.filter((c) => c.primary)),
    foreignKeys: config.foreignKeys.map((key) => {
      const { columns: fields, foreignTable, foreignColumns } = key.reference()
      return { fields: names(fields), table: getTableName(foreignTable), of: names(foreignColumns) }
    }),
    file: columns.find((c) => c.getSQLType() === 'bytea')?.name,
  }
}

/** Tables after those they refer to. */
function inOrder(tables: readonly TravellingTable[]): TravellingTable[] {
  const placed: TravellingTable[] = []
  const has = (name: string) => placed.some((t) => t.name === name)
  while (placed.length < tables.length) {
    const next = tables.find(
      (t) => !has(t.name) && t.foreignKeys.every((k) => k.table === t.name || has(k.table)),
    )
    if (!next) throw new Error('Tables refer to each other in a circle.')
    placed.push(next)
  }
  return placed
}

/** Every table that travels in a package, after those it refers to. */
export const TABLES: readonly TravellingTable[] = inOrder(all.filter((t) => !STAYS.has(t)).map(travelling))
/** What is worked out of them or holds of the moment, and is emptied when they are replaced. */
export const WORKED_OUT: readonly string[] = [
  schema.ratings,
  schema.cards,
  schema.hands,
  schema.rowVersions,
].map(getTableName)

export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`
