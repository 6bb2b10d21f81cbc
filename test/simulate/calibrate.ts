// npm run calibrate: simulates sessions of varied design, rates them, and writes how honest the intervals and the stated
// probabilities are to docs/method/calibration.md.
import fs from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { labelScale, stabilityAt } from '../../core/flight/side.ts'
import { normalQuantile } from '../../core/rating/normal.ts'
import { fit } from '../../core/rating/fit.ts'
import { outcomeOf, probabilityAbove } from '../../core/rating/outcome.ts'
import { seedOf, simulateSession, UNLIKE } from './session.ts'
import type { SessionDesign } from './session.ts'

const LEVELS = [0.5, 0.8, 0.9, 0.95] as const
const FAMILY = ['Ash', 'Birch', 'Cedar'].flatMap((mold) =>
  ['soft', 'hard'].map((plastic) => ({ mold, plastic })),
)
/** So many throws a disc, of four discs. */
const EACH = [1, 2, 3, 4, 6, 12, 40, 120] as const
/** Wind that nobody recorded, m/s each way, unless a design says otherwise: as the rating believes it. */
const GUSTS = 0.6

type Row = readonly [words: string, design: Omit<SessionDesign, 'seed'>, share?: number]

/** Designs in words; every one with seeds of its own. Where `share` is given, that share of the sessions is enough. */
const ROWS: readonly Row[] = [
  ['landings alone', {}],
  ['angles called', { called: true }],
  ['angles called, hang timed, a control disc', { called: true, hang: true, control: true }],
  ['two throwers, angles called', { throwers: 2, called: true }],
  ['speeds unknown, two throwers', { throwers: 2, called: true, fullSpeedKnown: false }],
  ...EACH.map(
    (n) =>
      [
        `${n} ${n === 1 ? 'throw' : 'throws'} a disc, four discs, angles called`,
        { throws: 4 * n, discs: 4, called: true },
        n < 40 ? 1 : n < 120 ? 0.5 : 0.15,
      ] as const,
  ),
  ['kin: three molds in two plastics', { kin: FAMILY, called: true }],
  ['putters to drivers, angles called', { speeds: [2, 5, 7, 9, 11, 13], called: true }],
  [
    'mids and drivers, drivers thrown with 4° too much hyzer, landings alone',
    { speeds: [5, 12], hyzerByClassDeg: 4 / 7, gusts: 0.6 },
  ],
  ['mids and drivers, thrown alike, landings alone', { speeds: [5, 12], gusts: 0.6 }],
  ['gusts of 1 m/s not recorded', { gusts: 1, called: true }],
  [
    'rough: gusts of 1.4 m/s, paced, one bad throw in ten, wobble, a strongly biased thrower',
    { gusts: 1.4, method: 'paced', bad: 0.1, wobble: 0.1, bias: 1.5, called: true },
  ],
  ['what it did in the air called, nothing else', { watched: true }],
  ['paths recorded: 24 throws of four discs', { throws: 24, discs: 4, recorded: true }],
  ['paths recorded: 8 throws of four discs', { throws: 8, discs: 4, recorded: true }],
  ['one outing of 12 throws, four discs, angles called', { throws: 12, discs: 4, called: true }],
  [
    'five such outings together, a habit and an aim line each day',
    { throws: 60, discs: 4, called: true, outings: 5 },
  ],
  ...(
    [
      ['discs that lose 2 m in 100 over five outings, as is noted', { lostM: [2] }],
      ['half of the discs lose 3 m, as is noted', { lostM: [0, 3] }],
      ['half of them lose 3 m, twice as fast as is noted', { lostM: [0, 3], notedM: [0, 1.5] }],
      ['none of them lose what is noted, 1.5 m', { lostM: [0], notedM: [1.5] }],
    ] as const
  ).map(([words, worn]): Row => [words, { throws: 60, discs: 4, called: true, outings: 5, ...worn }]),
  ['all throws flat, angles called', { angles: [0], called: true }],
  ['all throws flat, nothing called', { angles: [0] }],
  ['no gusts at all, angles called', { called: true, gusts: 0 }],
  ['wrong physics, angles called', { called: true, unlike: UNLIKE }],
  ['wrong physics, aim line 3° off, angles called', { called: true, unlike: UNLIKE, aimOffDeg: 3 }],
  [
    'wrong physics, aim line 3° off, 3 throws a disc',
    { called: true, unlike: UNLIKE, aimOffDeg: 3, throws: 18 },
  ],
  ['aim line 3° off, angles called', { called: true, aimOffDeg: 3 }],
]
export const DESIGNS: readonly Row[] = ROWS.map(([words, design, share]) => [
  words,
  { gusts: GUSTS, ...design },
  share,
])

/** What intervals are looked at: a disc's numbers, where it flies, and how far apart two fly. */
const HELD = ['glide', 'turn', 'fade', 'side', 'difference'] as const

/** What was stated with 90 % or more, how much of it is wrong, and how much of it may be by what was stated. */
interface Told {
  readonly settled: number
  readonly false: number
  readonly due: number
}

export interface Calibration {
  readonly words: string
  readonly sessions: number
  /** Share of intervals that hold the truth, by level. An interval of s is that of the side, in other units. */
  readonly held: Readonly<Record<(typeof HELD)[number], readonly number[]>>
  /** Stated probability of an order, by tenth from 0.5: how often it was stated and how often right. */
  readonly orders: readonly { readonly stated: number; readonly right: number; readonly count: number }[]
  readonly pairs: number
  /** Orders stated with 90 % or more. */
  readonly told: Told
  /** Sides against the label's stated with 90 % or more. */
  readonly labels: Told
  readonly turnRms: number
  readonly fadeRms: number
  /** Of s. */
  readonly stabilityRms: number
}

/** Rates `sessions` sessions of a design and counts. */
export function calibrate(
  words: string,
  design: Omit<SessionDesign, 'seed'>,
  sessions: number,
  first: number,
): Calibration {
  const z: Record<(typeof HELD)[number], number[]> = {
    glide: [],
    turn: [],
    fade: [],
    side: [],
    difference: [],
  }
  const bins = Array.from({ length: 5 }, () => ({ stated: 0, right: 0, count: 0 }))
  const squares = { turn: 0, fade: 0, stability: 0, count: 0 }
  let pairs = 0
  const [told, labels] = [nothingTold(), nothingTold()]
  const tell = (of: ReturnType<typeof nothingTold>, stated: number, right: boolean) => {
    if (stated < 0.9) return
    of.settled++
    of.due += 1 - stated
    if (!right) of.false++
  }
  for (let k = 0; k < sessions; k++) {
    const { evidence, truth, sides } = simulateSession({
      ...design,
      seed: seedOf(first + k),
    })
    const outcome = outcomeOf(fit(evidence))
    const side = (d: string) => sides.get(d)!.side
    for (const d of outcome.discs) {
      const t = truth.get(d.disc)!
      for (const key of ['glide', 'turn', 'fade'] as const)
        z[key].push((d.observed[key] - t[key]) / d.sd[key])
      z.side.push((d.side.value - side(d.disc)) / d.side.sd)
      const off = d.side.value - labelScale(d.published).side
      const p = probabilityAbove(Math.abs(off), d.side.sd)
      tell(labels, p, off * (side(d.disc) - labelScale(d.published).side) > 0)
      squares.turn += (d.observed.turn - t.turn) ** 2
      squares.fade += (d.observed.fade - t.fade) ** 2
      squares.stability += (d.stability.value - stabilityAt(labelScale(d.published), side(d.disc))) ** 2
      squares.count++
    }
    for (const p of outcome.pairs) {
      const gap = side(p.a) - side(p.b)
      z.difference.push((p.difference.value - gap) / p.difference.sd)
      const stated = Math.max(p.pAMoreStable, 1 - p.pAMoreStable)
      const right = p.difference.value * gap > 0
      const bin = bins[Math.min(4, Math.floor((stated - 0.5) * 10))]!
      bin.count++
      bin.stated += stated
      if (right) bin.right++
      pairs++
      tell(told, stated, right)
    }
  }
  const held = (list: readonly number[]) =>
    LEVELS.map((l) => list.filter((v) => Math.abs(v) <= normalQuantile((1 + l) / 2)).length / list.length)
  return {
    words,
    sessions,
    held: {
      glide: held(z.glide),
      turn: held(z.turn),
      fade: held(z.fade),
      side: held(z.side),
      difference: held(z.difference),
    },
    orders: bins.map((b) => ({ stated: b.stated / b.count, right: b.right / b.count, count: b.count })),
    pairs,
    told,
    labels,
    turnRms: Math.sqrt(squares.turn / squares.count),
    fadeRms: Math.sqrt(squares.fade / squares.count),
    stabilityRms: Math.sqrt(squares.stability / squares.count),
  }
}

const nothingTold = () => ({ settled: 0, false: 0, due: 0 })
const percent = (v: number) => (100 * v).toFixed(0)
const falseOf = (t: Told) => `${t.false} of ${t.settled} | ${t.due.toFixed(1)}`

export function table(list: readonly Calibration[]): string {
  const cell = (h: readonly number[]) => h.map(percent).join(' / ')
  return [
    '| sessions of 72 throws, six discs, three angles, unless said | n | glide | turn | fade | side, s | differences of side | rms turn | fade | s |',
    '| --- | --- | --- | --- | --- | --- | --- | --- | --- | --- |',
    ...list.map(
      (c) =>
        `| ${c.words} | ${c.sessions} | ${HELD.map((h) => cell(c.held[h])).join(' | ')} | ${c.turnRms.toFixed(2)} | ${c.fadeRms.toFixed(2)} | ${c.stabilityRms.toFixed(2)} |`,
    ),
  ].join('\n')
}

export function orderTable(list: readonly Calibration[]): string {
  const tenths = ['50–60', '60–70', '70–80', '80–90', '90–100']
  return [
    `| stated, % | ${tenths.join(' | ')} | settled at 90 %, % of pairs | of these false | due | labels: false | due |`,
    `| --- | ${tenths.map(() => '---').join(' | ')} | --- | --- | --- | --- | --- |`,
    ...list.map(
      (c) =>
        `| ${c.words} | ${c.orders.map((o) => (o.count < 20 ? '–' : `${percent(o.stated)} → ${percent(o.right)}`)).join(' | ')} | ${percent(c.told.settled / c.pairs)} | ${falseOf(c.told)} | ${falseOf(c.labels)} |`,
    ),
  ].join('\n')
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const sessions = Number(process.argv[2] ?? 800)
  const only = process.argv[3]
  const list = DESIGNS.flatMap(([words, design, share = 1], i) => {
    if (only !== undefined && !new RegExp(only).test(words)) return []
    process.stderr.write(`${words} …\n`)
    return [calibrate(words, design, Math.ceil(share * sessions), 1000 * (i + 1))]
  })
  const told = `## Intervals

How often intervals of 50 / 80 / 90 / 95 % held the truth, in per cent: of a disc's numbers, of where it flies (its side, and s,
which is the side in other units), and of how far apart two discs fly.

${table(list)}

## Stated probabilities of order

Every pair of discs: the probability stated for the likelier order → how often that order was right, by tenth; pairs whose
order is stated with 90 % or more, how many of those orders are wrong, and how many may be by what was stated; the same of sides against
the label's.

${orderTable(list)}
`
  if (only !== undefined) process.stdout.write(told)
  else {
    const file = path.resolve(
      path.dirname(fileURLToPath(import.meta.url)),
      '../../docs/method/calibration.md',
    )
    fs.writeFileSync(
      file,
      `# Calibration

Made by \`npm run calibrate\`: ${sessions} simulated sessions of each design, truth drawn from the prior, each rated
and compared with its truth; wind of ${GUSTS} m/s each way that nobody recorded, unless said. Discs of a session share a thrower's habit; shares are good to about ±${(40 / Math.sqrt(sessions)).toFixed(1)} points.

${told}`,
    )
    process.stderr.write(`${file}\n`)
  }
}
