import fs from 'node:fs'
import http from 'node:http'
import os from 'node:os'
import path from 'node:path'
import { sql } from 'drizzle-orm'
import { keptDemo } from '../../demo/away.ts'
import { loadDemo, nature } from '../../demo/load.ts'
import { bundleWorkers } from '../../scripts/bundles.mjs'
import { startServer } from '../../server/main.ts'
import { openDatabase } from '../../server/store/database.ts'
import { stopCluster, testDatabase } from '../api/server.ts'
import { controlPortOf, portOf, sharedHostOf, sharedPortsOf } from './ports.ts'

/**
 * The server that browser tests talk to: the built app on a throwaway database with the demo. A POST to its control port puts
 * the database back to the demo just as it was loaded and rated, so that every test begins with it.
 */

process.env['VEER_THREADS'] = await bundleWorkers()
const worker = Number(process.argv[2] ?? 0)
const url = await testDatabase()
const { db, close } = await openDatabase(url)
await loadDemo(db)
const shareFolder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-share-'))
const running = await startServer({
  databaseUrl: url,
  host: '127.0.0.1',
  port: portOf(worker),
  dist: path.resolve(import.meta.dirname, '../../dist'),
  quiet: true,
  nature,
  demo: keptDemo,
  custody: { folder: path.join(shareFolder, 'copies'), most: 1e9, builtIn: true, data: shareFolder },
  share: { folder: shareFolder, host: sharedHostOf(worker), ...sharedPortsOf(worker) },
})
const rated = async () => {
  const page = (await (await fetch(`${running.url}/api/discs`)).json()) as { behind: boolean }
  return !page.behind
}
while (!(await rated())) await new Promise((r) => setTimeout(r, 100))

const tables = (
  await db.execute<{ name: string }>(
    sql`select tablename as name from pg_tables where schemaname = 'public' order by tablename`,
  )
).rows.map((t) => t.name)
await db.execute(sql.raw('create schema pristine'))
for (const t of tables) await db.execute(sql.raw(`create table pristine."${t}" as table public."${t}"`))

const reset = () =>
  db.transaction(async (tx) => {
    // rows come back in any order: what refers to what is not looked at meanwhile
    await tx.execute(sql.raw('set local session_replication_role = replica'))
    await tx.execute(sql.raw(`truncate ${tables.map((t) => `public."${t}"`).join(', ')}`))
    for (const t of tables)
      await tx.execute(sql.raw(`insert into public."${t}" select * from pristine."${t}"`))
  })

/** Whether what the last test left under way and this wanted the same tables from two ends. */
const crossed = (e: unknown) => ((e as { cause?: { code?: string } }).cause?.code ?? '') === '40P01'
async function resetSurely(): Promise<void> {
  for (let left = 10; ; left--)
    try {
      return await reset()
    } catch (e) {
      if (left === 0 || !crossed(e)) throw e
    }
}

const control = http
  .createServer((req, res) => {
    // what start would print
    if (req.method !== 'POST') return void res.end(running.ownUrl())
    // nobody was let in yet
    fs.rmSync(path.join(shareFolder, 'machine-key'), { force: true })
    resetSurely().then(
      () => res.end('ok'),
      (e: Error) => {
        res.statusCode = 500
        res.end(String(e.stack))
      },
    )
  })
  .listen(controlPortOf(worker), '127.0.0.1')

async function stop() {
  control.close()
  await running.stop()
  await close()
  await stopCluster()
  fs.rmSync(shareFolder, { recursive: true, force: true })
  process.exit(0)
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void stop())
