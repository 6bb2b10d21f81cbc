// npm run test:unit: the tests that need no server; with files, those alone: npm run test:unit -- test/core/rating/fit.test.ts
import { spawnSync } from 'node:child_process'
import fs from 'node:fs'
import path from 'node:path'
import { bundleUnitTests } from './bundles.mjs'

const ROOT = path.join(import.meta.dirname, '..')
const { timeout, jobs } = JSON.parse(fs.readFileSync(path.join(ROOT, '.mocharc.json'), 'utf8'))
const args = process.argv.slice(2)
const named = args.filter((a) => a.endsWith('.test.ts'))
const files = await bundleUnitTests(named)
const done = spawnSync(
  process.execPath,
  [
    path.join(ROOT, 'node_modules', 'mocha', 'bin', 'mocha.js'),
    ...['--no-config', '--timeout', String(timeout), '--parallel', '--jobs', String(jobs)],
    ...args.filter((a) => !named.includes(a)),
    ...files,
  ],
  { stdio: 'inherit', cwd: ROOT, env: { ...process.env, NODE_OPTIONS: '--enable-source-maps' } },
)
process.exit(done.status ?? 1)
