// npm run calibrate:answers: simulates trials of every question, reads their answers, and writes how often an answer was settled and how
// often a settled one was false to docs/method/answers.md.
import fs from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { mean } from 'd3'
import { STILL_AIR } from '../../core/flight/air.ts'
import { fullSpeedWith } from '../../core/flight/arm.ts'
import { HALF_NUMBER, SEEN_NUMBERS } from '../../core/flight/disc.ts'
import type { FlightNumbers } from '../../core/flight/disc.ts'
import { pathPoints, tracePath } from '../../core/flight/path.ts'
import type { Oddities } from '../../core/flight/path.ts'
import { cleanRelease } from '../../core/flight/release.ts'
import { labelScale, sidePaths, stabilityAt } from '../../core/flight/side.ts'
import { SETTLED } from '../../core/judge/statements.ts'
import type { Asked, Claimed } from '../../core/judge/answers/answer.ts'
import type { Answered } from '../../core/judge/answers/answerOf.ts'
import { answerOf } from '../../core/judge/answers/answerOf.ts'
import { ARMS, straightAt } from '../../core/judge/answers/arms.ts'
import { HEADWIND } from '../../core/plan/aims.ts'
import { busiestArm } from '../../core/judge/flewLike.ts'
import type { ShortPlay } from '../../core/judge/answers/shortGame.ts'
import type { Evidence } from '../../core/rating/evidence.ts'
import { factorise, solve } from '../../core/rating/cholesky.ts'
import { fit } from '../../core/rating/fit.ts'
import { outcomeOf } from '../../core/rating/outcome.ts'
import { seedOf, simulateSession, UNLIKE } from './session.ts'
import type { SessionDesign, SimulatedSession } from './session.ts'
import { toldOfWorld, WORLDS, worldsTable } from './themselves.ts'

const PLASTICS = ['soft', 'firm', 'hard', 'clear']
/** Trials as their questions propose them. */
export const TRIALS: Readonly<Record<Exclude<Answered, 'ground' | 'approach'>, Omit<SessionDesign, 'seed'>>> =
  {
    numbers: { discs: 2, throws: 48, called: true, control: true },
    plastics: { kin: PLASTICS.map((plastic) => ({ mold: 'Ash', plastic })), throws: 48, called: true },
    runs: {
      kin: ['1', '2', '3'].map((run) => ({ mold: 'Ash', plastic: 'hard', run })),
      throws: 36,
      called: true,
    },
    wear: {
      kin: [0, 1 / 3, 2 / 3, 1].map((wear) => ({ mold: 'Ash', plastic: 'soft', wear })),
      throws: 48,
      called: true,
    },
    weight: {
      kin: PLASTICS.slice(0, 2).map(() => ({ mold: 'Ash', plastic: 'hard' })),
      throws: 48,
      called: true,
    },
    molds: { discs: 3, throws: 36, called: true },
    arms: { discs: 2, throws: 24, called: true, control: true },
    wind: { discs: 3, throws: 48, called: true },
  }

/** Shares of a flight at which it is compared. */
const SHARES = [0.5, 0.75, 1]
/** What is seen of flights at three angles: their carries, and their sides on the way and at the end, m. */
function seenOf(numbers: FlightNumbers, odd?: Oddities): number[] {
  return sidePaths(numbers, odd).flatMap((path) => {
    const points = pathPoints(path, 5)
    return [path.carryM, ...SHARES.map((s) => points[4 * s]!.y)]
  })
}

/**
 * The numbers a disc flies like whose aerodynamics are not the model's: those of the model whose flights are nearest to its own, by
 * least squares. Of such a disc its label speaks as of any other, by how it flies.
 */
export function fliesLike(numbers: FlightNumbers, odd: Oddities | undefined): FlightNumbers {
  if (!odd) return numbers
  const seen = seenOf(numbers, odd)
  const off = ([glide, turn, fade]: readonly number[]) =>
    seenOf({ ...numbers, glide: glide!, turn: turn!, fade: fade! }).map((v, i) => seen[i]! - v)
  let at = SEEN_NUMBERS.map((n) => numbers[n])
  for (let round = 0; round < 6; round++) {
    const left = off(at)
    const slopes = at.map((v, k) => off(at.with(k, v + 0.05)).map((l, i) => (left[i]! - l) / 0.05))
    const normal = Float64Array.from(slopes.flatMap((a) => slopes.map((b) => dot(a, b))))
    const step = Float64Array.from(slopes, (a) => dot(a, left))
    factorise(normal, at.length)
    solve(normal, at.length, step)
    at = at.map((v, k) => v + step[k]!)
  }
  return { ...numbers, glide: at[0]!, turn: at[1]!, fade: at[2]! }
}
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((s, v, i) => s + v * b[i]!, 0)

/** Whether what an answer claims is true of the discs as they were made up. */
function holds(claim: Claimed, session: SimulatedSession, armMps: number): boolean {
  const { truth, sides, odd, evidence } = session
  const numbers = (id: string) => truth.get(id)!
  const like = (id: string) => fliesLike(numbers(id), odd.get(id))
  const disc = (id: string) => evidence.discs.find((d) => d.id === id)!
  const side = (id: string) => sides.get(id)!.side
  const of = (group: readonly string[]) => mean(group, side)!
  const perNumber = (ids: readonly string[]) => mean(ids, (id) => labelScale(disc(id).published).perNumber)!
  const ends = (id: string, mps: number, windAlongMps: number) =>
    tracePath(
      numbers(id),
      disc(id).body,
      cleanRelease(fullSpeedWith(mps, numbers(id).speed)),
      { ...STILL_AIR, windAlongMps },
      odd.get(id),
    ).veerM
  const cost = (id: string) => (ends(id, armMps, 0) - ends(id, armMps, -HEADWIND)) / HEADWIND
  switch (claim.says) {
    case 'order':
      return claim.groups.every((g, i) => i === 0 || of(claim.groups[i - 1]!) >= of(g))
    case 'alike': {
      const all = claim.groups.map(of)
      return Math.max(...all) - Math.min(...all) <= HALF_NUMBER * perNumber(claim.groups.flat())
    }
    case 'most stable':
      return claim.of.every((d) => side(claim.disc) >= side(d))
    case 'least stable':
      return claim.of.every((d) => side(claim.disc) <= side(d))
    case 'holds its line best':
      return claim.of.every((d) => Math.abs(cost(claim.disc)) <= Math.abs(cost(d)))
    case 'off its label': {
      const { published } = disc(claim.disc)
      const off =
        claim.figure === 'stability'
          ? stabilityAt(labelScale(published), side(claim.disc)) - published.turn - published.fade
          : like(claim.disc)[claim.figure] - published[claim.figure]
      return claim.above ? off > HALF_NUMBER : off < -HALF_NUMBER
    }
    case 'true to its label':
      return claim.discs.every((d) =>
        SEEN_NUMBERS.every((n) => Math.abs(like(d)[n] - disc(d).published[n]) <= HALF_NUMBER),
      )
    case 'flies straight at some arm':
      return straightAt((mps) => ends(claim.disc, mps, 0)) !== undefined
    case 'finishes on one side':
      return [ARMS[0]!, ARMS.at(-1)!].every((a) => ends(claim.disc, a.armMps, 0) > 0 === claim.fade)
    case 'turns into the wind':
      return cost(claim.disc) > 0
    case 'fights the wind':
      return cost(claim.disc) < 0
    case 'wear takes stability':
    case 'wear gives stability':
    case 'more':
      throw new Error(`no truth of “${claim.says}” is made up here`)
  }
}

export interface Told {
  readonly question: Answered
  readonly trials: number
  readonly settled: number
  readonly wrong: number
  /** What was due: the sum of what the stated probabilities leave. */
  readonly due: number
}

/** A session as a question is asked of it. */
export function askedOf(evidence: Evidence): Asked & { readonly short: readonly ShortPlay[] } {
  const state = fit(evidence)
  return {
    state,
    outcome: outcomeOf(state),
    discs: evidence.discs.flatMap((d) => (d.control ? [] : [d.id])),
    convention: 'fresh',
    pair: null,
    arms: [],
    words: { name: (d) => d.replace('disc-', 'Disc ') },
    short: [],
  }
}

/** What trials are thrown in: wind nobody recorded, and a nature as it is modelled or not. */
type Nature = Pick<SessionDesign, 'gusts' | 'unlike'>
const AS_MODELLED: Nature = { gusts: 0.6 }
const OTHERWISE: Nature = { gusts: 0.6, unlike: UNLIKE }

/** Reads the answers of trials made up for a question. */
export function told(
  question: keyof typeof TRIALS,
  trials: number,
  from: number,
  nature: Nature = AS_MODELLED,
): Told {
  const count = { settled: 0, wrong: 0, due: 0 }
  for (let k = from; k < from + trials; k++) {
    const session = simulateSession({ ...TRIALS[question], ...nature, seed: seedOf(k) })
    const asked = askedOf(session.evidence)
    const answer = answerOf(question, asked)
    if (!answer.claim) continue
    count.settled++
    count.due += 1 - answer.probability!
    if (!isTrue(answer.claim, session, busiestArm(asked.state)!.armMps)) count.wrong++
  }
  return { question, trials, ...count }
}

/** Of wear the truth is what the discs were made with, beside what each is by itself. */
function isTrue(claim: Claimed, session: SimulatedSession, armMps: number): boolean {
  if (claim.says !== 'wear takes stability' && claim.says !== 'wear gives stability')
    return holds(claim, session, armMps)
  const [, turn, fade] = session.wear!
  return claim.says === 'wear takes stability' ? turn! + fade! < 0 : turn! + fade! > 0
}

export function answersTable(list: readonly Told[]): string {
  const percent = (v: number) => (100 * v).toFixed(0)
  return [
    '| question | trials | answered, % | of these false | due |',
    '| --- | --- | --- | --- | --- |',
    ...list.map(
      (t) =>
        `| ${t.question} | ${t.trials} | ${percent(t.settled / t.trials)} | ${t.wrong} of ${t.settled} | ${t.due.toFixed(1)} |`,
    ),
  ].join('\n')
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const trials = Number(process.argv[2] ?? 200)
  const questions = Object.keys(TRIALS) as (keyof typeof TRIALS)[]
  const list = (nature: Nature) => questions.map((q, i) => told(q, trials, 1000 * (i + 1), nature))
  const text = `# Answers

Made by \`npm run calibrate:answers\`: ${trials} simulated trials of each question, thrown as it proposes, truth drawn from the prior, in gusts of
${AS_MODELLED.gusts} m/s each way that nobody recorded. An answer is settled when it is stated with ${100 * SETTLED} % or more; what is due to be false is the sum of what the
stated probabilities leave.

${answersTable(list(AS_MODELLED))}

The same in a nature that is unlike the model in all ways at once: drag, lift and moment of each mold, spin, fronts, ground that slopes, landings
marked where discs came to rest.

${answersTable(list(OTHERWISE))}

Of the plastics and runs themselves, twelve throws a disc, at the same ${100 * SETTLED} %: in worlds that are as the rating believes, and in worlds in which
all that differs is each disc's own. What is said of the next disc of a plastic cannot be checked by those that were thrown; it is never surer.

${worldsTable(WORLDS.map((w, i) => toldOfWorld(w, Math.round(trials / 2), 20_000 + 1000 * i)))}
`
  if (process.argv[2] === undefined) {
    const file = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../docs/method/answers.md')
    fs.writeFileSync(file, text)
    process.stderr.write(`${file}\n`)
  } else process.stdout.write(text)
}
