import type { DiscOutcome, DiscRanks, Outcome, PairOutcome } from '../rating/outcome.ts'
import { probabilityAbove } from '../rating/outcome.ts'
import type { Settling } from './resolve.ts'
import { hedgedStability } from './words.ts'
import { Z90 } from '../rating/normal.ts'

/** From here on a probability settles a question. */
export const SETTLED = 0.9
/** From here on a leaning is worth a word. */
const LEANING = 0.75

/** A conclusion with what stands behind it. */
export interface Statement {
  readonly kind: 'extreme' | 'order' | 'open' | 'label'
  /** What it is about, the more stable first. */
  readonly discs: readonly string[]
  /** Probability of what is said; absent for a description. */
  readonly probability?: number
  readonly text: string
  readonly detail: string
  readonly settled: boolean
  /** Counted throws behind it. */
  readonly throws: number
  /** More throws of these discs, in all, that would settle it; absent when settled, Infinity when out of reach. */
  readonly needs?: number
}

const signed = (v: number) => v.toFixed(1).replace('-', '−')

/** The more stable of a pair first. */
function ordered(pair: PairOutcome): { above: string; below: string; p: number; gap: number; sd: number } {
  const { value, sd } = pair.difference
  return value >= 0
    ? { above: pair.a, below: pair.b, p: pair.pAMoreStable, gap: value, sd }
    : { above: pair.b, below: pair.a, p: 1 - pair.pAMoreStable, gap: -value, sd }
}

function orderStatement(
  pair: PairOutcome,
  throwsOf: (disc: string) => number,
  name: (disc: string) => string,
  settling: Settling | undefined,
): Statement {
  const { above, below, p, gap, sd } = ordered(pair)
  const throws = throwsOf(above) + throwsOf(below)
  const base = { discs: [above, below], probability: p, throws }
  if (p >= SETTLED) {
    const [low, high] = [Math.max(0, gap - Z90 * sd), gap + Z90 * sd]
    return {
      ...base,
      kind: 'order',
      settled: true,
      text: `${name(above)} is more stable than ${name(below)}`,
      detail: `by ${low.toFixed(1)} to ${high.toFixed(1)} on the turn + fade scale, ${throws} throws`,
    }
  }
  return {
    ...base,
    kind: 'open',
    settled: false,
    ...(settling && { needs: settling.throws }),
    text: `${name(above)} against ${name(below)} is not settled`,
    detail:
      settling?.throws === Number.POSITIVE_INFINITY
        ? `too close for throws to tell; they differ by about ${gap.toFixed(1)} ± ${(Z90 * sd).toFixed(1)}`
        : `leaning to ${name(above)}${settling ? `; ${needed(settling)} would settle it` : ''}`,
  }
}

/** “About 12 more throws of the two, mostly flat into the wind”. */
function needed({ throws, kinds }: Settling): string {
  const [first] = kinds
  const count = throws === 1 ? 'one more throw' : `about ${throws} more throws of the two`
  return first ? `${count}, ${kinds.length > 1 ? 'mostly ' : ''}${kindWords(first.kind)},` : count
}

/** A kind of throw in words: release angle and wind leg. */
function kindWords({ hyzerRad, air }: Settling['kinds'][number]['kind']): string {
  const deg = Math.round((hyzerRad * 180) / Math.PI)
  const angle = deg === 0 ? 'flat' : `${Math.abs(deg)}° ${deg > 0 ? 'hyzer' : 'anhyzer'}`
  const along = air.windAlongMps
  return Math.abs(along) < 0.5 ? angle : `${angle} ${along < 0 ? 'into' : 'with'} the wind`
}

/** Which disc is the most, or the least, stable of those asked about. */
function extremeStatement(
  ranks: readonly DiscRanks[],
  which: 'most' | 'least',
  throws: number,
  name: (disc: string) => string,
): Statement {
  const share = (r: DiscRanks) => r.shares[which === 'most' ? 0 : r.shares.length - 1]!
  const [first, second] = [...ranks].sort((a, b) => share(b) - share(a)) as [DiscRanks, DiscRanks]
  const p = share(first)
  const settled = p >= SETTLED
  const count = COUNT_WORDS[ranks.length] ?? String(ranks.length)
  return {
    kind: 'extreme',
    discs: [first.disc],
    probability: p,
    settled,
    throws,
    text: `${name(first.disc)} ${settled ? 'is' : 'may be'} the ${which} stable of the ${count}`,
    detail: settled
      ? `${throws} throws`
      : `${name(second.disc)} may be too, ${Math.floor(100 * share(second))} %`,
  }
}
const COUNT_WORDS: Readonly<Record<number, string>> = {
  3: 'three',
  4: 'four',
  5: 'five',
  6: 'six',
  7: 'seven',
}

/** How a disc sits against its published stability. */
export function labelStatement(d: DiscOutcome, name: (disc: string) => string): Statement {
  const published = d.published.turn + d.published.fade
  const gap = d.stability.value - published
  const pMore = probabilityAbove(gap, d.stability.sd)
  const p = Math.max(pMore, 1 - pMore)
  const base = { kind: 'label' as const, discs: [d.disc], throws: d.throws }
  const reads = `reads ${signed(d.stability.value)} against ${signed(published)} published, ${hedgedStability(d.stability.value, d.stability.sd)}`
  if (d.throws === 0)
    return {
      ...base,
      settled: false,
      text: `${name(d.disc)} has not been thrown`,
      detail: 'nothing but its label is known',
    }
  if (p >= SETTLED && Math.abs(gap) >= 0.25)
    return {
      ...base,
      probability: p,
      settled: true,
      text: `${name(d.disc)} is ${gap > 0 ? 'more' : 'less'} stable than its label`,
      detail: reads,
    }
  const half = Z90 * d.stability.sd
  if (half <= 0.75 && Math.abs(gap) <= 0.5)
    return {
      ...base,
      settled: true,
      text: `${name(d.disc)} is true to its label within ${half.toFixed(1)}`,
      detail: reads,
    }
  if (p >= LEANING)
    return {
      ...base,
      probability: p,
      settled: false,
      text: `${name(d.disc)} may be ${gap > 0 ? 'more' : 'less'} stable than its label`,
      detail: reads,
    }
  return {
    ...base,
    settled: false,
    text: `Nothing speaks against the label of ${name(d.disc)}`,
    detail: reads,
  }
}

/**
 * What can be said of a trial: which disc is the most stable (and the least, once that is sure), the order of
 * neighbours on the ladder, settled ones first and open ones by how little they lack, then each disc against its
 * label.
 *
 * @param name how a disc is called in a sentence
 * @param settlings what would settle open pairs, where that has been worked out
 * @param ranks rank distribution of the discs asked about; discs without one, such as the control disc, are left aside
 */
export function statements(
  outcome: Outcome,
  ranks: readonly DiscRanks[],
  name: (disc: string) => string,
  settlings: readonly Settling[] = [],
): Statement[] {
  const asked = new Set(ranks.map((r) => r.disc))
  const ladder = outcome.discs
    .filter((d) => asked.has(d.disc))
    .sort((a, b) => b.stability.value - a.stability.value)
  const throwsOf = (disc: string) => outcome.discs.find((d) => d.disc === disc)!.throws
  const pairOf = (a: string, b: string) =>
    outcome.pairs.find((p) => (p.a === a && p.b === b) || (p.a === b && p.b === a))!
  const neighbours = ladder
    .slice(1)
    .map((d, i) => {
      const above = ladder[i]!.disc
      return orderStatement(
        pairOf(above, d.disc),
        throwsOf,
        name,
        settlings.find((s) => (s.a === above && s.b === d.disc) || (s.a === d.disc && s.b === above)),
      )
    })
    .sort((a, b) => b.probability! - a.probability!)
  const thrown = ladder.reduce((n, d) => n + d.throws, 0)
  const extremes =
    ladder.length < 3
      ? []
      : (['most', 'least'] as const)
          .map((which) => extremeStatement(ranks, which, thrown, name))
          .filter((s, i) => i === 0 || s.settled)
  return [...extremes, ...neighbours, ...ladder.map((d) => labelStatement(d, name))]
}
