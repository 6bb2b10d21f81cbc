// Runs a TypeScript file of the project: node scripts/run.mjs FILE [ARGUMENTS]
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { ensurePackages, orSay, ROOT } from './install.mjs'

orSay(ensurePackages)
const [file, ...args] = process.argv.slice(2)
const done = spawnSync(process.execPath, ['--import', 'tsx', path.join(ROOT, file), ...args], {
  stdio: 'inherit',
  // tsx is found from the project, files named by the caller from where the caller is
  cwd: ROOT,
  env: { ...process.env, VEER_FROM: process.env.INIT_CWD ?? process.cwd() },
})
process.exit(done.status ?? 1)
