// npm run work: does what servers on the database of DATABASE_URL ask for, apart from them. Ctrl-C stops it.
import path from 'node:path'
import { ensurePackages, orSay, say } from './install.mjs'

orSay(ensurePackages)
if (!process.env.DATABASE_URL) {
  say('DATABASE_URL must name the database of the servers it works for.')
  process.exit(2)
}
const { bundleWorkers } = await import('./workers.mjs')
process.env.VEER_THREADS = await bundleWorkers()
const { register } = await import('tsx/esm/api')
register()
const { startWork } = await import('../server/work/apart.ts')
const { sayError } = await import('../server/work/sayError.ts')
const { copySettingsOf } = await import('../server/custody/settings.ts')
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
