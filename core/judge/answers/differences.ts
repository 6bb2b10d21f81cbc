import { greatest, group, mean } from 'd3'
import { labelScale, PER_M } from '../../flight/side.ts'
import type { SpreadLevel } from '../../rating/kin.ts'
import { sharesBetween, Z90 } from '../../rating/normal.ts'
import { probabilityAbove } from '../../rating/outcome.ts'
import { busiestArm } from '../flewLike.ts'
import { ALIKE_WITHIN } from '../resolve.ts'
import { farther } from '../statements.ts'
import {
  ratingIn,
  figureWithin,
  isFarther,
  isSettled,
  listed,
  percent,
  sizedWords,
  throwsOf,
  unanswerable,
  ratedIn,
  possibly,
} from './answer.ts'
import type { Asked, Figure, Found } from './answer.ts'
import type { DifferenceRow } from './picture.ts'
import { themselves } from './themselves.ts'
import { apart, carryTrait, finishTrait, sideTrait } from './traits.ts'

/** Discs that have something in common, and what. */
export interface Group {
  readonly name: string
  readonly discs: readonly string[]
}

/** Groups of the discs asked about by something of their kin, in the order they are named; discs without it stand alone. */
export function groupsBy(asked: Asked, what: 'plastic' | 'run'): Group[] {
  const kinOf = (id: string) => ratedIn(asked, id).kin
  const molds = new Set(asked.discs.map((d) => kinOf(d)?.mold))
  return [
    ...group(asked.discs, (id) => {
      const kin = kinOf(id)
      const own = kin?.[what]
      return own === undefined ? asked.words.name(id) : molds.size > 1 ? `${kin!.mold} ${own}` : own
    }),
  ].map(([name, discs]) => ({ name, discs }))
}

/**
 * Groups with the discs that are worn alike: in the state most groups have a disc in, the newest of those. A group without one keeps
 * all of its discs.
 */
export function wornAlike(asked: Asked, groups: readonly Group[]): { groups: Group[]; aside: string[] } {
  const wearOf = (id: string) => ratedIn(asked, id).kin?.wear ?? 0
  const states = [...new Set(groups.flatMap((g) => g.discs.map(wearOf)))].sort((a, b) => a - b)
  const state = greatest(states, (w) => groups.filter((g) => g.discs.some((d) => wearOf(d) === w)).length)
  const kept = groups.map((g) => {
    const alike = g.discs.filter((d) => wearOf(d) === state)
    return alike.length > 0 ? { ...g, discs: alike } : g
  })
  const shown = new Set(kept.flatMap((g) => g.discs))
  return { groups: kept, aside: groups.flatMap((g) => g.discs.filter((d) => !shown.has(d))) }
}

/** Everything about how groups differ, all of their discs together. */
export interface GroupsCompared {
  readonly groups: readonly Group[]
  readonly rows: readonly DifferenceRow[]
  /** Half a number, m a 100 m. */
  readonly alikeM: number
  /** One group against another: sides, finishes, carries. */
  readonly between: (a: Group, b: Group) => DifferenceRow
}

/** Compares groups of discs with the first of them. */
export function compared(asked: Asked, groups: readonly Group[]): GroupsCompared {
  const { state } = asked
  const discs = groups.flatMap((g) => g.discs)
  const { armMps } = busiestArm(state)!
  const carryOf = carryTrait(armMps)
  const traits = new Map(
    discs.map((id) => [
      id,
      { side: sideTrait(state, id), finish: finishTrait(state, id), carry: carryOf(state, id) },
    ]),
  )
  const between = (a: Group, b: Group): DifferenceRow => {
    const of = (what: 'side' | 'finish' | 'carry') =>
      apart(
        state,
        a.discs.map((d) => traits.get(d)![what]),
        b.discs.map((d) => traits.get(d)![what]),
      )
    const side = of('side')
    const base = mean(b.discs, (d) => traits.get(d)!.side.value)!
    return {
      name: a.name,
      discs: a.discs,
      side,
      ticks: a.discs.map((disc) => ({ disc, value: traits.get(disc)!.side.value - base })),
      pMoreStable: probabilityAbove(side.value, side.sd),
      finish: of('finish'),
      carry: of('carry'),
    }
  }
  const perNumber = mean(discs, (id) => labelScale(ratingIn(asked, id).published).perNumber)!
  return {
    groups,
    rows: groups.map((g) => between(g, groups[0]!)),
    alikeM: ALIKE_WITHIN * perNumber,
    between,
  }
}

/** “one disc each”, “1 to 3 discs each”. */
function copiesWords(counts: readonly number[]): string {
  const [least, most] = [Math.min(...counts), Math.max(...counts)]
  if (most === 1) return 'one disc each'
  return least === most ? `${most} discs each` : `${least} to ${most} discs each`
}

/** How sure the order of two groups is, and which is the more stable. */
const ordered = ({ between }: GroupsCompared, a: Group, b: Group) => {
  const row = between(a, b)
  const p = row.pMoreStable
  return p >= 0.5 ? { above: a, below: b, p, row } : { above: b, below: a, p: 1 - p, row: between(b, a) }
}

/** Probability that two groups lie within half a number of each other. */
const alike = ({ alikeM, between }: GroupsCompared, a: Group, b: Group): number =>
  sharesBetween(between(a, b).side.value, between(a, b).side.sd, [-alikeM, alikeM])[1]!

/** What plastics or runs change: of the discs that were thrown, and of the plastics or runs themselves. */
export function answerDifferences(
  asked: Asked,
  what: {
    readonly one: string
    readonly many: string
    readonly key: 'plastic' | 'run'
    readonly levels: readonly SpreadLevel[]
  },
): Found {
  const { groups, aside } = wornAlike(asked, groupsBy(asked, what.key))
  if (groups.length < 2)
    return unanswerable(`Two ${what.many} at least are compared; these discs are of one`, [
      `Add a disc of another ${what.one} to the trial.`,
    ])
  const all = compared(asked, groups)
  const pairs = groups.flatMap((a, i) => groups.slice(i + 1).map((b) => ordered(all, a, b)))
  const sorted = [...groups].sort((a, b) => -Math.sign(all.between(a, b).side.value))
  const [top, bottom] = [sorted[0]!, sorted.at(-1)!]
  const widest = pairs.find((p) => [p.above, p.below].every((g) => g === top || g === bottom))!
  const allAlike = Math.min(...pairs.map((p) => alike(all, p.above, p.below)))
  // the discs thrown are one thing, what they are copies of another: what is a disc's own is not its plastic's
  const sure = themselves(
    asked.state,
    groups.map((g) => g.discs),
    what.levels,
  )
  const { probability: proved, next } = sure(groups.indexOf(widest.above), groups.indexOf(widest.below))
  const by = copiesWords(groups.map((g) => g.discs.length))
  const ofThem = `of the ${what.many} themselves, by ${by}, ${percent(proved)}`
  const closeness = sizedWords(asked, widest.row.finish)
  const moreWords = (a: Group, b: Group) => `${a.name} flies more stable than ${b.name}`
  const alikeWords = `${listed(groups.map((g) => g.name))} fly alike, to within half a number`
  const { says, ...head } = isSettled(widest.p)
    ? {
        says: moreWords(widest.above, widest.below),
        sentence: `${widest.above.name} flies more stable than ${widest.below.name}: ${isFarther(asked, widest.row)}; ${ofThem}`,
        probability: widest.p,
        settled: true,
        claim: { says: 'order' as const, groups: [widest.above.discs, widest.below.discs] },
      }
    : isSettled(allAlike)
      ? {
          says: alikeWords,
          sentence: `${alikeWords}: ${closeness} between those farthest apart`,
          probability: allAlike,
          settled: true,
          claim: { says: 'alike' as const, groups: groups.map((g) => g.discs) },
        }
      : {
          says: moreWords(widest.above, widest.below),
          sentence: `What the ${what.one} changes is not settled: it leans to ${widest.above.name} more stable than ${widest.below.name}, by ${closeness} at the end of ${PER_M} m`,
          probability: widest.p,
          settled: false,
          claim: undefined,
        }
  const figures: Record<string, Figure> = {}
  for (const r of all.rows.slice(1)) {
    figures[`${r.name} finish against ${groups[0]!.name}`] = figureWithin(r.finish, 'm per 100 m')
    figures[`${r.name} carry against ${groups[0]!.name}`] = figureWithin(r.carry, 'm')
  }
  const said = (p: (typeof pairs)[number]) =>
    `${p.above.name} is more stable than ${p.below.name}, ${percent(p.p)}: ${isFarther(asked, p.row)}`
  const open = pairs.filter((p) => !isSettled(p.p) && !isSettled(alike(all, p.above, p.below)))
  const nearest = [...open].sort((a, b) => b.p - a.p)[0]
  return {
    ...head,
    possible: possibly(says, [
      ...pairs.flatMap((p) => [
        { says: moreWords(p.above, p.below), probability: p.p },
        { says: moreWords(p.below, p.above), probability: 1 - p.p },
      ]),
      { says: alikeWords, probability: allAlike },
    ]),
    besides: [
      `That is of the discs that were thrown. ${widest.above.name} itself is more stable than ${widest.below.name} with ${percent(proved)}, by ${by}; the next ${widest.above.name} than the next ${widest.below.name} with ${percent(next)}`,
      ...pairs.filter((p) => p !== widest && isSettled(p.p)).map(said),
      ...pairs
        .filter((p) => isSettled(alike(all, p.above, p.below)))
        .map(
          (p) =>
            `${p.above.name} and ${p.below.name} fly alike, to within half a number, ${percent(alike(all, p.above, p.below))}`,
        ),
      ...all.rows
        .slice(1)
        .filter((r) => Math.abs(r.carry.value) > Z90 * r.carry.sd)
        .map(
          (r) =>
            `${r.name} carries ${sizedWords(asked, r.carry)} ${r.carry.value > 0 ? 'farther' : 'less far'} than ${groups[0]!.name}`,
        ),
    ],
    open: [
      ...aside.map((d) => `${asked.words.name(d)} is worn otherwise and left aside here.`),
      ...open.map(
        (p) =>
          `${p.above.name} against ${p.below.name}: leaning to ${p.above.name}, ${percent(p.p)}; ${sizedWords(asked, p.row.finish)} ${farther(asked.outcome.fadeSide)}`,
      ),
    ],
    wants: nearest && [nearest.above.discs[0]!, nearest.below.discs[0]!],
    figures,
    picture: { kind: 'differences', base: groups[0]!.name, rows: all.rows, alikeM: all.alikeM },
    throws: throwsOf(asked),
  }
}
