// npm run calibrate: simulates sessions of varied design, rates them, and writes how honest the intervals and the stated
// probabilities are to docs/method/calibration.md.
import fs from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { normalCdf } from '../../core/rating/normal.ts'
import { fit } from '../../core/rating/fit.ts'
import { outcomeOf } from '../../core/rating/outcome.ts'
import { simulateSession } from './session.ts'
import type { SessionDesign } from './session.ts'

const LEVELS = [0.5, 0.8, 0.9, 0.95] as const
const FAMILY = ['Ash', 'Birch', 'Cedar'].flatMap((mold) =>
  ['soft', 'hard'].map((plastic) => ({ mold, plastic })),
)

/** Designs in words; every one with seeds of its own. */
export const DESIGNS: readonly (readonly [words: string, design: Omit<SessionDesign, 'seed'>])[] = [
  ['landings alone', {}],
  ['angles called', { called: true }],
  ['angles called, hang timed, a control disc', { called: true, hang: true, control: true }],
  ['two throwers, angles called', { throwers: 2, called: true }],
  ['speeds unknown, two throwers', { throwers: 2, called: true, fullSpeedKnown: false }],
  ['few throws: 24 of four discs', { throws: 24, discs: 4, called: true }],
  ['kin: three molds in two plastics', { kin: FAMILY, called: true }],
  ['gusts of 1 m/s not recorded', { gusts: 1, called: true }],
  [
    'rough: gusts of 1.4 m/s, paced, one bad throw in ten, wobble, a strongly biased thrower',
    { gusts: 1.4, method: 'paced', bad: 0.1, wobble: 0.1, bias: 1.5, called: true },
  ],
  ['what it did in the air called, nothing else', { watched: true }],
  ['paths recorded: 24 throws of four discs', { throws: 24, discs: 4, recorded: true }],
  ['all throws flat, angles called', { angles: [0], called: true }],
  ['all throws flat, nothing called', { angles: [0] }],
]

export interface Calibration {
  readonly words: string
  readonly sessions: number
  /** Share of intervals that hold the truth, by level, over glide, turn, fade and stability. */
  readonly held: Readonly<Record<'glide' | 'turn' | 'fade' | 'stability', readonly number[]>>
  /** Stated probability of an order, by tenth from 0.5: how often it was stated and how often right. */
  readonly orders: readonly { readonly stated: number; readonly right: number; readonly count: number }[]
  readonly turnRms: number
  readonly fadeRms: number
}

/** Rates `sessions` sessions of a design and counts. */
export function calibrate(
  words: string,
  design: Omit<SessionDesign, 'seed'>,
  sessions: number,
  first: number,
): Calibration {
  const z = { glide: [] as number[], turn: [] as number[], fade: [] as number[], stability: [] as number[] }
  const bins = Array.from({ length: 5 }, () => ({ stated: 0, right: 0, count: 0 }))
  const squares = { turn: 0, fade: 0, count: 0 }
  for (let k = 0; k < sessions; k++) {
    const { evidence, truth } = simulateSession({ ...design, seed: ((first + k) * 0.6180339887498949) % 1 })
    const outcome = outcomeOf(fit(evidence))
    const stability = (d: string) => truth.get(d)!.turn + truth.get(d)!.fade
    for (const d of outcome.discs) {
      const t = truth.get(d.disc)!
      for (const key of ['glide', 'turn', 'fade'] as const)
        z[key].push((d.observed[key] - t[key]) / d.sd[key])
      z.stability.push((d.stability.value - stability(d.disc)) / d.stability.sd)
      squares.turn += (d.observed.turn - t.turn) ** 2
      squares.fade += (d.observed.fade - t.fade) ** 2
      squares.count++
    }
    for (const p of outcome.pairs) {
      const stated = Math.max(p.pAMoreStable, 1 - p.pAMoreStable)
      const bin = bins[Math.min(4, Math.floor((stated - 0.5) * 10))]!
      bin.count++
      bin.stated += stated
      if (p.difference.value * (stability(p.a) - stability(p.b)) > 0) bin.right++
    }
  }
  const quantile = (level: number) => {
    let [low, high] = [0, 5]
    while (high - low > 1e-6) {
      const middle = (low + high) / 2
      if (2 * normalCdf(middle) - 1 < level) low = middle
      else high = middle
    }
    return low
  }
  const held = (list: readonly number[]) =>
    LEVELS.map((l) => list.filter((v) => Math.abs(v) <= quantile(l)).length / list.length)
  return {
    words,
    sessions,
    held: { glide: held(z.glide), turn: held(z.turn), fade: held(z.fade), stability: held(z.stability) },
    orders: bins.map((b) => ({ stated: b.stated / b.count, right: b.right / b.count, count: b.count })),
    turnRms: Math.sqrt(squares.turn / squares.count),
    fadeRms: Math.sqrt(squares.fade / squares.count),
  }
}

const percent = (v: number) => (100 * v).toFixed(0)

export function table(list: readonly Calibration[]): string {
  const cell = (h: readonly number[]) => h.map(percent).join(' / ')
  return [
    '| sessions of 72 throws, six discs, three angles, unless said | n | glide | turn | fade | turn + fade | turn rms | fade rms |',
    '| --- | --- | --- | --- | --- | --- | --- | --- |',
    ...list.map(
      (c) =>
        `| ${c.words} | ${c.sessions} | ${cell(c.held.glide)} | ${cell(c.held.turn)} | ${cell(c.held.fade)} | ${cell(c.held.stability)} | ${c.turnRms.toFixed(2)} | ${c.fadeRms.toFixed(2)} |`,
    ),
  ].join('\n')
}

export function orderTable(list: readonly Calibration[]): string {
  const tenths = ['50–60', '60–70', '70–80', '80–90', '90–100']
  return [
    `| stated, % | ${tenths.join(' | ')} |`,
    `| --- | ${tenths.map(() => '---').join(' | ')} |`,
    ...list.map(
      (c) =>
        `| ${c.words} | ${c.orders.map((o) => (o.count < 20 ? '–' : `${percent(o.stated)} → ${percent(o.right)}`)).join(' | ')} |`,
    ),
  ].join('\n')
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const sessions = Number(process.argv[2] ?? 800)
  const list = DESIGNS.map(([words, design], i) => {
    process.stderr.write(`${words} …\n`)
    return calibrate(words, design, sessions, 1000 * (i + 1))
  })
  const file = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../docs/method/calibration.md')
  fs.writeFileSync(
    file,
    `# Calibration

Made by \`npm run calibrate\`: ${sessions} simulated sessions of each design, truth drawn from the prior, each rated
and compared with its truth. Discs of a session share a thrower's habit; shares are good to about ±${(40 / Math.sqrt(sessions)).toFixed(1)} points.

## Intervals

How often intervals of 50 / 80 / 90 / 95 % held the truth, in per cent.

${table(list)}

## Stated probabilities of order

Every pair of discs: the probability stated for the likelier order → how often that order was right, by tenth.

${orderTable(list)}
`,
  )
  process.stderr.write(`${file}\n`)
}
