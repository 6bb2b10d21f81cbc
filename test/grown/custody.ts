// npm run bench -- --custody: how long everything takes into one file and back, and how much memory, by the commands a person
// types, on a durable database of 200,000 throws.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { sql } from 'drizzle-orm'
import { loadDemo } from '../../demo/load.ts'
import { clusterFolder, startPostgres } from '../../scripts/database.mjs'
import { openDatabase } from '../../server/store/database.ts'

const THROWS = 200_000
const ROOT = path.resolve(import.meta.dirname, '../..')

/** Runs a command and says how long it took, s, and the most memory any of it held at once, MB. */
async function measured(args: readonly string[], url: string): Promise<{ s: number; mb: number }> {
  const begun = performance.now()
  const child = spawn(process.execPath, ['scripts/custody.mjs', ...args], {
    cwd: ROOT,
    env: { ...process.env, DATABASE_URL: url, INIT_CWD: ROOT },
    stdio: ['ignore', 'ignore', 'pipe'],
  })
  let said = ''
  child.stderr.on('data', (d) => (said += String(d)))
  let mb = 0
  const timer = setInterval(() => {
    try {
      const status = fs.readFileSync(`/proc/${child.pid}/status`, 'utf8')
      mb = Math.max(mb, Number(status.match(/VmHWM:\s+(\d+)/)?.[1] ?? 0) / 1024)
    } catch {
      // it has just ended
    }
  }, 20)
  const [code] = (await once(child, 'exit')) as [number]
  clearInterval(timer)
  if (code !== 0) throw new Error(said)
  return { s: Math.round(10 * ((performance.now() - begun) / 1000)) / 10, mb: Math.round(mb) }
}

const data = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-custody-'))
fs.chmodSync(data, 0o755)
const postgres = await startPostgres(clusterFolder(path.join(data, 'postgres')).folder)
try {
  const { db, close } = await openDatabase(postgres.url('full'))
  await loadDemo(db)
  const columns = await db.execute<{ list: string }>(
    sql`select string_agg(quote_ident(attname), ', ') as list from pg_attribute
        where attrelid = 'throws'::regclass and attnum > 0 and not attisdropped and attname <> 'id'`,
  )
  const { list } = columns.rows[0]!
  await db.execute(
    sql.raw(`insert into throws (id, ${list}) select gen_random_uuid(), ${list}
             from throws cross join generate_series(1, ${THROWS} / (select count(*) from throws)::int + 1) limit ${THROWS}`),
  )
  await close()
  const file = path.join(data, 'all.zip')
  const out = await measured(['backup', file], postgres.url('full'))
  const back = await measured(['restore', file], postgres.url('empty'))
  const again = await measured(['restore', file, '--yes'], postgres.url('empty'))
  const there = await openDatabase(postgres.url('empty'))
  const { rows } = await there.db.execute<{ n: number }>(sql`select count(*)::int as n from throws`)
  await there.close()
  process.stdout.write(
    `${JSON.stringify(
      {
        throws: rows[0]!.n,
        package_mb: Math.round(fs.statSync(file).size / 1e5) / 10,
        backup_read_back_s: out.s,
        backup_mb: out.mb,
        restore_into_empty_s: back.s,
        restore_mb: back.mb,
        restore_over_as_many_s: again.s,
        restore_over_mb: again.mb,
      },
      null,
      2,
    )}\n`,
  )
} finally {
  await postgres.stop()
  fs.rmSync(data, { recursive: true, force: true })
}
