import { calibrate, DESIGNS } from './calibrate.ts'
const N = Number(process.argv[2]); const want = process.argv[3]!
for (const [w, d] of DESIGNS) if (new RegExp(want).test(w)) { const c = calibrate(w, d, N, 500_000); console.log(w, 'diff90', c.held.difference[2]!.toFixed(3), 'side90', c.held.side[2]!.toFixed(3), 'false', c.false, 'of', c.settled, 'rms s', c.stabilityRms.toFixed(3)) }
