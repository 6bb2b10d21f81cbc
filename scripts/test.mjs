// npm test: types, lint, formatting, layout rules, unit, API and browser tests, each with a heading; ends at the first failure.
import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import { constants, setPriority } from 'node:os'
import path from 'node:path'
import { findBin } from './database.mjs'
import {
  ensureBuilt,
  ensureCertutil,
  ensureChromium,
  ensurePackages,
  ensurePostgres,
  orSay,
  ROOT,
  say,
} from './install.mjs'

orSay(() => {
  ensurePackages()
  ensurePostgres(findBin)
  ensureChromium()
  ensureCertutil()
})

const { priority } = constants
const bin = (name) => path.join(ROOT, 'node_modules', '.bin', name)
const env = { ...process.env, npm_config_loglevel: 'error' }

function step(heading, name, ...args) {
  say(`\n── ${heading} ──`)
  const done = spawnSync(bin(name), args, { cwd: ROOT, stdio: 'inherit', env })
  if (done.status === 0) return
  say(`\n${heading}: failed.`)
  process.exit(done.status ?? 1)
}

/**
 * Runs commands beside each other, which do not fill all cores alone; what they say comes after its heading. The first goes first
 * where they want the same core.
 */
async function beside(...commands) {
  const done = await Promise.all(
    commands.map(async ([heading, name, ...args], place) => {
      const child = spawn(bin(name), args, { cwd: ROOT, env, stdio: ['ignore', 'pipe', 'pipe'] })
      if (place > 0) setPriority(child.pid, priority.PRIORITY_BELOW_NORMAL)
      let said = ''
      for (const stream of [child.stdout, child.stderr]) stream.on('data', (d) => (said += d))
      const [status] = await once(child, 'close')
      return { heading, said, status }
    }),
  )
  for (const { heading, said } of done) say(`\n── ${heading} ──\n${said.trimEnd()}`)
  const failed = done.filter((d) => d.status !== 0)
  if (failed.length === 0) return
  say(`\n${failed.map((d) => d.heading).join(', ')}: failed.`)
  process.exit(1)
}

await beside(
  ['Types', 'tsc', '--noEmit'],
  ['Lint', 'eslint', '.', '--max-warnings', '0'],
  ['Types of the core, where there is neither browser nor machine', 'tsc', '-p', 'core', '--noEmit'],
)
await beside(
  ['Formatting', 'prettier', '--check', '--log-level', 'warn', '.'],
  [
    'Layout rules',
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
  ['What nobody uses', 'knip', '--no-progress'],
)
say('\nUnit, API and command line: what they say comes when they end.')
await beside(['API and command line', 'mocha', '--config', '.mocharc.api.json'], ['Unit', 'mocha'])
say('\n── Build ──')
orSay(ensureBuilt)
step('Browser', 'playwright', 'test')

/** Tests that failed and passed when they were tried again, by file and line. */
function atSecondTry() {
  const { suites } = JSON.parse(fs.readFileSync(path.join(ROOT, 'test-results', 'browser.json'), 'utf8'))
  const specsOf = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specsOf)]
  return suites
    .flatMap(specsOf)
    .filter((spec) => spec.tests.some((t) => t.status === 'flaky'))
    .map((spec) => `${spec.file}:${spec.line} ${spec.title}`)
}
const again = atSecondTry()
say(
  again.length === 0
    ? '\nAll tests passed.'
    : `\nAll tests passed, these only when they were tried again; they are to be mended:\n${again.map((t) => `  ${t}`).join('\n')}`,
)
