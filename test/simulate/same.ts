// npm run calibrate:same: what must move nothing, and how far it does: simulated sessions in other orders, under other names, and
// come to in other ways. Ends with a failure where an answer moves by more than MOST.
import { quantile, randomLcg, shuffler } from 'd3'
import type { Evidence } from '../../core/rating/evidence.ts'
import { fit } from '../../core/rating/fit.ts'
import { outcomeOf } from '../../core/rating/outcome.ts'
import type { Outcome } from '../../core/rating/outcome.ts'
import type { FitState } from '../../core/rating/state.ts'
import { seedOf, simulateSession } from './session.ts'

/** Nothing moves by more: a probability, and a side in its standard deviations. */
const MOST = { probability: 0.005, sideSds: 0.02 }
const SESSIONS = Number(process.env['SAME_SESSIONS'] ?? 200)

const reversed = (e: Evidence): Evidence => ({ ...e, throws: e.throws.toReversed() })
function shuffled(e: Evidence, uniform: () => number): Evidence {
  const shuffle = shuffler(uniform)
  const mixed = <T>(list: readonly T[]) => shuffle([...list])
  return { discs: mixed(e.discs), arms: mixed(e.arms), throws: mixed(e.throws) }
}
/** The same under other names, which sort otherwise. */
function renamed(e: Evidence): Evidence {
  const other = (id: string) => [...id].toReversed().join('')
  return {
    discs: e.discs.map((d) => ({ ...d, id: other(d.id) })),
    arms: e.arms.map((a) => ({ ...a, id: other(a.id) })),
    throws: e.throws.map((t) => ({ ...t, id: other(t.id), disc: other(t.disc), arm: other(t.arm) })),
  }
}
/** Fitted as the throws came, each from where the one before had ended; what a page shows until the answer is there. */
function throwByThrow(e: Evidence): FitState {
  let state = fit({ ...e, throws: [] })
  for (let n = 1; n <= e.throws.length; n++)
    state = fit({ ...e, throws: e.throws.slice(0, n) }, { warm: state })
  return state
}

const WAYS = {
  'in reverse order': (e: Evidence) => outcomeOf(fit(reversed(e))),
  shuffled: (e: Evidence, uniform: () => number) => outcomeOf(fit(shuffled(e, uniform))),
  'under other names': (e: Evidence) => outcomeOf(fit(renamed(e))),
  'after other sessions': (e: Evidence) => {
    fit({ ...e, throws: e.throws.slice(0, -3) })
    return outcomeOf(fit(e))
  },
} satisfies Record<string, (e: Evidence, uniform: () => number) => Outcome>
/** Shown while the answer is worked out, and replaced by it: said, not held against anything. */
const MEANWHILE = {
  'throw by throw, until the answer is there': (e: Evidence) => outcomeOf(throwByThrow(e)),
}

const plain = (id: string) => (id.startsWith('disc-') ? id : [...id].toReversed().join(''))
/** The largest change of a pair's probability, and of a side in its standard deviations. */
function moved(a: Outcome, b: Outcome) {
  const sides = new Map(b.discs.map((d) => [plain(d.disc), d.side]))
  const told = (o: Outcome) =>
    new Map(
      o.pairs.flatMap((p) => [
        [`${plain(p.a)} ${plain(p.b)}`, p.pAMoreStable],
        [`${plain(p.b)} ${plain(p.a)}`, 1 - p.pAMoreStable],
      ]),
    )
  const [one, other] = [told(a), told(b)]
  return {
    probability: Math.max(...[...one].map(([pair, p]) => Math.abs(p - other.get(pair)!))),
    sideSds: Math.max(
      ...a.discs.map((d) => Math.abs(d.side.value - sides.get(plain(d.disc))!.value) / d.side.sd),
    ),
  }
}

const DESIGNS = [
  ['28 throws of four discs, landings alone', { throws: 28, discs: 4, gusts: 0.6 }],
  ['28 throws of four discs, angles called', { throws: 28, discs: 4, gusts: 0.6, called: true }],
  ['wrong physics, 24 throws of six discs', { throws: 24, gusts: 0.6, unlike: ['aerodynamics', 'spin'] }],
] as const

let failed = false
for (const [words, design] of DESIGNS) {
  process.stdout.write(`${words}, ${SESSIONS} sessions: largest change in a session\n`)
  const found = new Map<string, ReturnType<typeof moved>[]>()
  for (let k = 0; k < SESSIONS; k++) {
    const { evidence } = simulateSession({ ...design, seed: seedOf(70_000 + k) })
    const uniform = randomLcg(seedOf(k))
    const outcome = outcomeOf(fit(evidence))
    for (const [way, of] of [...Object.entries(WAYS), ...Object.entries(MEANWHILE)]) {
      if (!found.has(way)) found.set(way, [])
      found.get(way)!.push(moved(outcome, of(evidence, uniform)))
    }
  }
  for (const [way, list] of found) {
    const at = (key: keyof typeof MOST, q: number) => quantile(list, q, (m) => m[key])!
    const share = (key: keyof typeof MOST, digits: number) =>
      [0.5, 0.9, 1].map((q) => at(key, q).toFixed(digits)).join(' / ')
    const isOver = at('probability', 1) > MOST.probability || at('sideSds', 1) > MOST.sideSds
    if (isOver && way in WAYS) failed = true
    process.stdout.write(
      `  ${way.padEnd(44)} probability ${share('probability', 4)}, side ${share('sideSds', 3)} sd${isOver && way in WAYS ? '  MOVED' : ''}\n`,
    )
  }
}
process.stdout.write('(median / one in ten / most)\n')
if (failed) process.exitCode = 1
