// npm run calibrate:ahead: simulates what is promised about throws still to be made, throws them, and writes how often the
// promises were kept to docs/method/ahead.md.
import fs from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { quantile, randomLcg, randomNormal } from 'd3'
import { STILL_AIR } from '../../core/flight/air.ts'
import { DEGREE } from '../../core/flight/units.ts'
import { labelScale } from '../../core/flight/side.ts'
import { MORE_THROWS, settling } from '../../core/judge/resolve.ts'
import type { Kind } from '../../core/judge/resolve.ts'
import type { Candidate } from '../../core/plan/information.ts'
import { order } from '../../core/plan/aims.ts'
import { tellingThrows } from '../../core/plan/telling.ts'
import type { ThrowEvidence } from '../../core/rating/evidence.ts'
import { fit } from '../../core/rating/fit.ts'
import { outcomeOf, pairOf } from '../../core/rating/outcome.ts'
import type { FitState } from '../../core/rating/state.ts'
import { throwDisc } from '../../core/simulate/thrower.ts'
import { seedOf, simulateSession } from './session.ts'
import type { SimulatedSession } from './session.ts'

const SETTLED = 0.9
const WIND_MPS = 2.5
/** Wind that nobody recorded, m/s each way: as the rating believes it. */
const GUSTS = 0.6
/** Three angles, out and back, every angle called. */
const KINDS: readonly Kind[] = [10, 0, -8].flatMap((deg) =>
  [-WIND_MPS, WIND_MPS].map((windAlongMps) => ({
    arm: 'arm-0',
    power: 1,
    hyzerRad: deg * DEGREE,
    air: { ...STILL_AIR, windAlongMps },
    angleCalled: true,
  })),
)

/** Throws a session goes on with, seen as its earlier ones were. */
export class Goes {
  throws: readonly ThrowEvidence[]
  readonly #uniform: () => number
  readonly #normal: () => number
  readonly #session: SimulatedSession
  constructor(session: SimulatedSession, seed: number) {
    this.#session = session
    this.throws = session.evidence.throws
    this.#uniform = randomLcg(seed)
    this.#normal = randomNormal.source(this.#uniform)()
  }
  throw(meant: Candidate): void {
    const { evidence, truth, arms, aimRad } = this.#session
    const { body } = evidence.discs.find((d) => d.id === meant.disc)!
    const { landing, release } = throwDisc(
      truth.get(meant.disc)!,
      body,
      arms[0]!,
      meant,
      {
        ...meant.air,
        windAlongMps: meant.air.windAlongMps + GUSTS * this.#normal(),
        windTowardFadeMps: meant.air.windTowardFadeMps + GUSTS * this.#normal(),
      },
      this.#uniform,
    )
    const [cos, sin] = [Math.cos(aimRad), Math.sin(aimRad)]
    this.throws = [
      ...this.throws,
      {
        id: `more-${this.throws.length}`,
        disc: meant.disc,
        arm: meant.arm,
        power: meant.power,
        hyzerRad: meant.hyzerRad,
        air: meant.air,
        carryM: Math.max(1, landing.carryM * cos - landing.veerM * sin + this.#normal()),
        veerM: landing.carryM * sin + landing.veerM * cos + this.#normal(),
        ...(meant.angleCalled && { hyzerCalledRad: release.hyzerRad + 1.2 * DEGREE * this.#normal() }),
        counts: true,
      },
    ]
  }
  fit(warm?: FitState): FitState {
    return fit({ ...this.#session.evidence, throws: this.throws }, warm && { warm })
  }
}

const surenessOf = (state: FitState, [a, b]: readonly [string, string]) => {
  const { pAMoreStable: p } = pairOf(outcomeOf(state), a, b)
  return { settled: Math.max(p, 1 - p) >= SETTLED, aFirst: p > 0.5 }
}

const PLASTICS = ['soft', 'firm', 'hard', 'clear']

export interface Race {
  readonly even: readonly number[]
  readonly telling: readonly number[]
  readonly wrong: { readonly even: number; readonly telling: number }
}

/** Most throws of a race. */
export const MOST = 72

/**
 * Throws it takes to settle the order of the first two of three or four discs, one throw of each known: an even plan of all
 * discs against the most telling throw for the pair asked about, named anew after every throw. The same sessions for both.
 */
export function race(trials: number, from: number): Race {
  const used = { even: [] as number[], telling: [] as number[] }
  const wrong = { even: 0, telling: 0 }
  for (let k = from; used.even.length < trials; k++) {
    const discs = 3 + (k % 2)
    const kin = PLASTICS.slice(0, discs).map((plastic) => ({ mold: 'Ash', plastic }))
    const session = simulateSession({ seed: seedOf(k), kin, throws: discs, called: true, gusts: GUSTS })
    const asked = ['disc-0', 'disc-1'] as const
    const side = (id: string) => session.sides.get(id)!.side
    const perNumber =
      asked.reduce((s, id) => s + labelScale(session.truth.get(id)!).perNumber, 0) / asked.length
    const gap = (side(asked[0]) - side(asked[1])) / perNumber
    if (Math.abs(gap) < 0.5 || Math.abs(gap) > 2) continue
    const cells = KINDS.flatMap((kind) =>
      session.evidence.discs.map((d): Candidate => ({ ...kind, disc: d.id })),
    )
    for (const plan of ['even', 'telling'] as const) {
      const goes = new Goes(session, seedOf(7000 + k))
      let state = goes.fit()
      let n = 0
      for (; n < MOST && !surenessOf(state, asked).settled; n++) {
        goes.throw(
          plan === 'even'
            ? cells[(n * 7) % cells.length]!
            : tellingThrows(state, [order(asked)], cells, 1).throws[0]!,
        )
        state = goes.fit(state)
      }
      used[plan].push(n)
      const end = surenessOf(state, asked)
      if (end.settled && end.aFirst !== gap > 0) wrong[plan]++
    }
  }
  return { ...used, wrong }
}

/** Stated chances of pairs to be settled after so many more throws, and how often they were. */
export interface Promises {
  readonly throws: number
  readonly stated: readonly { readonly chance: number; readonly kept: boolean }[]
}

/** Throws of each of four discs that are known when chances are stated; a session has one of them. */
const KNOWN = [1, 2, 4] as const

/**
 * The chance to settle an open pair with so many more throws, stated after a few throws, and whether those throws, chosen and
 * made as the promise says, settled it. One open pair a session.
 */
export function promises(sessions: number, from: number): Promises[] {
  const list = MORE_THROWS.map((throws) => ({ throws, stated: [] as { chance: number; kept: boolean }[] }))
  for (let k = from, done = 0; done < sessions; k++) {
    const kin = PLASTICS.map((plastic) => ({ mold: 'Ash', plastic }))
    const throws = 4 * KNOWN[k % KNOWN.length]!
    // every other session is of discs that have nothing in common
    const design = k % 2 === 0 ? { kin } : { discs: 4 }
    const session = simulateSession({ ...design, seed: seedOf(k), throws, called: true, gusts: GUSTS })
    const goes = new Goes(session, seedOf(9000 + k))
    const start = goes.fit()
    const open = outcomeOf(start).pairs.filter((p) => Math.max(p.pAMoreStable, 1 - p.pAMoreStable) < SETTLED)
    if (open.length === 0) continue
    done++
    const { a, b } = open[k % open.length]!
    const { chances, meant } = settling(start, a, b, KINDS)
    let state = start
    meant.forEach((thrown, n) => {
      goes.throw(thrown)
      const at = list.find((l) => l.throws === n + 1)
      if (!at) return
      state = goes.fit(state)
      at.stated.push({
        chance: chances.find((c) => c.throws === at.throws)!.chance,
        kept: surenessOf(state, [a, b]).settled,
      })
    })
  }
  return list
}

const percent = (v: number) => (100 * v).toFixed(0)
const TENTHS = Array.from({ length: 10 }, (_, i) => i)
/** Fewer stated say nothing. */
const FEWEST = 15

function promisesTable(list: readonly Promises[]): string {
  const cell = (p: Promises, tenth: number) => {
    const stated = p.stated.filter((s) => Math.min(9, Math.floor(10 * s.chance)) === tenth)
    if (stated.length < FEWEST) return '–'
    const mean = stated.reduce((s, x) => s + x.chance, 0) / stated.length
    return `${percent(mean)} → ${percent(stated.filter((x) => x.kept).length / stated.length)} (${stated.length})`
  }
  return [
    `| stated, % | ${TENTHS.map((t) => `${10 * t}–${10 * t + 10}`).join(' | ')} |`,
    `| --- | ${TENTHS.map(() => '---').join(' | ')} |`,
    ...list.map((p) => `| with ${p.throws} more throws | ${TENTHS.map((t) => cell(p, t)).join(' | ')} |`),
  ].join('\n')
}

function raceTable({ even, telling, wrong }: Race): string {
  const at = (list: readonly number[], share: number) => {
    const v = quantile(list, share)!
    return v >= MOST ? `over ${MOST}` : v.toFixed(0)
  }
  const row = (words: string, list: readonly number[], wrong: number) =>
    `| ${words} | ${[0.25, 0.5, 0.75, 0.9].map((q) => at(list, q)).join(' | ')} | ${list.filter((n) => n < MOST).length} | ${wrong} |`
  return [
    `| throws | a quarter settled | half | three quarters | nine tenths | settled within ${MOST}, of ${even.length} | in the wrong order |`,
    '| --- | --- | --- | --- | --- | --- | --- |',
    row('every disc in turn, all angles, both ways', even, wrong.even),
    row('the most telling for the pair', telling, wrong.telling),
  ].join('\n')
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const trials = Number(process.argv[2] ?? 200)
  const sessions = Number(process.argv[3] ?? 5 * trials)
  const raced = race(trials, 1)
  const told = `# What is promised about throws to come

Made by \`npm run calibrate:ahead\`: throws are simulated on from made-up sessions, angles called, out and back, in
wind of 0.6 m/s each way that nobody recorded.

## Throws it takes to settle the pair that is asked about

${trials} trials of three and four plastics of one mold, the two asked about truly 0.5 to 2 numbers apart, one throw of each disc known.
A pair is settled when its order is stated with ${percent(SETTLED)} %; it is looked at after every throw.

${raceTable(raced)}

## Chances to settle a pair with more throws

Stated for one open pair of each of ${sessions} sessions of four discs after one, two or four throws each, in half of them plastics of one mold: the
chance stated → how often the throws that were meant settled it, in per cent, and how many were stated.

${promisesTable(promises(sessions, 1))}
`
  if (process.argv[2] === undefined) {
    const file = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../docs/method/ahead.md')
    fs.writeFileSync(file, told)
    process.stderr.write(`${file}\n`)
  } else process.stdout.write(told)
}
