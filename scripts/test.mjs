// npm test: types, lint, layout rules, unit, API and browser tests, each with a heading; ends at the first failure.
import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { findBin } from './database.mjs'
import { ensureBuilt, ensureChromium, ensurePackages, ensurePostgres, orSay, ROOT, say } from './install.mjs'

orSay(() => {
  ensurePackages()
  ensurePostgres(findBin)
  ensureChromium()
})

const bin = (name) => path.join(ROOT, 'node_modules', '.bin', name)
const env = { ...process.env, npm_config_loglevel: 'error' }

function step(heading, ...commands) {
  say(`\n── ${heading} ──`)
  for (const [name, ...args] of commands) {
    const done = spawnSync(bin(name), args, { cwd: ROOT, stdio: 'inherit', env })
    if (done.status !== 0) {
      say(`\n${heading}: failed.`)
      process.exit(done.status ?? 1)
    }
  }
}

step('Types', ['tsc', '--noEmit'])
step('Lint', ['eslint', '.', '--max-warnings', '0'], ['prettier', '--check', '--log-level', 'warn', '.'])
step(
  'Layout rules',
  [
    'depcruise',
    '--config',
    '.dependency-cruiser.cjs',
    'core',
    'contract',
    'server',
    'web',
    'demo',
    'cli',
    'test',
  ],
  ['knip', '--no-progress'],
)
step('Unit', ['mocha'])
step('API and command line', ['mocha', '--config', '.mocharc.api.json'])
say('\n── Build ──')
orSay(ensureBuilt)
step('Browser', ['playwright', 'test'])
say('\nAll tests passed.')
