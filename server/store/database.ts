import { setTimeout } from 'node:timers/promises'
import { fileURLToPath } from 'node:url'
import { getTableColumns, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'
import { drizzle } from 'drizzle-orm/postgres-js'
import type { PostgresJsDatabase } from 'drizzle-orm/postgres-js'
import { migrate } from 'drizzle-orm/postgres-js/migrator'
import postgres from 'postgres'
import * as schema from './schema.ts'

export type Database = PostgresJsDatabase<typeof schema>
/** A database or a transaction on it: queries take either. */
export type Queryable = Pick<
  Database,
  'select' | 'selectDistinct' | 'selectDistinctOn' | 'insert' | 'update' | 'delete' | 'execute'
>

export interface Connection {
  /** Address of the database. */
  readonly url: string
  readonly db: Database
  readonly close: () => Promise<void>
}

/** Connects, makes the database if the server has none of that name, and applies what migrations are missing. */
export async function openDatabase(url: string): Promise<Connection> {
  await makeDatabase(url)
  const connection = connect(url)
  const migrationsFolder = fileURLToPath(new URL('./migrations', import.meta.url))
  await migrate(connection.db, { migrationsFolder })
  return connection
}

/** Connects to a database that is there, as it is. */
export function connect(url: string, max = 10): Connection {
  const client = postgres(url, {
    max,
    // a connection keeps what it found when it began, read-only too: idle ones are let go, and new ones ask anew
    idle_timeout: 10,
    // a database that comes back is found again within a second
    backoff: (tries: number) => Math.min(1, 0.05 * 2 ** tries),
    // nobody waits for this question of the client: asked of a connection that is ended, it would end the server
    fetch_types: false,
    onnotice: () => {},
  })
  const db = drizzle(client, { schema })
  return { url, db, close: () => client.end({ timeout: 5 }) }
}

/** A server that has not said it is PostgreSQL by then is taken to be something else, s. */
const SOON_S = 5

async function makeDatabase(url: string): Promise<void> {
  const name = decodeURIComponent(new URL(url).pathname.slice(1))
  const probe = postgres(url, { max: 1, connect_timeout: SOON_S + 1, onnotice: () => {} })
  try {
    // something that is no PostgreSQL may be asked again and again for ever
    const silence = setTimeout(1000 * SOON_S, undefined, { ref: false }).then(() => {
      throw Object.assign(new Error('It does not answer as PostgreSQL does.'), { code: 'CONNECT_TIMEOUT' })
    })
    await Promise.race([probe`select 1`, silence])
  } catch (e) {
    if ((e as { code?: string }).code !== '3D000') throw e
    const root = new URL(url)
    root.pathname = '/postgres'
    const admin = postgres(root.href, { max: 1, onnotice: () => {} })
    await admin.unsafe(`create database "${name.replaceAll('"', '""')}"`)
    await admin.end()
  } finally {
    await probe.end({ timeout: 0 })
  }
}

/** A database that has not answered by then is taken to be away, ms. */
const AWAY_MS = 1000

/** Whether rows can be stored now: the database answers soon, and it is not read-only. */
export async function takesWrites(db: Queryable): Promise<boolean> {
  const asked = db
    .execute<{ takes: boolean }>(
      sql`select current_setting('transaction_read_only') = 'off' and not pg_is_in_recovery() as takes`,
    )
    .then(
      ([row]) => row!.takes,
      () => false,
    )
  return Promise.race([asked, setTimeout(AWAY_MS, false, { ref: false })])
}

/** Rows of one statement: others are answered in between. */
const ROWS_AT_ONCE = 500

/**
 * Stores rows as they are, whatever was there before, many a statement. Rows cross as one JSON text: a number for each of
 * their values would cost ten times as much.
 *
 * @param set what a row that is there takes over instead of a value given, by column
 * @param told told after each statement how many are stored
 */
export async function overwriteAll<T extends PgTable>(
  db: Queryable,
  table: T,
  rows: readonly T['$inferInsert'][],
  set: Readonly<Record<string, SQL>> = {},
  told: (done: number) => void = () => {},
): Promise<void> {
  if (rows.length === 0) return
  const columns = getTableColumns(table)
  const given = Object.keys(rows[0]!).filter((key) => key in columns)
  const named = (key: string) => sql.identifier(columns[key]!.name)
  const list = sql.join(given.map(named), sql`, `)
  const changes = [
    ...given
      .filter((key) => key !== 'id' && !(key in set))
      .map((key) => sql`${named(key)} = excluded.${named(key)}`),
    ...Object.entries(set).map(([key, value]) => sql`${named(key)} = ${value}`),
  ]
  for (let from = 0; from < rows.length; from += ROWS_AT_ONCE) {
    const some = rows.slice(from, from + ROWS_AT_ONCE)
    const text = JSON.stringify(
      some.map((row) =>
        Object.fromEntries(given.map((key) => [columns[key]!.name, (row as Record<string, unknown>)[key]])),
      ),
    )
    await db.execute(sql`
      insert into ${table} (${list})
      select ${list} from json_populate_recordset(null::${table}, ${text}::json)
      on conflict (id) do update set ${sql.join(changes, sql`, `)}`)
    told(from + some.length)
  }
}

/** A table's columns as the wire knows its rows: when a row was first stored stays here. */
export function wireColumns<T extends PgTable>(table: T): Omit<T['_']['columns'], 'createdAt'> {
  const { createdAt: _, ...columns } = getTableColumns(table)
  return columns as Omit<T['_']['columns'], 'createdAt'>
}
