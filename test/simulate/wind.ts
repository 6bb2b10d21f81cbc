// npm run calibrate:wind: how often a wind that was logged the wrong way round is noticed, and one that was logged right taken for
// such. Ends with a failure where right logs are called wrong more often than one in fifty.
import { betterTurned, SAID_FROM, TURNS, windTurned } from '../../core/judge/turnedWind.ts'
import { fit } from '../../core/rating/fit.ts'
import { seedOf, simulateSession, UNLIKE } from './session.ts'
import type { SessionDesign } from './session.ts'

const SESSIONS = Number(process.env['WIND_SESSIONS'] ?? 75)
const DESIGNS: readonly (readonly [words: string, design: Omit<SessionDesign, 'seed'>])[] = [
  ['18 throws of six discs, landings alone', { throws: 18, gusts: 0.6 }],
  ['18 throws of six discs, angles called', { throws: 18, called: true, gusts: 0.6 }],
  ['48 throws of four discs, landings alone', { throws: 48, discs: 4, gusts: 0.6 }],
  ['48 throws of four discs, wrong physics', { throws: 48, discs: 4, gusts: 0.6, unlike: UNLIKE }],
]

let failed = false
for (const [words, design] of DESIGNS) {
  const found = new Map(TURNS.map((turn) => [turn, { right: [] as number[], wrong: [] as number[] }]))
  for (let k = 0; k < SESSIONS; k++) {
    const { evidence } = simulateSession({ ...design, seed: seedOf(40_000 + k) })
    const state = fit(evidence)
    for (const turn of TURNS) {
      const { right, wrong } = found.get(turn)!
      right.push(betterTurned(state, '', turn))
      wrong.push(betterTurned(fit(windTurned(evidence, '', turn)), '', turn))
    }
  }
  process.stdout.write(`${words}, ${SESSIONS} sessions\n`)
  for (const [turn, { right, wrong }] of found) {
    const said = (list: readonly number[]) => list.filter((v) => v >= SAID_FROM[turn]).length
    if (said(right) > SESSIONS / 50) failed = true
    process.stdout.write(
      `  ${turn.padEnd(7)} logged wrong: said of ${said(wrong)}; logged right: said of ${said(right)}, most ${Math.max(...right).toFixed(1)} of ${SAID_FROM[turn]}\n`,
    )
  }
}
if (failed) process.exitCode = 1
