import { greatest } from 'd3'
import { STILL_AIR } from '../../flight/air.ts'
import { fullSpeedWith } from '../../flight/arm.ts'
import type { FlightNumbers } from '../../flight/disc.ts'
import { landing } from '../../flight/landing.ts'
import { cleanRelease } from '../../flight/release.ts'
import { labelScale, PER_M } from '../../flight/side.ts'
import { sharesBetween } from '../../rating/normal.ts'
import { pairOf } from '../../rating/outcome.ts'
import { busiestArm } from '../flewLike.ts'
import { ALIKE_WITHIN } from '../resolve.ts'
import { farther, lengthOf } from '../statements.ts'
import {
  ratingIn,
  figureWithin,
  finishes,
  isSettled,
  percent,
  sizedWords,
  throwsOf,
  unanswerable,
  ratedIn,
  copiesOf,
  possibly,
} from './answer.ts'
import type { Asked, Found } from './answer.ts'
import type { WeightRow } from './picture.ts'

/** Less than this the scales of a field tell apart, kg. */
const LEAST_KG = 0.0015
/** A slower arm, as a share of the one that threw. */
const SLOWER = 0.8

/** What the weight changes: what mass alone explains, and what is left over. */
export function answerWeight(asked: Asked): Found {
  const { state, outcome, words } = asked
  const massOf = (id: string) => ratedIn(asked, id).body.massKg
  // other plastics, and copies more worn, differ in more than their weight
  const wearOf = (id: string) => ratedIn(asked, id).kin?.wear ?? 0
  const pairs = copiesOf(asked).flatMap((copies) =>
    copies.flatMap((a) => copies.flatMap((b) => (massOf(a) < massOf(b) ? [[a, b] as const] : []))),
  )
  const apart = ([a, b]: readonly [string, string]) => massOf(b) - massOf(a)
  const alikeWorn = pairs.filter(([a, b]) => wearOf(a) === wearOf(b) && apart([a, b]) >= LEAST_KG)
  const chosen = greatest(alikeWorn.length > 0 ? alikeWorn : pairs, apart)
  if (!chosen || apart(chosen) < LEAST_KG)
    return unanswerable(
      'No two copies of one plastic differ in weight: what the weight changes cannot be seen',
      ['Weigh the discs, and add a copy that is lighter or heavier.'],
    )
  const [light, heavy] = chosen
  const grams = (id: string) => `${(1000 * massOf(id)).toFixed(0)} g`
  const [one, other] = [ratingIn(asked, light).observed, ratingIn(asked, heavy).observed]
  const between: FlightNumbers = {
    speed: one.speed,
    glide: (one.glide + other.glide) / 2,
    turn: (one.turn + other.turn) / 2,
    fade: (one.fade + other.fade) / 2,
  }
  const body = ratedIn(asked, light).body
  const pair = pairOf(outcome, light, heavy)
  const sign = pair.a === light ? 1 : -1
  const rest = { value: sign * pair.finish.value, sd: pair.finish.sd }
  const arm = busiestArm(state)!
  const rows = [1, SLOWER].map((share): WeightRow => {
    const armMps = share * arm.armMps
    const fly = (massKg: number) =>
      landing(between, { ...body, massKg }, cleanRelease(fullSpeedWith(armMps, between.speed)), STILL_AIR)
    const [a, b] = [fly(massOf(light)), fly(massOf(heavy))]
    return {
      arm: share === 1 ? 'the arm that threw' : 'a slower arm',
      armMps,
      massM: PER_M * (a.veerM / a.carryM - b.veerM / b.carryM),
      massCarryM: a.carryM - b.carryM,
      rest,
    }
  })
  const p = sign === 1 ? pair.pAMoreStable : 1 - pair.pAMoreStable
  const half =
    (ALIKE_WITHIN *
      (labelScale(ratingIn(asked, light).published).perNumber +
        labelScale(ratingIn(asked, heavy).published).perNumber)) /
    2
  const alike = sharesBetween(sign * pair.difference.value, pair.difference.sd, [-half, half])[1]!
  const sure = Math.max(p, 1 - p)
  const more = p >= 0.5 ? light : heavy
  const length = lengthOf(words)
  const [own, slower] = rows as [WeightRow, WeightRow]
  const mass = (r: WeightRow) =>
    `${length(Math.abs(r.massM))} ${farther(outcome.fadeSide, r.massM >= 0)} in ${length(PER_M, 0)} and ${length(Math.abs(r.massCarryM))} ${r.massCarryM >= 0 ? 'farther' : 'shorter'}`
  const alone = `Mass alone takes the ${grams(light)} disc ${mass(own)} than the ${grams(heavy)} one`
  const flyAlike = `Beside their mass ${words.name(light)} and ${words.name(heavy)} fly alike, to within half a number`
  const moreStable = (id: string) =>
    `Beside its mass ${words.name(id)} is more stable than ${words.name(id === light ? heavy : light)}`
  const sentence = isSettled(alike)
    ? `${alone}; beside it the two fly alike, to within half a number`
    : isSettled(sure)
      ? `${alone}; beside its mass ${words.name(more)} is more stable: it ${finishes(asked, more === light ? rest : { value: -rest.value, sd: rest.sd })}`
      : `${alone}; what is left over is not settled: ${sizedWords(asked, rest)}, leaning to ${words.name(more)} the more stable`
  return {
    sentence,
    probability: isSettled(alike) ? alike : sure,
    settled: isSettled(alike) || isSettled(sure),
    possible: possibly(isSettled(alike) ? flyAlike : moreStable(more), [
      { says: flyAlike, probability: alike },
      { says: moreStable(light), probability: p },
      { says: moreStable(heavy), probability: 1 - p },
    ]),
    claim: isSettled(alike)
      ? { says: 'alike', groups: [[light], [heavy]] }
      : isSettled(sure)
        ? { says: 'order', groups: [[more], [more === light ? heavy : light]] }
        : undefined,
    besides: [
      `For an arm of four fifths the speed mass takes it ${mass(slower)}`,
      ...(isSettled(alike) || isSettled(sure)
        ? []
        : [`Alike to within half a number beside their mass, ${percent(alike)}`]),
    ],
    open: [
      ...(apart(chosen) < 0.005
        ? ['They differ by less than 5 g: mass explains little, whatever the throws say.']
        : []),
      ...(wearOf(light) !== wearOf(heavy) ? ['They are not worn alike: what is left over may be wear.'] : []),
    ],
    wants: isSettled(alike) || isSettled(sure) ? undefined : [light, heavy],
    figures: {
      'mass alone, finish': { value: own.massM, unit: 'm per 100 m' },
      'mass alone, carry': { value: own.massCarryM, unit: 'm' },
      'left over': figureWithin(rest, 'm per 100 m'),
    },
    picture: { kind: 'weight', light, heavy, rows },
    throws: throwsOf(asked, [light, heavy]),
  }
}
