import { DEGREE } from '../flight/units.ts'
import { angleWords } from '../throw/words.ts'
import type { LeftOrRight } from '../flight/hand.ts'
import { labelScale, PER_M } from '../flight/side.ts'
import type { DiscOutcome, DiscRanks, Estimate, Outcome, PairOutcome } from '../rating/outcome.ts'
import { pairOf, probabilityAbove, probabilityWithin } from '../rating/outcome.ts'
import { ALIKE_WITHIN, alikeProbability } from './resolve.ts'
import type { Settling } from './resolve.ts'
import { hedgedStability } from './words.ts'
import { Z90 } from '../rating/normal.ts'

/** From here on a probability settles a question. */
export const SETTLED = 0.9
/** From here on a leaning is worth a word. */
const LEANING = 0.75

/** A conclusion with what stands behind it. */
export interface Statement {
  readonly kind: 'extreme' | 'order' | 'alike' | 'open' | 'label'
  /** What it is about, the more stable first. */
  readonly discs: readonly string[]
  /** Probability of what is said; absent for a description. */
  readonly probability?: number
  readonly text: string
  readonly detail: string
  readonly settled: boolean
  /** Counted throws behind it. */
  readonly throws: number
}

/** How things are called in sentences. */
export interface Wording {
  readonly name: (disc: string) => string
  /** A length, given in m, with its unit. */
  readonly length?: (m: number, digits?: number) => string
  /** The same without its unit. */
  readonly figure?: (m: number) => string
  /** A speed, given in m/s, with its unit. */
  readonly speed?: (mps: number) => string
}

const metres = (m: number) => m.toFixed(1)
/** A length, given in m, as it is said, with its unit. */
export const lengthOf = ({ length = (m, digits = 1) => `${m.toFixed(digits)} m` }: Wording) => length
/** A speed as it is said. */
export const speedOf = ({ speed = (mps: number) => `${mps.toFixed(0)} m/s` }: Wording) => speed
/** A length, given in m, as a figure without its unit. */
export const figureOf = ({ figure = metres }: Wording) => figure

/** A probability as people say it: never quite certain, and never rounded up past a bound it has not reached. */
export const percent = (p: number): string => `${Math.min(99, Math.max(1, Math.floor(100 * p + 1e-9)))} %`

/** A figure with a real minus, and without one where nothing is left of it. */
export function signed(v: number, digits = 1): string {
  const shown = v.toFixed(digits)
  return Number(shown) === 0 ? shown.replace('-', '') : shown.replace('-', '−')
}

/** Which side the fade, or the turn, is on: seen by the thrower where all throws fade to one. */
export const sideWord = (
  side: LeftOrRight | undefined,
  fade: boolean,
): 'left' | 'right' | 'fade' | 'turn' => {
  if (side === undefined) return fade ? 'fade' : 'turn'
  return (side === 'left') === fade ? 'left' : 'right'
}

/** “farther left”, “farther to the fade side”. */
export const farther = (side: LeftOrRight | undefined, more = true): string => {
  const word = sideWord(side, more)
  return side === undefined ? `farther to the ${word} side` : `farther ${word}`
}

/** “4.1 m (2.5 to 5.7) farther left”. */
function asideWords({ value, sd }: Estimate, side: LeftOrRight | undefined, words: Wording): string {
  const more = value >= 0
  const [low, high] = [Math.abs(value) - Z90 * sd, Math.abs(value) + Z90 * sd].map((m) =>
    signed(Number(figureOf(words)(m))),
  )
  return `${lengthOf(words)(Math.abs(value))} (${low} to ${high}) ${farther(side, more)}`
}
/** Whether a distance is nothing by the figures it is written with. */
const isNothing = ({ value }: Estimate, words: Wording): boolean =>
  Number(figureOf(words)(Math.abs(value))) === 0
/** “within 1.6 m”: how far off where something is may be, nine times in ten. */
const withinWords = ({ sd }: Estimate, words: Wording): string => `within ${lengthOf(words)(Z90 * sd)}`
/** “finishes 4.1 m (2.5 to 5.7) farther left”, a 100 m flight. */
const finishWords = (finish: Estimate, side: LeftOrRight | undefined, words: Wording): string =>
  `finishes ${asideWords(finish, side, words)}`

const negative = ({ value, sd }: Estimate): Estimate => ({ value: -value, sd })

/** How far one disc flies to the fade side of another, m a 100 m: as the mean of a flight, and at its end. */
export interface Gap {
  readonly side: Estimate
  readonly finish: Estimate
}

/**
 * What shows that one disc is more stable than another: where it finishes; where that does not show it, or is to the other side, the mean
 * of its flight, by which they are told apart.
 */
export function shownBy({ side, finish }: Gap): 'finish' | 'side' {
  const shows = ({ value, sd }: Estimate) => Math.abs(value) > Z90 * sd
  return finish.value * side.value > 0 && (shows(finish) || !shows(side)) ? 'finish' : 'side'
}

/** “it finishes 4.1 m (2.5 to 5.7) farther left in a flight of 100 m”, or as the mean of such a flight. */
export function gapWords(gap: Gap, fadeSide: LeftOrRight | undefined, words: Wording): string {
  const flight = `a flight of ${lengthOf(words)(PER_M, 0)}`
  const by = shownBy(gap)
  if (isNothing(gap[by], words))
    return by === 'finish'
      ? `it finishes where the other does, ${withinWords(gap.finish, words)}, in ${flight}`
      : `it flies where the other does, ${withinWords(gap.side, words)}, as the mean of ${flight}`
  return by === 'finish'
    ? `it ${finishWords(gap.finish, fadeSide, words)} in ${flight}`
    : `it flies ${asideWords(gap.side, fadeSide, words)} as the mean of ${flight}`
}

/** The more stable of a pair first. */
function ordered(pair: PairOutcome): { above: string; below: string; p: number; gap: Gap } {
  const { difference: side, finish } = pair
  return side.value >= 0
    ? { above: pair.a, below: pair.b, p: pair.pAMoreStable, gap: { side, finish } }
    : {
        above: pair.b,
        below: pair.a,
        p: 1 - pair.pAMoreStable,
        gap: { side: negative(side), finish: negative(finish) },
      }
}

function orderStatement(
  pair: PairOutcome,
  { discs, fadeSide }: Outcome,
  words: Wording,
  settling: Settling | undefined,
): Statement {
  const { name } = words
  const of = (disc: string) => discs.find((d) => d.disc === disc)!
  const { above, below, p, gap } = ordered(pair)
  const throws = of(above).throws + of(below).throws
  const base = { discs: [above, below], throws }
  const flies = gapWords(gap, fadeSide, words)
  const alike = alikeProbability(pair.difference, of(pair.a).published, of(pair.b).published)
  if (p >= SETTLED)
    return {
      ...base,
      probability: p,
      kind: 'order',
      settled: true,
      text: `${name(above)} is more stable than ${name(below)}`,
      detail: `${flies}; ${throws} throws`,
    }
  if (alike >= SETTLED)
    return {
      ...base,
      probability: alike,
      kind: 'alike',
      settled: true,
      text: `${name(above)} and ${name(below)} fly alike, to within half a number`,
      detail: `${flies}; ${throws} throws`,
    }
  return {
    ...base,
    probability: p,
    kind: 'open',
    settled: false,
    text: `${name(above)} against ${name(below)} is not settled`,
    detail: `leaning to ${name(above)}${settling && settling.chances.length > 0 ? `; ${needed(settling)}` : ''}`,
  }
}

/** “12 more throws of the two, mostly flat into the wind, settle it with 35 %, 24 with 52 %, 48 with 68 %”. */
function needed({ chances, kinds }: Settling): string {
  const [kind] = kinds
  const [first, ...more] = chances
  const which = kind ? `, ${kinds.length > 1 ? 'mostly ' : ''}${kindWords(kind.kind)},` : ''
  return [
    `${first!.throws} more throws of the two${which} settle it with ${percent(first!.chance)}`,
    ...more.map(({ throws, chance }) => `${throws} with ${percent(chance)}`),
  ].join(', ')
}

/** A kind of throw in words: release angle and wind leg. */
function kindWords({ hyzerRad, air }: Settling['kinds'][number]['kind']): string {
  const angle = angleWords(Math.round(hyzerRad / DEGREE))
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
  const count = countWord(ranks.length)
  return {
    kind: 'extreme',
    discs: [first.disc],
    probability: p,
    settled,
    throws,
    text: `${name(first.disc)} ${settled ? 'is' : 'may be'} the ${which} stable of the ${count}`,
    detail: settled ? `${throws} throws` : `${name(second.disc)} may be too, ${percent(share(second))}`,
  }
}
/** A small number in words. */
export const countWord = (n: number): string => COUNT_WORDS[n] ?? String(n)
const COUNT_WORDS: Readonly<Record<number, string>> = {
  3: 'three',
  4: 'four',
  5: 'five',
  6: 'six',
  7: 'seven',
}

/** How a disc flies against its published numbers. */
export function labelStatement(
  d: Pick<DiscOutcome, 'disc' | 'published' | 'side' | 'finish' | 'stability' | 'throws'>,
  fadeSide: LeftOrRight | undefined,
  words: Wording,
): Statement {
  const { name } = words
  const label = labelScale(d.published)
  const gap = d.stability.value - label.stability
  const { sd } = d.stability
  const pMore = probabilityAbove(gap, sd)
  const p = Math.max(pMore, 1 - pMore)
  const within = probabilityWithin(gap, sd, ALIKE_WITHIN)
  const base = { kind: 'label' as const, discs: [d.disc], throws: d.throws }
  const finish = { value: d.finish.value - label.finish, sd: d.finish.sd }
  const reads = `${hedgedStability(d.stability.value, sd)}; ${
    isNothing(finish, words)
      ? `finishes where its label says, ${withinWords(finish, words)}`
      : `${finishWords(finish, fadeSide, words)} than its label says`
  }`
  if (d.throws === 0)
    return {
      ...base,
      settled: false,
      text: `${name(d.disc)} has not been thrown`,
      detail: 'nothing but its label is known',
    }
  if (within >= SETTLED)
    return {
      ...base,
      probability: within,
      settled: true,
      text: `${name(d.disc)} flies as its label says, to within half a number`,
      detail: reads,
    }
  if (p >= SETTLED)
    return {
      ...base,
      probability: p,
      settled: true,
      text: `${name(d.disc)} is ${gap > 0 ? 'more' : 'less'} stable than its label`,
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
 * @param words how discs and lengths are called in a sentence
 * @param settlings what would settle open pairs, where that has been worked out
 * @param ranks rank distribution of the discs asked about; discs without one, such as the control disc, are left aside
 */
export function statements(
  outcome: Outcome,
  ranks: readonly DiscRanks[],
  words: Wording,
  settlings: readonly Settling[] = [],
): Statement[] {
  const asked = new Set(ranks.map((r) => r.disc))
  const ladder = outcome.discs.filter((d) => asked.has(d.disc)).sort((a, b) => b.side.value - a.side.value)
  const neighbours = ladder
    .slice(1)
    .map((d, i) => {
      const above = ladder[i]!.disc
      return orderStatement(
        pairOf(outcome, above, d.disc),
        outcome,
        words,
        settlings.find((s) => (s.a === above && s.b === d.disc) || (s.a === d.disc && s.b === above)),
      )
    })
    .sort((a, b) => b.probability! - a.probability!)
  const thrown = ladder.reduce((n, d) => n + d.throws, 0)
  const extremes =
    ladder.length < 3
      ? []
      : (['most', 'least'] as const)
          .map((which) => extremeStatement(ranks, which, thrown, words.name))
          .filter((s, i) => i === 0 || s.settled)
  return [...extremes, ...neighbours, ...ladder.map((d) => labelStatement(d, outcome.fadeSide, words))]
}
