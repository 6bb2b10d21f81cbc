// npm test: types, lint, formatting, layout rules, unit, API, command line and browser tests, each with a heading; ends at the
// first failure.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import { constants, setPriority } from 'node:os'
import path from 'node:path'
import { performance } from 'node:perf_hooks'
import { setTimeout as wait } from 'node:timers/promises'
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
const bin = (name) => (name === 'node' ? process.execPath : path.join(ROOT, 'node_modules', '.bin', name))
const env = { ...process.env, npm_config_loglevel: 'error' }

/** What runs now; each with all it starts in a group of its own. */
const running = new Set()
let ending = false
const signalAll = (signal) => {
  for (const { pid } of running)
    try {
      process.kill(-pid, signal)
    } catch {
      // it has ended meanwhile
    }
}
/** Has all of it stop what it started, such as a database, and waits until it has. */
async function endAll() {
  ending = true
  const ended = [...running].map((child) => once(child, 'close'))
  signalAll('SIGINT')
  await Promise.race([Promise.all(ended), wait(ENDS_WITHIN_MS)])
  signalAll('SIGKILL')
}
/** Whoever does not end within so long is ended, ms. */
const ENDS_WITHIN_MS = 30_000
for (const signal of ['SIGINT', 'SIGTERM'])
  process.once(signal, () => void endAll().finally(() => process.exit(1)))

async function failed(heading, status) {
  // what is ended because another failed has not failed
  if (ending) return new Promise(() => {})
  await endAll()
  say(`\n${heading}: failed.`)
  process.exit(status || 1)
}

/**
 * Runs a command; what it says comes after its heading, when it ends.
 *
 * @param last whether it gives way to the others where they want the same core
 */
async function quietly(heading, [name, ...args], last = false) {
  const begun = performance.now()
  const child = spawn(bin(name), args, { cwd: ROOT, env, stdio: ['ignore', 'pipe', 'pipe'], detached: true })
  running.add(child)
  if (last) setPriority(child.pid, priority.PRIORITY_BELOW_NORMAL)
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (d) => (said += d))
  const [status] = await once(child, 'close')
  running.delete(child)
  const seconds = Math.round((performance.now() - begun) / 1000)
  say(`\n── ${heading} (${seconds} s) ──\n${said.trimEnd()}`)
  if (status !== 0) await failed(heading, status)
}

/** Runs a command that says what it says as it goes. */
async function aloud(heading, [name, ...args]) {
  say(`\n── ${heading} ──`)
  const child = spawn(bin(name), args, {
    cwd: ROOT,
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
    detached: true,
  })
  running.add(child)
  const [status] = await once(child, 'close')
  running.delete(child)
  if (status !== 0) await failed(heading, status)
}

/** What is looked at without running anything, one after the other. */
const LOOKED_AT = [
  ['Types', ['tsc', '--noEmit']],
  ['Types of the core, where there is neither browser nor machine', ['tsc', '-p', 'core', '--noEmit']],
  ['Formatting', ['prettier', '--check', '--log-level', 'warn', '.']],
  [
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
  ],
  ['What nobody uses', ['knip', '--no-progress']],
  ['Lint', ['eslint', '.', '--max-warnings', '0']],
]
async function look() {
  for (const [heading, command] of LOOKED_AT) await quietly(heading, command)
}

say('\nTypes, lint, unit, API and command line, beside each other: what each says comes when it ends.')
// computing fills whatever the others, which often wait, leave of the machine
const unit = quietly('Unit', ['node', path.join(ROOT, 'scripts', 'unit.mjs')], true)
await Promise.all([
  look(),
  quietly('API', ['mocha', '--config', '.mocharc.api.json']),
  quietly('Command line', ['mocha', '--config', '.mocharc.cli.json']),
])
say('\n── Build ──')
orSay(ensureBuilt)
await aloud('Browser', ['playwright', 'test'])
await unit

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
