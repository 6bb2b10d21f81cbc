import { whoseArm } from '../rating/fromSheet.ts'
import { SEEN_NUMBERS } from '../flight/disc.ts'
import { writeCsv } from './csvCells.ts'
import { DEGREE } from '../flight/units.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import { TYPICAL_FULL_SPEED } from '../rating/evidence.ts'
import { Z90 } from '../rating/normal.ts'
import { gapWords, percent, SETTLED } from '../judge/statements.ts'
import { effectsOf, plasticContrasts, varianceShares } from '../judge/effects.ts'
import type { VarianceShares } from '../judge/effects.ts'
import type { FitState } from '../rating/state.ts'
import type { Estimate, Outcome } from '../rating/outcome.ts'

/** The rating of a file of throws, as `rate --json` prints it. Speeds in m/s, angles in degrees. */
export interface RateReport {
  readonly discs: readonly {
    readonly disc: string
    readonly published: FlightNumbers
    readonly observed: Omit<FlightNumbers, 'speed'>
    readonly sd: { readonly glide: number; readonly turn: number; readonly fade: number }
    /** Where it flies, m to the fade side a 100 m of carry, over hyzer, flat and anhyzer at its reference release. */
    readonly side_m_per_100m: { readonly value: number; readonly sd: number }
    /** The same on the scale of turn + fade. */
    readonly stability: { readonly value: number; readonly sd: number }
    readonly throws: number
    readonly left_out: number
  }[]
  readonly pairs: readonly {
    readonly a: string
    readonly b: string
    readonly p_a_more_stable: number
    /** How much further to the fade side a lands than b, m a 100 m of carry. */
    readonly side_m_per_100m: { readonly value: number; readonly sd: number }
    readonly finish_m_per_100m: { readonly value: number; readonly sd: number }
  }[]
  /** What discs of one mold, plastic, blend or run have in common beyond their labels; absent without kin. */
  readonly effects?: readonly {
    readonly level: string
    readonly names: readonly string[]
    readonly discs: readonly string[]
    readonly stability: { readonly value: number; readonly sd: number }
  }[]
  /** Plastics of one mold compared, labels included. */
  readonly plastics?: readonly {
    readonly mold: string
    readonly a: string
    readonly b: string
    readonly difference: { readonly value: number; readonly sd: number }
    readonly p_a_more_stable: number
  }[]
  /** Shares of the variance between discs about their labels. */
  readonly shares?: VarianceShares
  readonly throwers: readonly {
    readonly thrower: string
    readonly hand: string
    readonly stroke: string
    readonly full_speed_mps: number
    readonly habit: {
      readonly speed_pct: number
      readonly launch_deg: number
      readonly hyzer_deg: number
      readonly nose_deg: number
    }
  }[]
}

/** A rating as a table for programs and spreadsheets: a line a disc, the most stable first. */
export function ratingsCsv({ discs }: RateReport): string {
  const numbers = SEEN_NUMBERS
  const header = [
    'disc',
    'throws',
    ...['speed', ...numbers].map((n) => `published_${n}`),
    ...numbers.flatMap((n) => [n, `${n}_sd`]),
    'stability',
    'stability_sd',
    'side_m_per_100m',
    'side_m_per_100m_sd',
  ]
  const lines = [...discs]
    .sort((a, b) => b.side_m_per_100m.value - a.side_m_per_100m.value)
    .map((d) => [
      d.disc,
      d.throws,
      ...(['speed', ...numbers] as const).map((n) => d.published[n]),
      ...numbers.flatMap((n) => [d.observed[n], d.sd[n]]),
      d.stability.value,
      d.stability.sd,
      d.side_m_per_100m.value,
      d.side_m_per_100m.sd,
    ])
  return writeCsv(
    header,
    lines.map((line) => line.map(String)),
  )
}

const to = (digits: number) => (v: number) => Math.round(v * 10 ** digits) / 10 ** digits + 0

const estimate = ({ value, sd }: Estimate) => ({ value: to(3)(value), sd: to(3)(sd) })

/** Rounds an outcome to what a reader can use. */
export function rateReport(state: FitState, outcome: Outcome): RateReport {
  const { evidence } = state
  const three = to(3)
  const four = to(4)
  return {
    discs: outcome.discs.map((d) => ({
      disc: d.disc,
      published: d.published,
      observed: {
        glide: three(d.observed.glide),
        turn: three(d.observed.turn),
        fade: three(d.observed.fade),
      },
      sd: { glide: three(d.sd.glide), turn: three(d.sd.turn), fade: three(d.sd.fade) },
      side_m_per_100m: estimate(d.side),
      stability: estimate(d.stability),
      throws: d.throws,
      left_out: d.leftOut,
    })),
    pairs: outcome.pairs.map((p) => ({
      a: p.a,
      b: p.b,
      p_a_more_stable: four(p.pAMoreStable),
      side_m_per_100m: estimate(p.difference),
      finish_m_per_100m: estimate(p.finish),
    })),
    ...kinReport(state),
    throwers: outcome.habits.map((h, i) => {
      const full = evidence.arms[i]!.fullSpeedMps
      return {
        ...whoseArm(h.arm),
        full_speed_mps: three(full ?? TYPICAL_FULL_SPEED * Math.exp(h.lnSpeed.value)),
        habit: {
          // against a full speed nobody gave there is no habit to tell: the speed itself was estimated
          speed_pct: full === undefined ? 0 : three(100 * Math.expm1(h.lnSpeed.value)),
          launch_deg: three(h.launchRad.value / DEGREE),
          hyzer_deg: three(h.hyzerRad.value / DEGREE),
          nose_deg: three(h.noseRad.value / DEGREE),
        },
      }
    }),
  }
}

/** Effects, plastics and shares, where any two discs are kin. */
function kinReport(state: FitState): Pick<RateReport, 'effects' | 'plastics' | 'shares'> {
  const effects = effectsOf(state)
  if (effects.length === 0) return {}
  const three = to(3)
  return {
    effects: effects.map(({ level, names, discs, stability }) => ({
      level,
      names,
      discs,
      stability: estimate(stability),
    })),
    plastics: plasticContrasts(state).map(({ mold, a, b, difference, pAMoreStable }) => ({
      mold,
      a,
      b,
      difference: estimate(difference),
      p_a_more_stable: to(4)(pAMoreStable),
    })),
    shares: Object.fromEntries(
      Object.entries(varianceShares(state)).map(([level, share]) => [level, three(share)]),
    ) as unknown as VarianceShares,
  }
}

/** The same as a table for people. */
export function rateTable(report: RateReport): string {
  const signed = (v: number) => v.toFixed(1).replace('-', '−')
  const within = (v: number, sd: number) => `${signed(v)} ± ${(Z90 * sd).toFixed(1)}`
  const rows = [
    ['disc', 'throws', 'published', 'glide', 'turn', 'fade', 'stability', 'm to the fade side'],
    ...[...report.discs]
      .sort((a, b) => b.side_m_per_100m.value - a.side_m_per_100m.value)
      .map((d) => [
        d.disc,
        d.left_out > 0 ? `${d.throws} (${d.left_out} left out)` : String(d.throws),
        [d.published.speed, d.published.glide, d.published.turn, d.published.fade]
          .join(' / ')
          .replaceAll('-', '−'),
        within(d.observed.glide, d.sd.glide),
        within(d.observed.turn, d.sd.turn),
        within(d.observed.fade, d.sd.fade),
        within(d.stability.value, d.stability.sd),
        within(d.side_m_per_100m.value, d.side_m_per_100m.sd),
      ]),
  ]
  const widths = rows[0]!.map((_, c) => Math.max(...rows.map((r) => r[c]!.length)))
  const table = rows.map((r) =>
    r
      .map((cell, c) => cell.padEnd(widths[c]!))
      .join('   ')
      .trimEnd(),
  )
  const order = report.pairs
    .map(({ a, b, p_a_more_stable: p, side_m_per_100m: side, finish_m_per_100m: finish }) => {
      const sign = p >= 0.5 ? 1 : -1
      const turned = (e: Estimate): Estimate => ({ value: sign * e.value, sd: e.sd })
      const gap = { side: turned(side), finish: turned(finish) }
      return sign > 0 ? { more: a, less: b, p, gap } : { more: b, less: a, p: 1 - p, gap }
    })
    .sort((x, y) => y.p - x.p || y.gap.side.value - x.gap.side.value)
    .map(({ more, less, p, gap }) =>
      p >= SETTLED
        ? `${more} is more stable than ${less}, ${percent(p)}: ${gapWords(gap, undefined, { name: (d) => d })}`
        : `${more} against ${less} is not settled, ${percent(p)}`,
    )
  const plastics = (report.plastics ?? []).map(({ mold, a, b, difference, p_a_more_stable: p }) => {
    const [more, less, sure] = p >= 0.5 ? [a, b, p] : [b, a, 1 - p]
    const by = Math.abs(difference.value).toFixed(1)
    return `${mold}: ${more} flies ${by} more stable than ${less}, ${percent(sure)}`
  })
  return [
    ...table,
    '',
    'Intervals hold 90 %. Most stable first, by where they fly; metres a 100 m of carry.',
    '',
    ...order,
    ...(plastics.length > 0 ? ['', 'Plastics, discs nobody has thrown included:', '', ...plastics] : []),
  ].join('\n')
}
