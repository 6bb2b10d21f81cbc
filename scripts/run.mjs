// Runs a TypeScript file of the project: node scripts/run.mjs FILE [ARGUMENTS]
import { spawnSync } from 'node:child_process'
import { ensurePackages, orSay, ROOT } from './install.mjs'

orSay(ensurePackages)
const [file, ...args] = process.argv.slice(2)
const { bundleMeasure, bundleProgram } = await import('./bundles.mjs')
const program = await (file.startsWith('cli/') ? bundleProgram : bundleMeasure)(file)
const done = spawnSync(process.execPath, [program, ...args], {
  stdio: 'inherit',
  // what is imported is found from the project, files named by the caller from where the caller is
  cwd: ROOT,
  env: { ...process.env, VEER_FROM: process.env.INIT_CWD ?? process.cwd() },
})
process.exit(done.status ?? 1)
