import { greatest, group } from 'd3'
import type { Game, ShortObserved } from '../../throw/short.ts'
import { differenceOf, meanInterval, pairedDifference, shareMade } from '../shortGame.ts'
import type { Difference } from '../shortGame.ts'
import { figureOf, lengthOf } from '../statements.ts'
import { isSettled, percent, unanswerable, possibly } from './answer.ts'
import type { Asked, Figure, Found } from './answer.ts'
import type { DotRow } from './picture.ts'

/** One throw of the short game, or a hole, and the disc it was made with. */
export interface ShortPlay extends ShortObserved {
  readonly disc: string
  readonly game: Game
}

/** What an answer is made from, with what was thrown from short range. */
export type AskedOfShort = Asked & { readonly short: readonly ShortPlay[] }

/** What is compared in a game, and how it is said. */
interface Measure {
  readonly of: (t: ShortPlay) => number | null
  readonly unit: 'm' | ''
  /** What measuring alone scatters. */
  readonly leastSd: number
  readonly zero: string
  readonly more: (gap: string, more: string, fewer: string) => string
  /** The same without its size. */
  readonly plainly: (more: string, fewer: string) => string
  readonly what: string
  /** What it is worth, in one plain sentence. */
  readonly worth: (gap: string, more: string, fewer: string) => string
}

const MEASURES: Readonly<Record<Game, Measure>> = {
  ground: {
    of: (t) => t.groundM,
    unit: 'm',
    leastSd: 0.25,
    zero: 'where it first touched',
    more: (gap, a, b) => `${a} skips ${gap} farther than ${b}`,
    plainly: (a, b) => `${a} skips farther than ${b}`,
    what: 'Which of them skips farther',
    worth: (gap, a) => `Land ${a} ${gap} shorter for the same end.`,
  },
  approach: {
    of: (t) => t.pastM,
    unit: 'm',
    leastSd: 0.25,
    zero: 'the mark',
    more: (gap, a, b) => `${a} runs ${gap} farther past the mark than ${b}`,
    plainly: (a, b) => `${a} runs farther past the mark than ${b}`,
    what: 'Which of them runs farther past the mark',
    worth: (gap, a) => `Aim ${a} ${gap} shorter to leave the same putt.`,
  },
  putting: {
    of: (t) => (t.made === null ? null : t.made ? 1 : 0),
    unit: '',
    leastSd: 0.25,
    zero: 'none made',
    more: (gap, a, b) => `${a} is made ${gap} in a hundred more often than ${b}`,
    plainly: (a, b) => `${a} is made more often than ${b}`,
    what: 'Which of them is made more often',
    worth: (gap, a, b) => `In a round of 20 putts ${a} saves about a fifth of ${gap} strokes over ${b}.`,
  },
  holes: {
    of: (t) => t.strokes,
    unit: '',
    leastSd: 0.5,
    zero: '',
    more: (gap, a, b) => `${a} takes ${gap} strokes a hole more than ${b}`,
    plainly: (a, b) => `${a} takes more strokes a hole than ${b}`,
    what: 'Which of them takes fewer strokes',
    worth: (gap, _, b) => `Over 18 holes that is 18 times ${gap} strokes for ${b}.`,
  },
}

/** Strokes of both discs on every hole that was played with both; the last try of each. */
function holesOfBoth(a: readonly ShortPlay[], b: readonly ShortPlay[]): [number, number][] {
  const strokes = (list: readonly ShortPlay[]) => new Map(list.map((t) => [t.hole!, t.strokes!]))
  const [x, y] = [strokes(a), strokes(b)]
  return [...x].flatMap(([hole, s]): [number, number][] => (y.has(hole) ? [[s, y.get(hole)!]] : []))
}

interface Gap {
  readonly more: string
  readonly fewer: string
  readonly gap: Difference
}

/** Every two discs of a game compared, the one with more first. */
function gapsOf(game: Game, plays: readonly ShortPlay[]): Gap[] {
  const { of, leastSd } = MEASURES[game]
  const byDisc = [...group(plays, (t) => t.disc)]
  const values = (list: readonly ShortPlay[]) => list.flatMap((t) => of(t) ?? [])
  return byDisc.flatMap(([a, one], i) =>
    byDisc.slice(i + 1).flatMap(([b, other]): Gap[] => {
      const d =
        game === 'holes'
          ? pairedDifference(holesOfBoth(one, other), leastSd)
          : differenceOf(values(one), values(other), leastSd)
      if (!d) return []
      return d.value >= 0
        ? [{ more: a, fewer: b, gap: d }]
        : [
            {
              more: b,
              fewer: a,
              gap: { ...d, value: -d.value, low: -d.high, high: -d.low, pLarger: 1 - d.pLarger },
            },
          ]
    }),
  )
}

/** How far discs skip. */
export const answerGround = (asked: AskedOfShort): Found =>
  answerGames(asked, ['ground'], 'No skip has been logged yet')
/** Where discs stop, what is made and what a hole takes. */
export const answerApproach = (asked: AskedOfShort): Found =>
  answerGames(asked, ['approach', 'putting', 'holes'], 'No approach, putt or hole has been logged yet')

/**
 * What throws of the short game say.
 *
 * @param games those that answer, the one asked for first
 * @param none what is said where nothing was logged
 */
function answerGames(asked: AskedOfShort, games: readonly Game[], none: string): Found {
  const { words } = asked
  const own = asked.short.filter((t) => asked.discs.includes(t.disc))
  const game = games.find((g) => own.some((t) => t.game === g))
  if (!game)
    return unanswerable(none, ['Throws of the short game are logged in the Field, under Short game.'])
  const measure = MEASURES[game]
  const plays = own.filter((t) => t.game === game)
  const gaps = gapsOf(game, plays)
  const [length, bare] = [lengthOf(words), figureOf(words)]
  const sized = (g: Difference) => {
    if (measure.unit === 'm') return `${length(g.value)} (${bare(g.low)} to ${bare(g.high)})`
    if (game === 'putting')
      return `${(100 * g.value).toFixed(0)} (${(100 * g.low).toFixed(0)} to ${(100 * g.high).toFixed(0)})`
    return `${g.value.toFixed(1)} (${g.low.toFixed(1)} to ${g.high.toFixed(1)})`
  }
  const name = words.name
  const plainly = (more: string, fewer: string) => measure.plainly(name(more), name(fewer))
  const said = ({ more, fewer, gap }: Gap) =>
    measure.more(sized(gap), name(more), name(fewer)).replaceAll('-', '−')
  const widest = greatest(gaps, (g) => g.gap.pLarger)
  const rows = [...group(plays, (t) => t.disc)].map(([disc, list]): DotRow => {
    const values = list.flatMap((t) => measure.of(t) ?? [])
    return {
      disc,
      values,
      mean:
        game === 'putting'
          ? shareMade(list.filter((t) => t.made).length, list.length)
          : meanInterval(values, measure.leastSd),
    }
  })
  const figures: Record<string, Figure> = {}
  for (const { more, fewer, gap } of gaps)
    figures[`${more} over ${fewer}`] = { value: gap.value, low: gap.low, high: gap.high, unit: measure.unit }
  const settled = widest !== undefined && isSettled(widest.gap.pLarger)
  return {
    sentence: settled
      ? said(widest)
      : widest
        ? `${measure.what} is not settled: it leans to ${name(widest.more)}`
        : `${measure.what} cannot be said of so few throws`,
    probability: widest?.gap.pLarger,
    settled,
    possible: widest
      ? possibly(
          plainly(widest.more, widest.fewer),
          gaps.flatMap(({ more, fewer, gap }) => [
            { says: plainly(more, fewer), probability: gap.pLarger },
            { says: plainly(fewer, more), probability: 1 - gap.pLarger },
          ]),
        )
      : [],
    claim: settled ? { says: 'more', of: game, disc: widest.more, than: widest.fewer } : undefined,
    besides: [
      ...(settled
        ? [measure.worth(sizeWords(game, widest.gap.value, length), name(widest.more), name(widest.fewer))]
        : []),
      ...gaps
        .filter((g) => g !== widest && isSettled(g.gap.pLarger))
        .map((g) => `${said(g)}, ${percent(g.gap.pLarger)}`),
    ],
    open: gaps
      .filter((g) => !isSettled(g.gap.pLarger))
      .map(
        (g) =>
          `${name(g.more)} against ${name(g.fewer)}: leaning to ${name(g.more)}, ${percent(g.gap.pLarger)}`,
      ),
    wants: undefined,
    figures,
    picture: { kind: 'dots', unit: measure.unit, zero: measure.zero, rows },
    throws: plays.length,
  }
}

const sizeWords = (game: Game, value: number, length: (m: number) => string): string =>
  game === 'ground' || game === 'approach'
    ? length(value)
    : game === 'putting'
      ? String(Math.round(100 * value))
      : value.toFixed(1)
