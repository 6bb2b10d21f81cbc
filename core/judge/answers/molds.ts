import { STILL_AIR } from '../../flight/air.ts'
import { fullSpeedWith } from '../../flight/arm.ts'
import { landing } from '../../flight/landing.ts'
import { cleanRelease, DEGREE } from '../../flight/release.ts'
import { THROW_SD } from '../../rating/evidence.ts'
import { busiestArm, flewLike } from '../flewLike.ts'
import { sureness } from '../ladder.ts'
import { countWord, lengthOf } from '../statements.ts'
import { alikeProbability } from '../resolve.ts'
import { pairOf } from '../../rating/outcome.ts'
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
import type { Answer, Asked, Claimed, Figure } from './answer.ts'
import { numberDraws, shareOf, sideDraws } from './draws.ts'

/** Releases and winds among which the shot is looked for that tells two discs apart. */
const ANGLES = [15, 10, 5, 0, -5, -10, -15].map((deg) => deg * DEGREE)
const WINDS = [-5, -3, 0, 3, 5]
const POWERS = [1, 0.85]

/** The shot at which two discs land farthest apart, against what this arm scatters. */
interface TellingShot {
  readonly hyzerRad: number
  readonly windAlongMps: number
  readonly power: number
  readonly apartM: number
  /** Distance over the scatter of two throws. */
  readonly against: number
}

/** How far a landing moves with one standard deviation of each error of a throw, m, root of the sum of squares. */
function scatter(fly: (by: readonly number[]) => readonly [number, number], noise: number): number {
  const zero = THROW_SD.map(() => 0)
  return Math.sqrt(
    THROW_SD.reduce((s, sd, k) => {
      const moved = (sense: number) => fly(zero.map((_, i) => (i === k ? sense * sd * noise : 0)))
      const [up, down] = [moved(1), moved(-1)]
      return s + ((up[0] - down[0]) / 2) ** 2 + ((up[1] - down[1]) / 2) ** 2
    }, 0),
  )
}

/** The one shot that tells two discs apart best at the arm that threw most. */
export function tellingShot(asked: Asked, a: string, b: string): TellingShot | undefined {
  const arm = busiestArm(asked.state)
  if (!arm) return undefined
  const bodyOf = (id: string) => ratedDisc(asked, id).body
  const fly = (id: string, power: number, hyzerRad: number, windAlongMps: number) => {
    const { observed } = discOf(asked, id)
    return (by: readonly number[]): readonly [number, number] => {
      const release = cleanRelease(
        power * fullSpeedWith(arm.armMps, observed.speed) * Math.exp(by[0] ?? 0),
        hyzerRad + (by[2] ?? 0),
      )
      const { carryM, veerM } = landing(
        observed,
        bodyOf(id),
        {
          ...release,
          launchRad: release.launchRad + (by[1] ?? 0),
          noseRad: release.noseRad + (by[3] ?? 0),
          azimuthRad: by[4] ?? 0,
        },
        { ...STILL_AIR, windAlongMps },
      )
      return [carryM, veerM]
    }
  }
  let best: TellingShot | undefined
  for (const power of POWERS)
    for (const windAlongMps of WINDS)
      for (const hyzerRad of ANGLES) {
        const [one, other] = [fly(a, power, hyzerRad, windAlongMps), fly(b, power, hyzerRad, windAlongMps)]
        const [x, y] = [one([]), other([])]
        const apartM = Math.hypot(x[0] - y[0], x[1] - y[1])
        const against = apartM / (Math.SQRT2 * scatter(one, arm.noise))
        if (!best || against > best.against) best = { hyzerRad, windAlongMps, power, apartM, against }
      }
  return best
}

function shotWords({ hyzerRad, windAlongMps, power }: TellingShot): string {
  const deg = Math.round(hyzerRad / DEGREE)
  const angle = deg === 0 ? 'flat' : `${Math.abs(deg)}° ${deg > 0 ? 'hyzer' : 'anhyzer'}`
  const wind =
    windAlongMps === 0
      ? 'in still air'
      : `${windAlongMps < 0 ? 'into' : 'with'} ${Math.abs(windAlongMps)} m/s of wind`
  return `${angle} ${wind} at ${power === 1 ? 'full power' : `${Math.round(100 * power)} % of power`}`
}

/** Which of some molds is more stable: the order of all of them, and what of it is sure. */
export function answerMolds(asked: Asked): Answer {
  const { outcome, state, words } = asked
  const chosen =
    asked.pair && asked.pair.every((d) => asked.discs.includes(d)) ? [...asked.pair] : [...asked.discs]
  if (chosen.length < 2)
    return unanswerable('molds', 'Two discs at least are put in order; the trial asks about one', [
      'Add a disc it is compared with.',
    ])
  const order = chosen.sort((a, b) => discOf(asked, b).side.value - discOf(asked, a).side.value)
  const draws = sideDraws(state, order, numberDraws(state, order), 'side')
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
      finish: { value: sign * pair.finish.value, sd: pair.finish.sd },
      alike: alikeProbability(
        pair.difference,
        discOf(asked, above).published,
        discOf(asked, below).published,
      ),
    }
  })
  const name = words.name
  const length = lengthOf(words)
  const named = order.map(name)
  const two = order.length === 2
  const pairWords = (n: (typeof neighbours)[number]) =>
    `${name(n.above)} is more stable than ${name(n.below)}: it ${finishes(asked, n.finish)}`
  const heads: readonly { readonly p: number; readonly text: string; readonly claim: Claimed }[] = two
    ? [
        {
          p: whole,
          text: pairWords(neighbours[0]!),
          claim: { says: 'order', groups: order.map((d) => [d]) },
        },
        {
          p: neighbours[0]!.alike,
          text: `${listed(named)} fly alike, to within half a number: ${sized(asked, neighbours[0]!.finish)} apart at the end`,
          claim: { says: 'alike', groups: order.map((d) => [d]) },
        },
      ]
    : [
        {
          p: whole,
          text: `From most to least stable: ${listed(named)}`,
          claim: { says: 'order', groups: order.map((d) => [d]) },
        },
        {
          p: first,
          text: `${named[0]!} is the most stable of the ${countWord(order.length)}`,
          claim: { says: 'most stable', disc: order[0]!, of: order },
        },
        {
          p: last,
          text: `${named.at(-1)!} is the least stable of the ${countWord(order.length)}`,
          claim: { says: 'least stable', disc: order.at(-1)!, of: order },
        },
      ]
  const head = heads.find((h) => isSettled(h.p))
  const open = neighbours.filter((n) => !isSettled(n.p) && !isSettled(n.alike))
  const nearest = [...open].sort((a, b) => b.p - a.p)[0]
  const closest = [...neighbours].sort((a, b) => Math.abs(a.finish.value) - Math.abs(b.finish.value))[0]!
  const shot = tellingShot(asked, closest.above, closest.below)
  const figures: Record<string, Figure> = {}
  for (const n of neighbours)
    figures[`${n.above} over ${n.below} at the finish`] = figure(n.finish, 'm per 100 m')
  return {
    question: 'molds',
    sentence: head
      ? head.text
      : two
        ? `Which of ${listed(named)} is more stable is not settled: it leans to ${named[0]!}`
        : `The order of ${listed(named)} is not settled; as it stands ${named[0]!} comes first`,
    probability: head ? head.p : two ? whole : first,
    settled: head !== undefined,
    claim: head?.claim,
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
        return like?.overlaps
          ? [
              `${name(n.above)} and ${name(n.below)} overlap: paths ${length(like.distanceM)} apart, two throws of one disc by this arm differ by ${length(like.spread.pathM)}`,
            ]
          : []
      }),
      ...(shot
        ? [
            `${shot.against < 1 ? `No single throw tells ${name(closest.above)} from ${name(closest.below)}; nearest to it comes one` : `What tells ${name(closest.above)} from ${name(closest.below)} best is a throw`} ${shotWords(shot)}: they land ${length(shot.apartM)} apart, ${shot.against.toFixed(1)} times what two throws scatter`,
          ]
        : []),
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
