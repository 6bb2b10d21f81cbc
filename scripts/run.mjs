// Runs a TypeScript file of the project: node scripts/run.mjs FILE [ARGUMENTS]
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { ensurePackages, orSay, ROOT } from './install.mjs'

orSay(ensurePackages)
const [file, ...args] = process.argv.slice(2)
// what people call is started at once; what is about the project itself is read as it is written
const { bundleProgram } = await import('./bundles.mjs')
const program = file.startsWith('cli/')
  ? [await bundleProgram(file)]
  : ['--import', 'tsx', path.join(ROOT, file)]
const done = spawnSync(process.execPath, [...program, ...args], {
  stdio: 'inherit',
  // what is imported is found from the project, files named by the caller from where the caller is
  cwd: ROOT,
  env: { ...process.env, VEER_FROM: process.env.INIT_CWD ?? process.cwd() },
})
process.exit(done.status ?? 1)
