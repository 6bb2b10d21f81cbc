import { STILL_AIR } from '../../flight/air.ts'
import { fullSpeedWith } from '../../flight/arm.ts'
import { HALF_NUMBER } from '../../flight/disc.ts'
import type { Body, FlightNumbers } from '../../flight/disc.ts'
import { landing } from '../../flight/landing.ts'
import { pathPoints, tracePath } from '../../flight/path.ts'
import { cleanRelease } from '../../flight/release.ts'
import { Z90 } from '../../rating/normal.ts'
import type { Estimate } from '../../rating/outcome.ts'
import { signed, speedOf } from '../statements.ts'
import { numbersAtSpeed } from '../atArm.ts'
import {
  ratingIn,
  figureWithin,
  isSettled,
  sizedWords,
  throwsOf,
  toSide,
  ratedIn,
  possibly,
} from './answer.ts'
import type { Asked, Claimed, Figure, Found, NamedArm, Possible } from './answer.ts'
import { estimateOf, FLOWN_DRAWS, numberDraws, shareOf } from './draws.ts'
import type { ArmRow } from './picture.ts'

/** From a junior’s arm to a full-power one, m/s with a disc of speed 9. */
export const ARMS: readonly NamedArm[] = [18, 20, 22, 24, 26, 28, 31].map((armMps) => ({
  name: `${armMps} m/s`,
  armMps,
}))

/** Thrown flat and clean in still air at the full power of an arm. */
const releaseOf = (armMps: number, { speed }: FlightNumbers) => cleanRelease(fullSpeedWith(armMps, speed))
const numbersOf = (published: FlightNumbers, draw: ArrayLike<number>): FlightNumbers => ({
  speed: published.speed,
  glide: draw[0]!,
  turn: draw[1]!,
  fade: draw[2]!,
})

/** V₉, m/s, at which a disc of some numbers finishes on its aim line; undefined where it does so at no arm. */
export const straightArm = (numbers: FlightNumbers, body: Body): number | undefined =>
  straightAt((armMps) => landing(numbers, body, releaseOf(armMps, numbers), STILL_AIR).veerM)

/**
 * V₉, m/s, at which a flight finishes on its aim line, by where its finish changes sides between {@link ARMS}; else undefined.
 *
 * @param finish where it finishes for an arm of V₉ m/s, m toward the fade side
 */
export function straightAt(finish: (armMps: number) => number): number | undefined {
  const speeds = ARMS.map((a) => a.armMps)
  const ends = speeds.map(finish)
  const i = ends.findIndex((e, k) => k > 0 && ends[k - 1]! > 0 !== e > 0)
  if (i < 0) return undefined
  let [low, high] = [speeds[i - 1]!, speeds[i]!]
  for (let k = 0; k < 12; k++) {
    const middle = (low + high) / 2
    if (finish(middle) > 0 === ends[i - 1]! > 0) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** A disc from arm to arm. */
function rowsOf(asked: Asked, disc: string, draws: readonly Float64Array[]): ArmRow[] {
  const { observed } = ratingIn(asked, disc)
  const { body } = ratedIn(asked, disc)
  const all = [
    ...ARMS.map((a) => ({ ...a, thrower: false })),
    ...asked.arms.map((a) => ({ ...a, thrower: true })),
  ]
  return all
    .sort((a, b) => a.armMps - b.armMps)
    .map(({ name, armMps, thrower }) => {
      const release = releaseOf(armMps, observed)
      const path = pathPoints(tracePath(observed, body, release, STILL_AIR), 40)
      const landed = draws.map((d) => landing(numbersOf(observed, d), body, release, STILL_AIR))
      const seems = numbersAtSpeed(observed, release.speedMps)
      const finish = estimateOf(landed.map((l) => l.veerM))
      return {
        arm: name,
        armMps,
        thrower,
        path: path.map(({ x, y }) => ({ x, y })),
        carry: estimateOf(landed.map((l) => l.carryM)),
        turnedM: Math.min(0, ...path.map((p) => p.y)),
        finish,
        turn: seems.numbers.turn,
        fade: seems.numbers.fade,
        exact: seems.exact,
        pFinishesToFade: shareOf(landed, (l) => l.veerM > 0),
      }
    })
}

interface Story {
  readonly disc: string
  readonly sentence: string
  readonly probability: number
  readonly straight: Estimate | undefined
  readonly claim: Claimed
  readonly possible: readonly Possible[]
}

/** At which arm a disc flies straight, or that it does at none. */
function storyOf(asked: Asked, disc: string, draws: readonly Float64Array[]): Story {
  const { observed } = ratingIn(asked, disc)
  const { body } = ratedIn(asked, disc)
  const name = asked.words.name(disc)
  const side = asked.outcome.fadeSide
  const speed = speedOf(asked.words)
  const straight = draws.map((d) => straightArm(numbersOf(observed, d), body))
  const some = straight.filter((s) => s !== undefined)
  const ends = (armMps: number, d: ArrayLike<number>) =>
    landing(numbersOf(observed, d), body, releaseOf(armMps, observed), STILL_AIR).veerM
  const [slow, fast] = [ARMS[0]!.armMps, ARMS.at(-1)!.armMps]
  const crosses = shareOf(straight, (s) => s !== undefined)
  const toFade = shareOf(draws, (d) => ends(fast, d) > 0 && ends(slow, d) > 0)
  const toTurn = shareOf(draws, (d) => ends(slow, d) < 0 && ends(fast, d) < 0)
  const at = (armMps: number) => sizedWords(asked, estimateOf(draws.map((d) => ends(armMps, d))))
  const between = `from ${speed(slow)} to ${speed(fast)}`
  const crossing = `${name} flies straight for some arm ${between}`
  const ending = (fade: boolean) => `${name} finishes ${toSide(side, fade)} for every arm ${between}`
  const possible = [
    { says: crossing, probability: crosses },
    { says: ending(true), probability: toFade },
    { says: ending(false), probability: toTurn },
  ]
  if (crosses >= toFade && crosses >= toTurn) {
    const est = estimateOf(some)
    const range = `${speed(est.value)} (${speed(Math.max(slow, est.value - Z90 * est.sd))} to ${speed(Math.min(fast, est.value + Z90 * est.sd))})`
    return {
      disc,
      straight: est,
      claim: { says: 'flies straight at some arm', disc },
      possible: possibly(crossing, possible),
      probability: crosses,
      sentence: isSettled(crosses)
        ? `${name} flies straight for an arm of ${range}: slower arms see it finish ${toSide(side, true)}, faster ones ${toSide(side, false)}`
        : `At which arm ${name} flies straight is not settled: about ${range}, if at any between ${speed(slow)} and ${speed(fast)}`,
    }
  }
  const fade = toFade >= toTurn
  const p = Math.max(toFade, toTurn)
  return {
    disc,
    straight: undefined,
    claim: { says: 'finishes on one side', disc, fade },
    possible: possibly(ending(fade), possible),
    probability: p,
    sentence: isSettled(p)
      ? `${ending(fade)}: ${at(slow)} for the slowest, ${at(fast)} for the fastest`
      : `Whether ${name} finishes ${toSide(side, fade)} for every arm from ${speed(slow)} to ${speed(fast)} is not settled`,
  }
}

/** Between which arms a disc seems to be what it is: its turn and its fade within half a number of its own. */
function itself(asked: Asked, disc: string, rows: readonly ArmRow[]): string | undefined {
  const { observed } = ratingIn(asked, disc)
  const own = rows.filter(
    (r) => Math.abs(r.turn - observed.turn) <= HALF_NUMBER && Math.abs(r.fade - observed.fade) <= HALF_NUMBER,
  )
  const [first, last] = [own[0], own.at(-1)]
  if (!first || !last) return undefined
  const speed = speedOf(asked.words)
  const range =
    speed(first.armMps) === speed(last.armMps)
      ? `about ${speed(first.armMps)}`
      : `${speed(first.armMps)} to ${speed(last.armMps)}`
  return `To arms of ${range} ${asked.words.name(disc)} is itself, to within half a number of turn and fade; to slower ones it seems more stable, to faster ones less`
}

/** What a disc will do for another arm. */
export function answerArms(asked: Asked): Found {
  const drawn = new Map(asked.discs.map((d) => [d, numberDraws(asked.state, [d], FLOWN_DRAWS)]))
  const stories = asked.discs.map((d) => storyOf(asked, d, drawn.get(d)!))
  const head = stories[0]!
  const rows = rowsOf(asked, head.disc, drawn.get(head.disc)!)
  const side = asked.outcome.fadeSide
  const figures: Record<string, Figure> = {}
  for (const r of rows) {
    figures[`carry at ${r.armMps.toFixed(1)} m/s`] = figureWithin(r.carry, 'm')
    figures[`finish at ${r.armMps.toFixed(1)} m/s`] = figureWithin(r.finish, 'm')
  }
  if (head.straight) figures['straight at'] = figureWithin(head.straight, 'm/s')
  const told = rows.filter((r) => r.thrower)
  return {
    sentence: head.sentence,
    probability: head.probability,
    settled: isSettled(head.probability),
    claim: isSettled(head.probability) ? head.claim : undefined,
    possible: head.possible,
    besides: [
      ...[itself(asked, head.disc, rows)].filter((s) => s !== undefined),
      ...told.map(
        (r) =>
          `For ${r.arm} ${asked.words.name(head.disc)} carries ${sizedWords(asked, r.carry)} and finishes ${sizedWords(asked, r.finish)} ${toSide(side, r.finish.value > 0)}: turn ${signed(r.turn)}, fade ${signed(r.fade)} to that arm`,
      ),
      ...stories
        .slice(1)
        .filter((s) => isSettled(s.probability))
        .map((s) => s.sentence),
    ],
    open: stories
      .slice(1)
      .filter((s) => !isSettled(s.probability))
      .map((s) => s.sentence),
    wants: undefined,
    figures,
    picture: { kind: 'arms', disc: head.disc, rows, straightMps: head.straight },
    throws: throwsOf(asked, [head.disc]),
  }
}
