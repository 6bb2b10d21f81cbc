import type { Estimate } from '../rating/outcome.ts'
import { probabilityAbove } from '../rating/outcome.ts'
import type { Measured } from '../shelf/inspection.ts'
import { SETTLED } from './statements.ts'

/** What practitioners read from a rim. A hint is something to test, never a result. */
export interface HintRule {
  readonly key: string
  /** Of the measured figure: how much more of it there is, in its own unit. */
  readonly of: (m: Measured) => number | null
  /** Smaller differences are not felt. */
  readonly least: number
  /** The one with more of it, and with less. */
  readonly words: { readonly more: string; readonly less: string }
  readonly unit: string
  /** What more of it usually does; null where practitioners do not agree or throws cannot tell. */
  readonly usually: { readonly number: 'stability' | 'glide'; readonly sense: 1 | -1 } | null
  /** Said where nothing can be foretold. */
  readonly otherwise?: string
}

export const HINT_RULES: readonly HintRule[] = [
  {
    key: 'parting line',
    of: (m) => m.partingLineMm,
    least: 0.4,
    words: { more: 'Parting line higher', less: 'Parting line lower' },
    unit: 'mm',
    usually: { number: 'stability', sense: 1 },
  },
  {
    key: 'bead',
    of: (m) => (m.bead === null ? null : Number(m.bead)),
    least: 1,
    words: { more: 'A bead', less: 'No bead' },
    unit: '',
    usually: { number: 'stability', sense: 1 },
  },
  {
    key: 'flatter top',
    of: (m) => (m.domeMm === null ? null : -m.domeMm),
    least: 0.6,
    words: { more: 'Flatter top', less: 'More dome' },
    unit: 'mm',
    usually: { number: 'stability', sense: 1 },
  },
  {
    key: 'dome',
    of: (m) => m.domeMm,
    least: 0.6,
    words: { more: 'More dome', less: 'Flatter top' },
    unit: 'mm',
    usually: { number: 'glide', sense: 1 },
  },
  {
    key: 'raised nose',
    of: (m) => m.noseDeg,
    least: 3,
    words: { more: 'Nose raised more', less: 'Nose raised less' },
    unit: '°',
    usually: { number: 'stability', sense: 1 },
  },
  {
    key: 'stiffness',
    of: (m) => m.stiffness,
    least: 1,
    words: { more: 'Stiffer blend', less: 'Softer blend' },
    unit: '',
    usually: null,
    otherwise: 'no agreement',
  },
  {
    key: 'rim depth',
    of: (m) => m.rimDepthMm,
    least: 0.6,
    words: { more: 'Deeper rim', less: 'Shallower rim' },
    unit: 'mm',
    usually: null,
    otherwise: 'awkward in a forehand where it is deep',
  },
]

/** A disc with its inspection, and what the throws say of it where it was thrown. */
export interface InspectedFlyer {
  readonly measured: Measured
  /** Its side, m a 100 m: throws that settle where discs fly settle which is more stable. */
  readonly stability: Estimate | null
  readonly glide: Estimate | null
}

export type HintVerdict = 'borne out' | 'not borne out' | 'open' | 'untold'

/** One thing the hand says of a disc beside another, and what the throws say to it. */
export interface Hint {
  readonly rule: HintRule
  /** How much more of it the first disc has; negative for less. */
  readonly more: number
  /** “Parting line higher”. */
  readonly words: string
  /** “usually more stable”. */
  readonly usually: string
  /** Probability that it points the right way; null where nothing is foretold or one of them was not thrown. */
  readonly probability: number | null
  readonly verdict: HintVerdict
}

/**
 * What the hand reads from one disc beside another, each marked by what the throws say. Both ratings are taken as
 * independent; a habit they share would make differences surer than this says.
 */
export function hintsBetween(a: InspectedFlyer, b: InspectedFlyer): Hint[] {
  return HINT_RULES.flatMap((rule): Hint[] => {
    const [x, y] = [rule.of(a.measured), rule.of(b.measured)]
    if (x === null || y === null || Math.abs(x - y) < rule.least - 1e-9) return []
    const more = x - y
    const words = more > 0 ? rule.words.more : rule.words.less
    if (rule.usually === null)
      return [{ rule, more, words, usually: rule.otherwise ?? '', probability: null, verdict: 'untold' }]
    const { number, sense } = rule.usually
    const rises = sense * more > 0
    const usually =
      number === 'stability'
        ? `usually ${rises ? 'more' : 'less'} stable`
        : `usually ${rises ? 'more' : 'less'} glide`
    const [p, q] = [a[number], b[number]]
    if (p === null || q === null) return [{ rule, more, words, usually, probability: null, verdict: 'open' }]
    const above = probabilityAbove(p.value - q.value, Math.hypot(p.sd, q.sd))
    const probability = rises ? above : 1 - above
    const verdict =
      probability >= SETTLED ? 'borne out' : probability <= 1 - SETTLED ? 'not borne out' : 'open'
    return [{ rule, more, words, usually, probability, verdict }]
  })
}

/** How often a hint pointed the right way in the pairs that throws have settled. */
export interface HintCount {
  readonly key: string
  readonly right: number
  readonly settled: number
}

/** Counts every hint over pairs of discs; rules that foretell nothing are left out. */
export function countHints(pairs: Iterable<readonly [InspectedFlyer, InspectedFlyer]>): HintCount[] {
  const counts = new Map(
    HINT_RULES.filter((r) => r.usually !== null).map((r) => [r.key, { right: 0, settled: 0 }]),
  )
  for (const [a, b] of pairs)
    for (const { rule, verdict } of hintsBetween(a, b)) {
      const count = counts.get(rule.key)
      if (!count || (verdict !== 'borne out' && verdict !== 'not borne out')) continue
      count.settled++
      if (verdict === 'borne out') count.right++
    }
  return [...counts].map(([key, count]) => ({ key, ...count }))
}
