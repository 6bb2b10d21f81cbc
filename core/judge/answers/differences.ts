import { greatest, group, mean } from 'd3'
import { labelScale, PER_M } from '../../flight/side.ts'
import { DISC_PRIOR_SD } from '../../rating/evidence.ts'
import { SHARE } from '../../rating/kin.ts'
import type { SpreadLevel } from '../../rating/kin.ts'
import { sideIn } from '../../rating/sides.ts'
import { sharesBetween, Z90 } from '../../rating/normal.ts'
import { probabilityAbove } from '../../rating/outcome.ts'
import type { Estimate } from '../../rating/outcome.ts'
import { discOf as discOfFit } from '../asThrown.ts'
import { busiestArm } from '../flewLike.ts'
import { ALIKE_WITHIN } from '../resolve.ts'
import { farther } from '../statements.ts'
import {
  discOf,
  figure,
  finishes,
  isSettled,
  listed,
  percent,
  sized,
  throwsOf,
  unanswerable,
  ratedDisc,
} from './answer.ts'
import type { Answer, Asked, Figure } from './answer.ts'
import { carryDraws, estimateOf, numberDraws, sideDraws } from './draws.ts'
import type { DifferenceRow } from './picture.ts'

/** Discs that have something in common, and what. */
export interface Group {
  readonly name: string
  readonly discs: readonly string[]
}

/** Groups of the discs asked about by something of their kin, in the order they are named; discs without it stand alone. */
export function groupsBy(asked: Asked, what: 'plastic' | 'run'): Group[] {
  const kinOf = (id: string) => ratedDisc(asked, id).kin
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
  const wearOf = (id: string) => ratedDisc(asked, id).kin?.wear ?? 0
  const states = [...new Set(groups.flatMap((g) => g.discs.map(wearOf)))].sort((a, b) => a - b)
  const state = greatest(states, (w) => groups.filter((g) => g.discs.some((d) => wearOf(d) === w)).length)
  const kept = groups.map((g) => {
    const alike = g.discs.filter((d) => wearOf(d) === state)
    return alike.length > 0 ? { ...g, discs: alike } : g
  })
  const shown = new Set(kept.flatMap((g) => g.discs))
  return { groups: kept, aside: groups.flatMap((g) => g.discs.filter((d) => !shown.has(d))) }
}

/** Everything about how groups differ, by draws of all of their discs together. */
export interface Compared {
  readonly groups: readonly Group[]
  readonly rows: readonly DifferenceRow[]
  /** Half a number, m a 100 m. */
  readonly alikeM: number
  /** One group against another: sides, finishes, carries. */
  readonly between: (a: Group, b: Group) => DifferenceRow
}

/** Compares groups of discs with the first of them. */
export function compared(asked: Asked, groups: readonly Group[]): Compared {
  const { state } = asked
  const discs = groups.flatMap((g) => g.discs)
  const draws = numberDraws(state, discs)
  const sides = sideDraws(state, discs, draws, 'side')
  const ends = sideDraws(state, discs, draws, 'finish')
  const carries = carryDraws(state, discs, draws, busiestArm(state)!.armMps)
  const at = (g: Group) => g.discs.map((d) => discs.indexOf(d))
  const of = (list: readonly Float64Array[], g: Group) => list.map((draw) => mean(at(g), (i) => draw[i])!)
  const side = (id: string) => discOf(asked, id).side.value
  const between = (a: Group, b: Group): DifferenceRow => {
    const less = (list: readonly Float64Array[]): Estimate => {
      const [one, other] = [of(list, a), of(list, b)]
      return estimateOf(one.map((v, i) => v - other[i]!))
    }
    // of sides the mean is the outcome’s own, so that a row and the ladder say the same
    const value = mean(a.discs, side)! - mean(b.discs, side)!
    const { sd } = less(sides)
    return {
      name: a.name,
      discs: a.discs,
      side: { value, sd },
      ticks: a.discs.map((disc) => ({ disc, value: side(disc) - mean(b.discs, side)! })),
      pMoreStable: probabilityAbove(value, sd),
      finish: less(ends),
      carry: less(carries),
    }
  }
  const perNumber = mean(discs, (id) => labelScale(discOf(asked, id).published).perNumber)!
  return {
    groups,
    rows: groups.map((g) => between(g, groups[0]!)),
    alikeM: ALIKE_WITHIN * perNumber,
    between,
  }
}

/** How sure the order of two groups is, and which is the more stable. */
const ordered = ({ between }: Compared, a: Group, b: Group) => {
  const row = between(a, b)
  const p = row.pMoreStable
  return p >= 0.5 ? { above: a, below: b, p, row } : { above: b, below: a, p: 1 - p, row: between(b, a) }
}

/** Probability that two groups lie within half a number of each other. */
const alike = ({ alikeM, between }: Compared, a: Group, b: Group): number =>
  sharesBetween(between(a, b).side.value, between(a, b).side.sd, [-alikeM, alikeM])[1]!

/**
 * How sure it is of the groups themselves, discs of them nobody has thrown as much as those thrown: what is seen between discs beyond
 * their labels is the groups' in the share that is believed of the variance between discs, and the discs' own in the rest.
 *
 * @param levels to which levels of kin a group belongs
 */
function asGroups(
  asked: Asked,
  { between }: Compared,
  a: Group,
  b: Group,
  levels: readonly SpreadLevel[],
): number {
  const { state } = asked
  const variance = mean([...a.discs, ...b.discs], (id) =>
    sideIn(state, discOfFit(state, id).at).sideBy.reduce((s, w, k) => s + (w * DISC_PRIOR_SD[k]!) ** 2, 0),
  )!
  const of = (level: SpreadLevel) => state.spread[level] * SHARE[level] * variance
  const groups = levels.reduce((s, l) => s + of(l), 0)
  const own = of('disc') * (1 / a.discs.length + 1 / b.discs.length) * 0.5
  const share = groups / (groups + own)
  const label = (g: Group) => mean(g.discs, (id) => labelScale(discOf(asked, id).published).side)!
  const labels = label(a) - label(b)
  const { side } = between(a, b)
  const value = labels + share * (side.value - labels)
  const sd = Math.sqrt(share ** 2 * side.sd ** 2 + 2 * groups * (1 - share))
  return probabilityAbove(value, sd)
}

/** What plastics or runs change, and how much of it these particular discs may be. */
export function answerDifferences(
  question: 'plastics' | 'runs',
  asked: Asked,
  what: {
    readonly one: string
    readonly many: string
    readonly key: 'plastic' | 'run'
    readonly levels: readonly SpreadLevel[]
  },
): Answer {
  const { groups, aside } = wornAlike(asked, groupsBy(asked, what.key))
  if (groups.length < 2)
    return unanswerable(question, `Two ${what.many} at least are compared; these discs are of one`, [
      `Add a disc of another ${what.one} to the trial.`,
    ])
  const all = compared(asked, groups)
  const pairs = groups.flatMap((a, i) => groups.slice(i + 1).map((b) => ordered(all, a, b)))
  const sorted = [...groups].sort((a, b) => -Math.sign(all.between(a, b).side.value))
  const [top, bottom] = [sorted[0]!, sorted.at(-1)!]
  const widest = pairs.find((p) => [p.above, p.below].every((g) => g === top || g === bottom))!
  const allAlike = Math.min(...pairs.map((p) => alike(all, p.above, p.below)))
  const single = groups.some((g) => g.discs.length === 1)
  const proved = asGroups(asked, all, widest.above, widest.below, what.levels)
  // one disc cannot prove a plastic: what is its own cannot be told from what is the plastic's
  const caveat = single
    ? `; of the ${what.many} themselves, by ${groups.every((g) => g.discs.length === 1) ? 'one disc each' : 'single discs'}, ${percent(proved)}`
    : ''
  const closeness = sized(asked, widest.row.finish)
  const head = isSettled(widest.p)
    ? {
        sentence: `${widest.above.name} flies more stable than ${widest.below.name}: it ${finishes(asked, widest.row.finish)}${caveat}`,
        probability: widest.p,
        settled: true,
        claim: { says: 'order' as const, groups: [widest.above.discs, widest.below.discs] },
      }
    : isSettled(allAlike)
      ? {
          sentence: `${listed(groups.map((g) => g.name))} fly alike, to within half a number: ${closeness} between those farthest apart`,
          probability: allAlike,
          settled: true,
          claim: { says: 'alike' as const, groups: groups.map((g) => g.discs) },
        }
      : {
          sentence: `What the ${what.one} changes is not settled: it leans to ${widest.above.name} more stable than ${widest.below.name}, by ${closeness} at the end of ${PER_M} m`,
          probability: widest.p,
          settled: false,
          claim: undefined,
        }
  const figures: Record<string, Figure> = {}
  for (const r of all.rows.slice(1)) {
    figures[`${r.name} finish against ${groups[0]!.name}`] = figure(r.finish, 'm per 100 m')
    figures[`${r.name} carry against ${groups[0]!.name}`] = figure(r.carry, 'm')
  }
  const said = (p: (typeof pairs)[number]) =>
    `${p.above.name} is more stable than ${p.below.name}, ${percent(p.p)}: it ${finishes(asked, p.row.finish)}`
  const open = pairs.filter((p) => !isSettled(p.p) && !isSettled(alike(all, p.above, p.below)))
  const nearest = [...open].sort((a, b) => b.p - a.p)[0]
  return {
    question,
    ...head,
    besides: [
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
            `${r.name} carries ${sized(asked, r.carry)} ${r.carry.value > 0 ? 'farther' : 'less far'} than ${groups[0]!.name}`,
        ),
    ],
    open: [
      ...aside.map((d) => `${asked.words.name(d)} is worn otherwise and left aside here.`),
      ...open.map(
        (p) =>
          `${p.above.name} against ${p.below.name}: leaning to ${p.above.name}, ${percent(p.p)}; ${sized(asked, p.row.finish)} ${farther(asked.outcome.fadeSide)}`,
      ),
    ],
    wants: nearest && [nearest.above.discs[0]!, nearest.below.discs[0]!],
    figures,
    picture: { kind: 'differences', base: groups[0]!.name, rows: all.rows, alikeM: all.alikeM },
    throws: throwsOf(asked),
  }
}
