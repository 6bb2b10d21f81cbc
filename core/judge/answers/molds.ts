import { rollup } from 'd3'
import { flewLike } from '../flewLike.ts'
import { tellsWords } from '../tellingShot.ts'
import { sureness } from '../ladder.ts'
import { countWord, lengthOf } from '../statements.ts'
import { alikeProbability } from '../resolve.ts'
import { drawnSides, pairOf } from '../../rating/outcome.ts'
import {
  ratingIn,
  figureWithin,
  isFarther,
  isSettled,
  possibly,
  listed,
  percent,
  sizedWords,
  throwsOf,
  unanswerable,
} from './answer.ts'
import type { Asked, Claimed, Figure, Found, Possible } from './answer.ts'
import { shareOf } from './draws.ts'

const alikeWords = (names: readonly string[]) => `${listed(names)} fly alike, to within half a number`
const orderWords = (names: readonly string[]) => `From most to least stable: ${listed(names)}`
const mostWords = (name: string, of: number) => `${name} is the most stable of the ${countWord(of)}`
const leastWords = (name: string, of: number) => `${name} is the least stable of the ${countWord(of)}`

/** What may be the answer of three or more: who comes first, who last, and every order that was drawn. */
function sentencesOf(
  order: readonly string[],
  draws: readonly ArrayLike<number>[],
  name: (disc: string) => string,
): Possible[] {
  const share = (says: string, is: (d: ArrayLike<number>) => boolean): Possible => ({
    says,
    probability: shareOf(draws, is),
  })
  const orders = rollup(
    draws,
    (same) => same.length,
    (d) => orderWords(order.toSorted((a, b) => d[order.indexOf(b)]! - d[order.indexOf(a)]!).map(name)),
  )
  const asItStands = orderWords(order.map(name))
  return [
    ...order.flatMap((disc, k) => [
      share(mostWords(name(disc), order.length), (d) => order.every((_, i) => d[k]! >= d[i]!)),
      share(leastWords(name(disc), order.length), (d) => order.every((_, i) => d[k]! <= d[i]!)),
    ]),
    share(asItStands, (d) => order.every((_, i) => i === 0 || d[i - 1]! >= d[i]!)),
    ...[...orders].flatMap(([says, n]) =>
      says === asItStands ? [] : [{ says, probability: n / draws.length }],
    ),
  ]
}

/** Which of some molds is more stable: the order of all of them, and what of it is sure. */
export function answerMolds(asked: Asked): Found {
  const { outcome, state, words } = asked
  const chosen =
    asked.pair && asked.pair.every((d) => asked.discs.includes(d)) ? [...asked.pair] : [...asked.discs]
  if (chosen.length < 2)
    return unanswerable('Two discs at least are put in order; the trial asks about one', [
      'Add a disc it is compared with.',
    ])
  const order = chosen.sort((a, b) => ratingIn(asked, b).side.value - ratingIn(asked, a).side.value)
  const draws = drawnSides(outcome, order)
  const whole =
    order.length === 2
      ? sureness(outcome, [order[0]!, order[1]!])
      : shareOf(draws, (d) => order.every((_, i) => i === 0 || d[i - 1]! >= d[i]!))
  const first = shareOf(draws, (d) => order.every((_, i) => i === 0 || d[0]! >= d[i]!))
  const last = shareOf(draws, (d) => order.every((_, i) => d[i]! >= d[order.length - 1]!))
  const neighbours = order.slice(1).map((below, i) => {
    const above = order[i]!
    const pair = pairOf(outcome, above, below)
    const sign = pair.a === above ? 1 : -1
    return {
      above,
      below,
      p: sureness(outcome, [above, below]),
      side: { value: sign * pair.difference.value, sd: pair.difference.sd },
      finish: { value: sign * pair.finish.value, sd: pair.finish.sd },
      alike: alikeProbability(
        pair.difference,
        ratingIn(asked, above).published,
        ratingIn(asked, below).published,
      ),
    }
  })
  const name = words.name
  const length = lengthOf(words)
  const named = order.map(name)
  const two = order.length === 2
  const moreWords = (a: string, b: string) => `${a} is more stable than ${b}`
  const pairWords = (n: (typeof neighbours)[number]) =>
    `${moreWords(name(n.above), name(n.below))}: ${isFarther(asked, n)}`
  const heads: readonly {
    readonly p: number
    readonly text: string
    readonly says: string
    readonly claim: Claimed
  }[] = two
    ? [
        {
          p: whole,
          text: pairWords(neighbours[0]!),
          says: moreWords(named[0]!, named[1]!),
          claim: { says: 'order', groups: order.map((d) => [d]) },
        },
        {
          p: neighbours[0]!.alike,
          says: alikeWords(asked.discs.filter((d) => order.includes(d)).map(name)),
          text: `${listed(named)} fly alike, to within half a number: ${sizedWords(asked, neighbours[0]!.finish)} apart at the end`,
          claim: { says: 'alike', groups: order.map((d) => [d]) },
        },
      ]
    : [
        {
          p: whole,
          text: orderWords(named),
          says: orderWords(named),
          claim: { says: 'order', groups: order.map((d) => [d]) },
        },
        {
          p: first,
          text: mostWords(named[0]!, order.length),
          says: mostWords(named[0]!, order.length),
          claim: { says: 'most stable', disc: order[0]!, of: order },
        },
        {
          p: last,
          // asked is which is the most stable: that is one of the others, and no more is sure
          text: `${listed(named.slice(0, -1), 'or')} is the most stable; ${named.at(-1)!} is the least`,
          says: leastWords(named.at(-1)!, order.length),
          claim: { says: 'least stable', disc: order.at(-1)!, of: order },
        },
      ]
  const head = heads.find((h) => isSettled(h.p))
  const open = neighbours.filter((n) => !isSettled(n.p) && !isSettled(n.alike))
  const nearest = [...open].sort((a, b) => b.p - a.p)[0]
  const closest = [...neighbours].sort((a, b) => Math.abs(a.finish.value) - Math.abs(b.finish.value))[0]!
  const figures: Record<string, Figure> = {}
  for (const n of neighbours)
    figures[`${n.above} over ${n.below} at the finish`] = figureWithin(n.finish, 'm per 100 m')
  return {
    sentence: head
      ? head.text
      : two
        ? `Which of ${listed(named)} is more stable is not settled: it leans to ${named[0]!}`
        : `The order of ${listed(named)} is not settled; as it stands ${named[0]!} comes first`,
    probability: head ? head.p : two ? whole : first,
    settled: head !== undefined,
    claim: head?.claim,
    possible: possibly(
      // what is not settled leans to the first of two in its order, and to the first of more
      (head ?? heads[two ? 0 : 1]!).says,
      two
        ? [
            ...heads.map((h): Possible => ({ says: h.says, probability: h.p })),
            { says: moreWords(named[1]!, named[0]!), probability: 1 - whole },
          ]
        : sentencesOf(order, draws, name),
    ),
    besides: [
      ...(two || !head || head.text !== heads[0]!.text
        ? []
        : [`${named[0]!} is the most stable, ${percent(first)}`]),
      ...neighbours
        .filter((n) => isSettled(n.alike))
        .map(
          (n) =>
            `${name(n.above)} and ${name(n.below)} fly alike, to within half a number, ${percent(n.alike)}`,
        ),
      ...neighbours.flatMap((n) => {
        const like = flewLike(state, n.above, n.below)
        if (!like) return []
        return [
          ...(like.overlaps
            ? [
                `${name(n.above)} and ${name(n.below)} overlap: paths ${length(like.distanceM)} apart, two throws of one disc by this arm differ by ${length(like.spread.pathM)}`,
              ]
            : []),
          ...(n === closest ? [tellsWords(like.shot, name(n.above), name(n.below), words)] : []),
        ]
      }),
    ],
    open: open.map(
      (n) => `${name(n.above)} against ${name(n.below)}: leaning to ${name(n.above)}, ${percent(n.p)}`,
    ),
    wants: nearest && [nearest.above, nearest.below],
    figures,
    picture: { kind: 'ladder', order, neighbours: neighbours.map((n) => n.p) },
    throws: throwsOf(asked, order),
  }
}
