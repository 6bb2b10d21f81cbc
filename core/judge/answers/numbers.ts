import { HALF_NUMBER, SEEN_NUMBERS } from '../../flight/disc.ts'
import { LABEL_BOUNDS, LABEL_FIGURES } from '../../plan/aims.ts'
import type { LabelFigure } from '../../plan/aims.ts'
import { CONVENTIONS } from '../../plan/questions.ts'
import type { Convention } from '../../plan/questions.ts'
import { WEAR_PRIOR } from '../../rating/kin.ts'
import { sharesBetween } from '../../rating/normal.ts'
import type { Estimate } from '../../rating/outcome.ts'
import { offLabel } from '../asked.ts'
import { effectsOf } from '../effects.ts'
import { signed } from '../statements.ts'
import { hedgedStability } from '../words.ts'
import {
  ratingIn,
  figureWithin,
  inNumbers,
  isSettled,
  listed,
  percent,
  throwsOf,
  ratedIn,
  possibly,
} from './answer.ts'
import type { Asked, Claimed, Figure, Found } from './answer.ts'
import { numberDraws, shareOf } from './draws.ts'
import type { ClaimRow } from './picture.ts'

/** How worn the disc is that published numbers describe, 0 new … 1 beaten. */
const DESCRIBED: Readonly<Record<Convention, number>> = { fresh: 0, seasoned: 1 / 3 }

/** What wear from new to beaten does to each number, as the throws and belief have it. */
function wearOf({ state }: Asked): readonly Estimate[] {
  const effect = effectsOf(state).find((e) => e.level === 'wear')
  return effect
    ? SEEN_NUMBERS.map((n) => effect[n])
    : WEAR_PRIOR.mean.map((value, k) => ({ value, sd: WEAR_PRIOR.sd[k]! }))
}

/** How far the state of a disc is from the one its label describes. */
const wornBeyond = (asked: Asked, disc: string): number => {
  const { kin } = ratedIn(asked, disc)
  return kin?.wear === undefined ? 0 : kin.wear - DESCRIBED[asked.convention]
}

/** What a disc is called here: one that is not in the state its label describes is read as it would be in that state, and it says so. */
const named = (asked: Asked, disc: string): string =>
  `${asked.words.name(disc)}${wornBeyond(asked, disc) === 0 ? '' : ` (as it would be ${asked.convention})`}`

/** How far off its label a figure of a disc is, in the state the label describes. */
function offAsDescribed(asked: Asked, disc: string, of: LabelFigure): Estimate {
  const seen = offLabel(ratingIn(asked, disc), of)
  const worn = wornBeyond(asked, disc)
  if (worn === 0) return seen
  const wear = wearOf(asked)
  const parts = of === 'stability' ? [wear[1]!, wear[2]!] : [wear[SEEN_NUMBERS.indexOf(of)]!]
  return {
    value: seen.value - worn * parts.reduce((s, p) => s + p.value, 0),
    sd: Math.hypot(seen.sd, ...parts.map((p) => worn * p.sd)),
  }
}

/** Probability that every number of a disc lies within half of its label. */
function allWithin(asked: Asked, disc: string): number {
  const { published } = ratingIn(asked, disc)
  const wear = wearOf(asked)
  const worn = wornBeyond(asked, disc)
  return shareOf(numberDraws(asked.state, [disc]), (draw) =>
    SEEN_NUMBERS.every((n, k) => Math.abs(draw[k]! - worn * wear[k]!.value - published[n]) <= HALF_NUMBER),
  )
}

interface Verdict {
  readonly disc: string
  readonly rows: readonly ClaimRow[]
  readonly pTrue: number
}

function verdictOf(asked: Asked, disc: string): Verdict {
  const rows = LABEL_FIGURES.map((of): ClaimRow => {
    const off = offAsDescribed(asked, disc, of)
    const [below, within, above] = sharesBetween(off.value, off.sd, LABEL_BOUNDS) as [number, number, number]
    const { published } = ratingIn(asked, disc)
    const label = of === 'stability' ? published.turn + published.fade : published[of]
    return {
      disc,
      figure: of,
      published: label,
      seen: { value: label + off.value, sd: off.sd },
      ...(wornBeyond(asked, disc) !== 0 && { readAs: asked.convention }),
      below,
      within,
      above,
    }
  })
  return { disc, rows, pTrue: allWithin(asked, disc) }
}

const offBy = (r: ClaimRow) => Math.max(r.below, r.above)
const surest = (rows: readonly ClaimRow[]) => rows.reduce((x, y) => (offBy(y) > offBy(x) ? y : x))
const published = (r: ClaimRow) => signed(r.published)

/** A figure that is surely more than half a number off. */
const offWords = (name: string, r: ClaimRow): string =>
  r.figure === 'stability'
    ? `${name} flies ${r.above > r.below ? 'more' : 'less'} stable than its label says, by more than half a number: ${inNumbers(r.seen)} for ${published(r)} of turn + fade`
    : `${name} is not true to its numbers: its ${r.figure} is ${inNumbers(r.seen)} for a published ${published(r)}`

/** Whether discs are true to their labels, figure by figure; within half a number is true. */
export function answerNumbers(asked: Asked): Found {
  const { words, convention } = asked
  const verdicts = asked.discs.map((d) => verdictOf(asked, d))
  const rows = verdicts.flatMap((v) => v.rows)
  const off = surest(rows)
  const isTrue = verdicts.filter((v) => isSettled(v.pTrue))
  const names = (list: readonly Verdict[]) => listed(list.map((v) => named(asked, v.disc)))
  const one = verdicts.length === 1
  const leaning = Math.min(...verdicts.map((v) => v.pTrue))
  const settledOff = isSettled(offBy(off))
  const allTrue = `${names(verdicts)} ${one ? 'is true to its' : 'are true to their'} numbers`
  const notTrue = one
    ? `${names(verdicts)} is not true to its numbers`
    : `Not all of ${names(verdicts)} are true to their numbers`
  const halfOff = (r: ClaimRow, above: boolean) =>
    `The ${r.figure} of ${named(asked, r.disc)} is more than half a number ${above ? 'above' : 'below'} its label`
  const { says, ...head } = settledOff
    ? {
        sentence: offWords(named(asked, off.disc), off),
        probability: offBy(off),
        says: halfOff(off, off.above > off.below),
      }
    : isTrue.length === verdicts.length
      ? {
          sentence: `${allTrue}, each to within half a number`,
          probability: leaning,
          says: allTrue,
        }
      : {
          sentence: `Whether ${names(verdicts)} ${one ? 'is true to its' : 'are true to their'} numbers is not settled`,
          probability: Math.max(leaning, 1 - leaning),
          says: leaning >= 0.5 ? allTrue : notTrue,
        }
  const claim: Claimed | undefined = settledOff
    ? { says: 'off its label', disc: off.disc, figure: off.figure, above: off.above > off.below }
    : isTrue.length === verdicts.length
      ? { says: 'true to its label', discs: asked.discs }
      : undefined
  const figures: Record<string, Figure> = {}
  for (const r of rows) figures[`${r.disc} ${r.figure}`] = figureWithin(r.seen, '')
  return {
    ...head,
    settled: claim !== undefined,
    claim,
    possible: possibly(says, [
      { says: allTrue, probability: leaning },
      { says: notTrue, probability: 1 - leaning },
      ...rows.flatMap((r) => [
        { says: halfOff(r, true), probability: r.above },
        { says: halfOff(r, false), probability: r.below },
      ]),
    ]),
    besides: [
      ...verdicts.map((v) => {
        const stability = v.rows.find((r) => r.figure === 'stability')!
        return `${named(asked, v.disc)}: ${hedgedStability(stability.seen.value, stability.seen.sd)}; true in every number ${percent(v.pTrue)}`
      }),
      ...rows
        .filter((r) => isSettled(Math.max(r.below, r.within, r.above)))
        .map((r) =>
          isSettled(r.within)
            ? `The ${r.figure} of ${named(asked, r.disc)} is true to its label within half a number, ${percent(r.within)}`
            : `${halfOff(r, r.above > r.below)}, ${percent(Math.max(r.above, r.below))}`,
        ),
      ...(asked.discs.some((d) => wornBeyond(asked, d) !== 0)
        ? [
            `Published numbers are read as of a ${convention} disc: what wear does is taken out.`,
            ...CONVENTIONS.filter((c) => c !== convention).map(
              (c) =>
                `Read as of a ${c} disc: ${listed(asked.discs.map((d) => `${words.name(d)} true in every number ${percent(allWithin({ ...asked, convention: c }, d))}`))}`,
            ),
          ]
        : []),
    ],
    open: rows
      .filter((r) => !isSettled(Math.max(r.below, r.within, r.above)))
      .map(
        (r) =>
          `${r.figure} of ${named(asked, r.disc)}: ${inNumbers(r.seen)}; within half of ${published(r)} ${percent(r.within)}`,
      ),
    wants: undefined,
    figures,
    picture: { kind: 'claims', rows },
    throws: throwsOf(asked),
  }
}
