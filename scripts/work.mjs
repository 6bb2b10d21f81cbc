// npm run work: does what servers on the database of DATABASE_URL ask for, apart from them. Ctrl-C stops it.
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { ensurePackages, orSay, say } from './install.mjs'

orSay(ensurePackages)
if (!process.env.DATABASE_URL) {
  say('DATABASE_URL must name the database of the servers it works for.')
  process.exit(2)
}
const { bundleProgram, bundleWorkers } = await import('./bundles.mjs')
process.env.VEER_THREADS = await bundleWorkers()
const { startWork, sayError, copySettingsOf } = await import(
  pathToFileURL(await bundleProgram('cli/work.ts')).href
)
try {
  const work = await startWork(
    process.env.DATABASE_URL,
    process.env.VEER_COPIES ? copySettingsOf(process.env, path.resolve(process.env.VEER_COPIES)) : undefined,
    sayError,
  )
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.once(signal, () => void work.stop().then(() => process.exit(0)))
  say('Works. Ctrl-C stops it; what is under way is then given back.')
} catch (e) {
  say(`It could not begin: ${e.message}`)
  process.exit(1)
}
