import { createHash } from 'node:crypto'
import { PassThrough, Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Writable } from 'node:stream'
import type pg from 'pg'
import { to as copyTo } from 'pg-copy-streams'
import { ZipFile } from 'yazl'
import { DESCRIPTION, describePackage, describeTable } from './description.ts'
import type { Resource } from './description.ts'
import type { ErrandProgress } from '../store/errands.ts'
import { lastMigration } from './migrations.ts'
import { quoted, TABLES } from '../store/tables.ts'
import type { TravellingColumn, TravellingTable } from '../store/tables.ts'

/** Told how far something is, in rows and files. */
export type TellProgress = (progress: ErrandProgress) => void

const ENDINGS: Readonly<Record<string, string>> = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
}

/** A value as it travels: times in ISO 8601 of UTC to the microsecond, arrays as JSON; numbers round-trip exactly. */
function travels({ name, type }: TravellingColumn, table: TravellingTable): string {
  const column = quoted(name)
  if (name === table.file) return `${filePath(table)} as ${column}`
  if (type === 'timestamp with time zone')
    return `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as ${column}`
  if (type === 'boolean') return `${column}::text as ${column}`
  if (type.endsWith('[]')) return `array_to_json(${column}) as ${column}`
  return column
}

/** Where a row's file stands in the package, as SQL. */
function filePath(table: TravellingTable): string {
  const key = quoted(table.primaryKey[0]!)
  const kind = table.columns.some((c) => c.name === 'kind')
  const ending = kind
    ? `case kind ${Object.entries(ENDINGS)
        .map(([type, end]) => `when '${type}' then '${end}'`)
        .join(' ')} else 'bin' end`
    : `'html'`
  return `'${table.name}/' || ${key} || '.' || ${ending}`
}

/** Which rows of a table travel; all where nothing is said. */
export type Rows = (table: string) => string | undefined

/**
 * Writes a package of what a database holds at one moment, in constant memory.
 *
 * @param rows which rows of each table, as an SQL condition; undefined for a table that stays away, “true” for all
 * @throws whatever keeps it from being written; the package is then not whole, and has no description
 */
export async function writePackage(
  pool: pg.Pool,
  out: Writable,
  {
    told = () => {},
    signal,
    rows = () => 'true',
    kind = 'everything',
  }: {
    readonly told?: TellProgress | undefined
    readonly signal?: AbortSignal | undefined
    readonly rows?: Rows
    readonly kind?: 'everything' | 'trial'
  } = {},
): Promise<void> {
  const client = await pool.connect()
  const zip = new ZipFile()
  const resources: object[] = []
  try {
    signal?.throwIfAborted()
    await client.query('begin isolation level repeatable read read only')
    await client.query(`set local timezone to 'UTC'`)
    const tables = TABLES.flatMap((table) => {
      const where = rows(table.name)
      return where === undefined ? [] : [{ table, where }]
    })
    const from = ({ table, where }: (typeof tables)[number]) => `from ${quoted(table.name)} where ${where}`
    // everything that is asked is asked before the first copy is under way: nothing gets through beside one
    let total = 0
    const counts: number[] = []
    const filesOf: { readonly key: string; readonly path: string }[][] = []
    for (const t of tables) {
      signal?.throwIfAborted()
      const counted = await client.query<{ count: string }>(`select count(*) ${from(t)}`)
      const files =
        t.table.file === undefined
          ? []
          : (
              await client.query<{ key: string; path: string }>(
                `select ${quoted(t.table.primaryKey[0]!)} as key, ${filePath(t.table)} as path ${from(t)} order by 1`,
              )
            ).rows
      counts.push(Number(counted.rows[0]!.count))
      filesOf.push(files)
      total += counts.at(-1)! + files.length
    }
    let done = 0
    const tell = (by: number) => {
      done += by
      told({ stage: 'writing', done, total })
    }
    tell(0)

    /** Adds a file when its turn comes, and notes what it was. */
    const add = (path: string, name: string, open: () => Readable, describe: (r: Resource) => object) =>
      zip.addReadStreamLazy(path, { compressionLevel: path.endsWith('.csv') ? 6 : 1 }, (give) => {
        const hash = createHash('sha256')
        let bytes = 0
        const counted = new Transform({
          transform(chunk: Buffer, _, next) {
            hash.update(chunk)
            bytes += chunk.length
            next(null, chunk)
          },
          flush(next) {
            resources.push(describe({ name, path, bytes, hash: `sha256:${hash.digest('hex')}` }))
            next()
          },
        })
        try {
          pipeline(open(), counted, { signal }).catch((e: Error) => zip.emit('error', e))
          give(null, counted)
        } catch (e) {
          give(e, counted)
        }
      })

    const failed = new Promise<never>((_, reject) => zip.on('error', reject))
    failed.catch(() => {})
    for (const [i, t] of tables.entries()) {
      const { table } = t
      const columns = table.columns.map((c) => travels(c, table)).join(', ')
      const order = table.primaryKey.map(quoted).join(', ')
      add(
        `${table.name}.csv`,
        table.name,
        () => {
          const stream = client.query(
            copyTo(
              `copy (select ${columns} ${from(t)} order by ${order}) to stdout with (format csv, header)`,
            ),
          )
          stream.once('end', () => tell(counts[i]!))
          return stream
        },
        (resource) => describeTable(table, { ...resource, rows: counts[i]! }),
      )
      const key = table.primaryKey[0]!
      for (const { key: at, path } of filesOf[i]!)
        add(
          path,
          path.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-'),
          () =>
            Readable.from(
              (async function* () {
                const found = await client.query<{ bytes: Buffer }>(
                  `select ${quoted(table.file!)} as bytes from ${quoted(table.name)} where ${quoted(key)} = $1`,
                  [at],
                )
                tell(1)
                yield found.rows[0]!.bytes
              })(),
            ),
          (resource) => resource,
        )
    }
    zip.addReadStreamLazy(DESCRIPTION, { compressionLevel: 6 }, (give) => {
      const text = describePackage(resources, {
        at: new Date().toISOString(),
        migration: lastMigration(),
        kind,
      })
      give(null, Readable.from([Buffer.from(text)]))
    })
    zip.end()
    const written = new PassThrough()
    zip.outputStream.pipe(written)
    await Promise.race([pipeline(written, out, { signal }), failed])
    await client.query('commit')
    client.release()
  } catch (e) {
    // a copy under way cannot be taken back: its connection goes with it
    client.release(true)
    out.destroy()
    throw e
  }
}
