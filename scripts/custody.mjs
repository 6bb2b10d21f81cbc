// npm run backup -- FILE, npm run restore -- FILE: everything in one file, beside a running server or without one.
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { clusterFolder, findBin, startPostgres } from './database.mjs'
import { ensurePackages, ensurePostgres, orSay, say } from './install.mjs'
import { dataFolder, runningOn, urlOf } from './running.mjs'

orSay(ensurePackages)
const { bundleProgram } = await import('./bundles.mjs')
const { backup, restoreFile, CannotBeDone, copySettingsOf } = await import(
  pathToFileURL(await bundleProgram('cli/custody.ts')).href
)

const [what, ...args] = process.argv.slice(2)
const data = dataFolder()
const running = runningOn(data)
let postgres
/** The database of the data folder: that of the server that runs on it, else one started for as long as this takes. */
async function url() {
  if (process.env.DATABASE_URL) return process.env.DATABASE_URL
  if (running?.databasePort) return urlOf(running)
  if (running) throw new CannotBeDone('Veer Line is just starting on these data; try again in a moment.')
  orSay(() => ensurePostgres(findBin))
  postgres = await startPostgres(clusterFolder(path.join(data, 'postgres')).folder)
  return postgres.url()
}
const stop = new globalThis.AbortController()
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => stop.abort(new CannotBeDone('Broken off; nothing was changed.')))
let status = 0
try {
  const from = process.env.INIT_CWD ?? process.cwd()
  const copies = copySettingsOf(process.env, path.join(data, 'copies'))
  await (what === 'restore' ? restoreFile : backup)(args, from, url, say, stop.signal, copies)
} catch (e) {
  if (!(e instanceof CannotBeDone)) throw e
  say(e.message)
  status = 2
} finally {
  await postgres?.stop()
}
process.exit(status)
