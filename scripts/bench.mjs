// npm run bench: times the rating; with --grown, the app on a database of years; with --readout, how soon the readout answers; with --review, how
// long a long review takes to be handed out; with --custody, how long everything takes into one file and back; with --costs, what a
// trial costs whoever runs a server; with --rotation, how soon the board of a large shelf is there; with
// --lab, how soon the line lab follows the hand and finds a throw.
import { ensureChromium, ensurePackages, orSay } from './install.mjs'

/** What is measured of the app in a browser, by its flag. */
const APP = {
  '--grown': 'test/grown/bench.ts',
  '--readout': 'test/grown/readout.ts',
  '--review': 'test/grown/review.ts',
  '--custody': 'test/grown/custody.ts',
  '--costs': 'test/grown/costs.ts',
  '--rotation': 'test/grown/rotation.ts',
  '--lab': 'test/grown/lab.ts',
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
