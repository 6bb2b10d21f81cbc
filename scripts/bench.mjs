// npm run bench: times the rating; with --grown, the app on a database of years.
import { ensureChromium, ensurePackages, orSay } from './install.mjs'

const grown = process.argv.indexOf('--grown')
if (grown >= 0) process.argv.splice(grown, 1)
if (grown >= 0)
  orSay(() => {
    ensurePackages()
    ensureChromium()
  })
process.argv.splice(2, 0, grown >= 0 ? 'test/grown/bench.ts' : 'cli/bench.ts')
await import('./run.mjs')
