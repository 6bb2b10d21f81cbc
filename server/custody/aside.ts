import { buffer } from 'node:stream/consumers'
import { pipeline } from 'node:stream/promises'
import type { Readable } from 'node:stream'
import { StringDecoder } from 'node:string_decoder'
import Papa from 'papaparse'
import type pg from 'pg'
import { from as copyFrom } from 'pg-copy-streams'
import type { Under } from './file.ts'
import { migrations, statementsIn } from './migrations.ts'
import { quoted, secretsOf, TABLES } from '../store/tables.ts'
import type { TellProgress } from './write.ts'
import { BadPackage } from './zip.ts'
import type { Package } from './zip.ts'

/** Where a package is put together before it takes the place of what is there. */
export const ASIDE = 'restoring'
const STAGE = 'stage'
/**
 * What rows need that travel without their secrets: such a device comes in no more, and what was published has an address that
 * nobody is told.
 */
const FILLED: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  device_keys: { digest: `'restored:' || id`, revoked_at: 'now()' },
  revisions: { token: `case when published_at is not null then 'restored:' || id end` },
}

/**
 * Puts a package together aside, under the schema it was written by, brings it forward to today's, and does something with it:
 * in one transaction, and one at a time.
 *
 * @param work answers with what came of it, and whether it is to be kept
 * @param wanted which tables are filled; where only a few are read, the others stay empty
 * @throws BadPackage where its rows break a rule of the database
 */
export async function withAside<T>(
  pool: pg.Pool,
  pack: Package,
  { told = () => {}, signal }: Under,
  work: (client: pg.ClientBase, told: TellProgress) => Promise<{ readonly came: T; readonly keep: boolean }>,
  wanted: (table: string) => boolean = () => true,
): Promise<T> {
  const client = await pool.connect()
  try {
    await client.query('begin')
    // nobody reads what is half there
    await client.query(`select pg_advisory_xact_lock(hashtextextended('restore', 0))`)
    await putTogether(client, pack, wanted, told, signal)
    signal?.throwIfAborted()
    const { came, keep } = await work(client, told)
    await client.query(`drop schema ${ASIDE} cascade`)
    signal?.throwIfAborted()
    await client.query(keep ? 'commit' : 'rollback')
    client.release()
    return came
  } catch (e) {
    // whatever was under way on it goes with the connection
    client.release(true)
    signal?.throwIfAborted()
    throw e
  }
}

/** Makes the tables of a package aside, fills them, and brings them forward to today's. */
async function putTogether(
  client: pg.ClientBase,
  pack: Package,
  wanted: (table: string) => boolean,
  told: TellProgress,
  signal?: AbortSignal,
): Promise<void> {
  await client.query(`drop schema if exists ${ASIDE} cascade`)
  await client.query(`create schema ${ASIDE}`)
  await client.query(`set local search_path to ${ASIDE}`)
  await client.query(`set local timezone to 'UTC'`)
  const known = migrations()
  const at = known.indexOf(pack.description.veerLine.migration)
  const migrate = async (tags: readonly string[]) => {
    for (const tag of tags) for (const statement of statementsIn(tag, ASIDE)) await client.query(statement)
  }
  await migrate(known.slice(0, at + 1))
  const total = pack.description.resources.reduce((sum, r) => sum + (r.rows ?? 0), 0)
  let done = 0
  for (const { name } of TABLES) {
    const resource = pack.resource(`${name}.csv`)
    if (!resource || !wanted(name)) continue
    signal?.throwIfAborted()
    const rows = await fill(client, pack, name, signal).catch((e: unknown) => {
      signal?.throwIfAborted()
      throw brokenRule(`${name}.csv`, e)
    })
    if (rows !== resource.rows)
      throw new BadPackage(
        `${name}.csv holds ${rows} rows, not the ${resource.rows} it should. Nothing was changed.`,
      )
    told({ stage: 'reading', done: (done += rows), total })
  }
  await migrate(known.slice(at + 1))
}

function brokenRule(file: string, e: unknown): unknown {
  const { code, message, detail, where } = e as Record<
    'code' | 'message' | 'detail' | 'where',
    string | undefined
  >
  // of data and of rules; the database being away is nobody's package
  if (e instanceof BadPackage || !/^(22|23|42703)/.test(code ?? '')) return e
  const line = where?.match(/line (\d+)/)?.[1]
  return new BadPackage(
    `${file}${line ? `, line ${line},` : ''} holds what the database does not take: ${message}. Nothing was changed.`,
    detail === undefined ? [] : [detail],
  )
}

/** Fills a table aside from its file. @returns how many rows it took */
async function fill(
  client: pg.ClientBase,
  pack: Package,
  table: string,
  signal?: AbortSignal,
): Promise<number> {
  const path = `${table}.csv`
  const header = await headerOf(await pack.read(path))
  const { rows: columns } = await client.query<{ name: string; type: string }>(
    `select attname as name, format_type(atttypid, atttypmod) as type from pg_attribute
     where attrelid = $1::regclass and attnum > 0 and not attisdropped`,
    [`${ASIDE}.${quoted(table)}`],
  )
  const unknown = header.filter((name) => !columns.some((c) => c.name === name))
  if (unknown.length > 0)
    throw new BadPackage(`${path} has a column nobody knows: ${unknown.join(', ')}. Nothing was changed.`)
  await client.query(
    `create temp table ${STAGE} (${header.map((n) => `${quoted(n)} text`).join(', ')}) on commit drop`,
  )
  await pipeline(
    await pack.read(path),
    client.query(copyFrom(`copy pg_temp.${STAGE} from stdin with (format csv, header)`)),
    { signal },
  )
  const typeOf = (name: string) => columns.find((c) => c.name === name)!.type
  // a package of an earlier day, or one that somebody made up, brings no secrets in either
  const taken = header.filter((name) => !secretsOf(table).has(name))
  const filled = Object.entries(FILLED[table] ?? {}).filter(([name]) => columns.some((c) => c.name === name))
  const into = [...taken, ...filled.map(([name]) => name)].map(quoted).join(', ')
  const file = taken.find((name) => typeOf(name) === 'bytea')
  const values = (fileAs: string) =>
    [
      ...taken.map((name) => (name === file ? fileAs : castOf(name, typeOf(name)))),
      ...filled.map(([, value]) => value),
    ].join(', ')
  let rows: number
  if (file === undefined) {
    const stored = await client.query(
      `insert into ${quoted(table)} (${into}) select ${values('')} from pg_temp.${STAGE}`,
    )
    rows = stored.rowCount ?? 0
  } else {
    const { rows: paths } = await client.query<{ path: string }>(
      `select ${quoted(file)} as path from pg_temp.${STAGE}`,
    )
    for (const { path: at } of paths) {
      signal?.throwIfAborted()
      if (!pack.resource(at))
        throw new BadPackage(`${path} names ${at}, which is missing. Nothing was changed.`)
      await client.query(
        `insert into ${quoted(table)} (${into}) select ${values('$1')} from pg_temp.${STAGE} where ${quoted(file)} = $2`,
        [await buffer(await pack.read(at)), at],
      )
    }
    rows = paths.length
  }
  await client.query(`drop table pg_temp.${STAGE}`)
  return rows
}

/** A value as it travelled, as its column takes it. */
function castOf(name: string, type: string): string {
  const column = quoted(name)
  if (!type.endsWith('[]')) return `${column}::${type}`
  return `case when ${column} is not null then array(select json_array_elements_text(${column}::json))::${type} end`
}

/** A header is a line of some hundred bytes. */
const LONGEST_HEADER = 20_000

async function headerOf(csv: Readable): Promise<string[]> {
  const decoder = new StringDecoder('utf8')
  let begun = ''
  for await (const chunk of csv) {
    begun += decoder.write(chunk as Buffer)
    if (begun.includes('\n') || begun.length > LONGEST_HEADER) break
  }
  csv.destroy()
  return Papa.parse<string[]>(begun.split(/\r?\n/)[0]!).data[0] ?? []
}

/** The columns of a table that is here, as a list for a query. */
export async function columnsOf(client: pg.ClientBase, table: string): Promise<string> {
  const { rows } = await client.query<{ columns: string }>(
    `select string_agg(quote_ident(attname), ', ' order by attnum) as columns from pg_attribute
     where attrelid = $1::regclass and attnum > 0 and not attisdropped`,
    [`public.${quoted(table)}`],
  )
  return rows[0]!.columns
}
