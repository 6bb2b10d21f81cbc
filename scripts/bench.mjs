// npm run bench: times the rating; with --grown, the app on a database of years; with --readout, how soon the readout answers; with --review, how
// long a long review takes to be handed out.
import { ensureChromium, ensurePackages, orSay } from './install.mjs'

/** What is measured of the app in a browser, by its flag. */
const APP = {
  '--grown': 'test/grown/bench.ts',
  '--readout': 'test/grown/readout.ts',
  '--review': 'test/grown/review.ts',
}
const flag = Object.keys(APP).find((f) => process.argv.includes(f))
if (flag) {
  process.argv.splice(process.argv.indexOf(flag), 1)
  orSay(() => {
    ensurePackages()
    ensureChromium()
  })
}
process.argv.splice(2, 0, flag ? APP[flag] : 'cli/bench.ts')
await import('./run.mjs')
