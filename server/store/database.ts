import { setTimeout } from 'node:timers/promises'
import { fileURLToPath } from 'node:url'
import { getTableColumns, sql } from 'drizzle-orm'
import type { SQL } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'
import { drizzle } from 'drizzle-orm/node-postgres'
import type { NodePgDatabase } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import pg from 'pg'
import { isLost } from './away.ts'
import * as schema from './schema.ts'

export type Database = NodePgDatabase<typeof schema>
/** A database or a transaction on it: queries take either. */
export type Queryable = Pick<
  Database,
  'select' | 'selectDistinct' | 'selectDistinctOn' | 'insert' | 'update' | 'delete' | 'execute'
>

export interface Connection {
  /** Address of the database. */
  readonly url: string
  readonly db: Database
  /** For what goes beside queries: copies, and news. */
  readonly pool: pg.Pool
  readonly close: () => Promise<void>
}

/** Connects, makes the database if the server has none of that name, and applies what migrations are missing. */
export async function openDatabase(url: string): Promise<Connection> {
  await makeDatabase(url)
  const connection = connect(url)
  const migrationsFolder = fileURLToPath(new URL('./migrations', import.meta.url))
  try {
    await alone(url, 'start', () => migrate(connection.db, { migrationsFolder }))
  } catch (e) {
    await connection.close()
    throw e
  }
  return connection
}

/** Does something while no other instance does what goes by the same name. */
export async function alone<T>(url: string, name: string, work: () => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: CONNECT_MS })
  client.on('error', () => {})
  try {
    await client.connect()
    await client.query('select pg_advisory_lock(hashtextextended($1, 0))', [name])
    return await work()
  } finally {
    // the lock goes with its connection
    await client.end().catch(() => {})
  }
}

/** Connects to a database that is there, as it is. */
export function connect(url: string, max = 10): Connection {
  const pool = new pg.Pool({
    connectionString: url,
    max,
    // a connection keeps what it found when it began, read-only too: idle ones are let go, and new ones ask anew
    idleTimeoutMillis: 10_000,
    connectionTimeoutMillis: CONNECT_MS,
    keepAlive: true,
  })
  // whoever asks on a connection that breaks is told; nobody else has to be, and the next one gets another
  pool.on('error', () => {})
  pool.on('connect', (client) => client.on('error', () => {}))
  // connections that broke while nobody used them may each be handed out once more before that is known: what only reads, and
  // a transaction that has not begun, is asked again until all of them were tried
  const asked = pool.query.bind(pool) as (...args: unknown[]) => Promise<unknown>
  pool.query = (async (...args: unknown[]) => {
    for (let broken = 0; ; broken++)
      try {
        return await asked(...args)
      } catch (e) {
        if (broken === max || !isLost(e) || !READS.test(textOf(args[0]))) throw e
      }
  }) as typeof pool.query
  const db: Database = drizzle(pool, { schema })
  db.transaction = async (work, config) => {
    for (let broken = 0; ; broken++) {
      let begun = false
      // one that cannot even begin gives its connection back too
      const client = await pool.connect()
      try {
        return await drizzle(client, { schema }).transaction((tx) => {
          begun = true
          return work(tx)
        }, config)
      } catch (e) {
        if (begun || broken === max || !isLost(e)) throw e
      } finally {
        client.release()
      }
    }
  }
  return {
    url,
    db,
    pool,
    close: async () => {
      await pool.end()
    },
  }
}

const READS = /^\s*select\b/i
const textOf = (query: unknown): string =>
  typeof query === 'string' ? query : String((query as { text?: unknown } | undefined)?.text)

/** Nobody waits longer for a connection, ms. */
const CONNECT_MS = 5000

async function makeDatabase(url: string): Promise<void> {
  const name = decodeURIComponent(new URL(url).pathname.slice(1))
  try {
    await once(url, 'select 1')
  } catch (e) {
    if ((e as { code?: string }).code !== '3D000') throw e
    const root = new URL(url)
    root.pathname = '/postgres'
    await once(root.href, `create database "${name.replaceAll('"', '""')}"`).catch((taken: unknown) => {
      // another instance was a moment faster
      if (!['42P04', '23505'].includes((taken as { code?: string }).code ?? '')) throw taken
    })
  }
}

/** Asks a server one thing. Something that is no PostgreSQL is taken for one that does not answer. */
export async function once(url: string, asked: string): Promise<pg.QueryResult> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: CONNECT_MS })
  client.on('error', () => {})
  try {
    await client.connect()
    return await client.query(asked)
  } finally {
    // one that never connected has nothing to end
    void client.end().catch(() => {})
  }
}

/** The database a server keeps everything in: its server's version, its size, and how many throws it holds. */
export async function describeDatabase(
  db: Database,
): Promise<{ readonly version: string; readonly bytes: number; readonly throws: number }> {
  const { rows } = await db.execute<{ version: string; bytes: string; throws: number }>(
    sql`select current_setting('server_version') as version, pg_database_size(current_database()) as bytes,
          (select count(*)::int from throws) as throws`,
  )
  const { version, bytes, throws } = rows[0]!
  return { version: version.split(' ')[0]!, bytes: Number(bytes), throws }
}

/** A database that has not answered by then is taken to be away, ms. */
const AWAY_MS = 1000

export type DatabaseState = 'takes-writes' | 'read-only' | 'away'

/** What can be done with the database now. */
export async function databaseState(db: Queryable): Promise<DatabaseState> {
  const asked = db
    .execute<{ takes: boolean }>(
      sql`select current_setting('transaction_read_only') = 'off' and not pg_is_in_recovery() as takes`,
    )
    .then(
      ({ rows }): DatabaseState => (rows[0]!.takes ? 'takes-writes' : 'read-only'),
      (): DatabaseState => 'away',
    )
  return Promise.race([asked, setTimeout(AWAY_MS, 'away' as const, { ref: false })])
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

type Ours = 'createdAt' | 'byPersonId' | 'byKeyId' | 'writtenAt' | 'madeAs'
/** A table's columns as the wire knows its rows: when a row was first stored, and by whom it was written, stays here. */
export function wireColumns<T extends PgTable>(table: T): Omit<T['_']['columns'], Ours> {
  const {
    createdAt: _,
    byPersonId: _p,
    byKeyId: _k,
    writtenAt: _w,
    madeAs: _m,
    ...columns
  } = getTableColumns(table) as Record<string, unknown>
  return columns as Omit<T['_']['columns'], Ours>
}
