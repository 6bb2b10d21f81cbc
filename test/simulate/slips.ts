// npm run calibrate:slips: how often a throw that was logged wrong is noticed for what it was, and how often one is taken for such that was
// logged right. Ends with a failure where that is more often than once in five sessions, or where of a hundred slips that are asked about
// more are another than the probabilities leave.
import { ASKED_FROM, slippedThrows, withoutSlip } from '../../core/judge/slips.ts'
import type { Slip } from '../../core/judge/slips.ts'
import type { Evidence, ThrowEvidence } from '../../core/rating/evidence.ts'
import { fit } from '../../core/rating/fit.ts'
import { fileURLToPath } from 'node:url'
import { seedOf, simulateSession } from './session.ts'
import type { SessionDesign } from './session.ts'

/** Slips that are made, as what puts them right again. */
const MADE = ['disc', 'side', 'angle', 'feet'] as const
type Made = (typeof MADE)[number]

/** A session in which one throw was logged wrong, and what puts it right. */
function slipped(evidence: Evidence, made: Made, k: number): { evidence: Evidence; slip: Slip; at: string } {
  const counted = evidence.throws.filter((t) => t.counts && (made !== 'angle' || Math.abs(t.hyzerRad) > 0.07))
  const t = counted[Math.floor(seedOf(7 * k + 3) * counted.length)]!
  const others = evidence.discs.filter((d) => d.id !== t.disc)
  const other = others[Math.floor(seedOf(11 * k + 5) * others.length)]!.id
  const wrong: ThrowEvidence =
    made === 'disc'
      ? withoutSlip(t, { kind: 'disc', disc: other })
      : // feet where metres were asked for make the distance larger
        withoutSlip(t, { kind: made === 'feet' ? 'metres' : made })
  return {
    evidence: { ...evidence, throws: evidence.throws.map((o) => (o.id === t.id ? wrong : o)) },
    slip: made === 'disc' ? { kind: made, disc: t.disc } : { kind: made },
    at: t.id,
  }
}

const same = (a: Slip, b: Slip) =>
  a.kind === b.kind && (a.kind !== 'disc' || b.kind !== 'disc' || a.disc === b.disc)

/** How many of so many sessions with a slip each had it named, and what else was. */
export function noticed(design: Omit<SessionDesign, 'seed'>, made: Made, sessions: number, from: number) {
  const told = { named: 0, otherwise: 0, elsewhere: 0 }
  for (let k = from; k < from + sessions; k++) {
    const { evidence, slip, at } = slipped(simulateSession({ ...design, seed: seedOf(k) }).evidence, made, k)
    const found = slippedThrows(fit(evidence))
    const here = found.find((f) => f.throw === at)
    if (here) told[same(here.slip, slip) ? 'named' : 'otherwise']++
    told.elsewhere += found.length - (here ? 1 : 0)
  }
  return told
}

/** How many throws are taken for slips in sessions that were logged right. */
export function mistaken(design: Omit<SessionDesign, 'seed'>, sessions: number, from: number): number {
  let count = 0
  for (let k = from; k < from + sessions; k++)
    count += slippedThrows(fit(simulateSession({ ...design, seed: seedOf(k) }).evidence)).length
  return count
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const sessions = Number(process.env['SLIP_SESSIONS'] ?? 100)
  const designs: readonly (readonly [string, Omit<SessionDesign, 'seed'>])[] = [
    ['36 throws of four discs, landings alone', { throws: 36, discs: 4, gusts: 0.6 }],
    ['36 throws of four discs, angles called', { throws: 36, discs: 4, called: true, gusts: 0.6 }],
    [
      '36 throws of four discs, called, one in ten thrown badly',
      { throws: 36, discs: 4, called: true, gusts: 0.6, bad: 0.1 },
    ],
    ['72 throws of six discs, called', { throws: 72, called: true, gusts: 0.6 }],
  ]
  for (const [words, design] of designs) {
    const right = mistaken(design, sessions, 50_000)
    if (right > sessions / 5) process.exitCode = 1
    process.stdout.write(
      `${words}, ${sessions} sessions, asked from ${100 * ASKED_FROM} % on\n  logged right: ${right} throws asked about\n`,
    )
    for (const made of MADE) {
      const { named, otherwise, elsewhere } = noticed(design, made, sessions, 51_000)
      process.stdout.write(
        `  ${made.padEnd(6)} named ${named}, taken for another slip ${otherwise}, other throws asked about ${elsewhere}\n`,
      )
    }
  }
}
