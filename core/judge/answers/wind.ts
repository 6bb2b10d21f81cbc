import { STILL_AIR } from '../../flight/air.ts'
import { fullSpeedWith } from '../../flight/arm.ts'
import { landing } from '../../flight/landing.ts'
import { pathPoints, tracePath } from '../../flight/path.ts'
import { cleanRelease } from '../../flight/release.ts'
import { HEADWIND } from '../../plan/aims.ts'
import { OF_DISC } from '../../rating/places.ts'
import { busiestArm } from '../flewLike.ts'
import { speedOf } from '../statements.ts'
import {
  ratingIn,
  figureWithin,
  isSettled,
  listed,
  percent,
  sizedWords,
  throwsOf,
  toSide,
  ratedIn,
  possibly,
} from './answer.ts'
import type { Asked, Figure, Found } from './answer.ts'
import { estimateOf, FLOWN_DRAWS, modelDraws, numberDraws, shareOf } from './draws.ts'
import type { WindPoint, WindRow } from './picture.ts'

/** Winds that are shown: head, tail and across, m/s. */
const WINDS: readonly (readonly [along: number, toFade: number])[] = [
  ...[-8, -6, -4, -2, 0, 2, 4, 6, 8].map((w) => [w, 0] as const),
  ...[-8, -6, -4, -2, 2, 4, 6, 8].map((w) => [0, w] as const),
]

/**
 * What the model has wrong of what a headwind does to a finish: variance, (m a m/s)², per share in which residuals go together. Set by
 * sessions of a nature unlike the model (see docs/method); numbers that were found in one wind are carried to another by the model alone.
 */
const CARRIED = 14

/** A flight flat and clean at full power: how far it carries and where it finishes. */
const flown = (asked: Asked, disc: string, armMps: number) => {
  const { observed } = ratingIn(asked, disc)
  const { body } = ratedIn(asked, disc)
  const release = cleanRelease(fullSpeedWith(armMps, observed.speed))
  return {
    land: (numbers: ArrayLike<number>, from: number, windAlongMps: number, windTowardFadeMps: number) =>
      landing(
        {
          speed: observed.speed,
          glide: numbers[from]!,
          turn: numbers[from + 1]!,
          fade: numbers[from + 2]!,
        },
        body,
        release,
        { ...STILL_AIR, windAlongMps, windTowardFadeMps },
      ),
    path: (windAlongMps: number, windTowardFadeMps: number) =>
      pathPoints(
        tracePath(observed, body, release, { ...STILL_AIR, windAlongMps, windTowardFadeMps }),
        40,
      ).map(({ x, y }) => ({ x, y })),
  }
}

/** How discs take the wind, and which holds its line best against it. */
export function answerWind(asked: Asked): Found {
  const { armMps } = busiestArm(asked.state)!
  const { discs, words } = asked
  const draws = numberDraws(asked.state, discs, FLOWN_DRAWS)
  const flying = discs.map((d) => flown(asked, d, armMps))
  // per draw and disc, how far a headwind takes the finish to the turn side, a m/s
  const carried = modelDraws(asked.state, discs, CARRIED, FLOWN_DRAWS)
  const cost = draws.map((draw, k) =>
    flying.map(({ land }, i) => {
      const at = i * OF_DISC
      return carried[k]![i]! + (land(draw, at, 0, 0).veerM - land(draw, at, -HEADWIND, 0).veerM) / HEADWIND
    }),
  )
  const rows = discs.map((disc, i): WindRow => ({
    disc,
    points: WINDS.map(([alongMps, toFadeMps]): WindPoint => {
      const landed = draws.map((d) => flying[i]!.land(d, i * OF_DISC, alongMps, toFadeMps))
      return {
        alongMps,
        toFadeMps,
        carry: estimateOf(landed.map((l) => l.carryM)),
        finish: estimateOf(landed.map((l, k) => l.veerM + alongMps * carried[k]![i]!)),
        path: flying[i]!.path(alongMps, toFadeMps),
      }
    }),
    turnPerMps: estimateOf(cost.map((c) => c[i]!)),
    pHoldsBest: shareOf(cost, (c) => c.every((v) => Math.abs(c[i]!) <= Math.abs(v))),
  }))
  const side = asked.outcome.fadeSide
  const best = [...rows].sort((a, b) => b.pHoldsBest - a.pHoldsBest)[0]!
  const costs = (r: WindRow) => {
    const turns = r.turnPerMps.value > 0
    const by = { value: HEADWIND * r.turnPerMps.value, sd: HEADWIND * r.turnPerMps.sd }
    return `${speedOf(words)(HEADWIND)} of headwind moves its finish ${sizedWords(asked, by)} ${toSide(side, !turns)}`
  }
  const one = rows.length === 1
  const p = one ? shareOf(cost, (c) => c[0]! > 0 === best.turnPerMps.value > 0) : best.pHoldsBest
  const name = words.name
  const settled = isSettled(p)
  const taken = (disc: string, turns: boolean) =>
    `Into the wind ${name(disc)} ${turns ? 'turns' : 'fights back'}`
  const holds = (disc: string) => `${name(disc)} holds its line best into the wind`
  const figures: Record<string, Figure> = {}
  for (const r of rows) figures[`${r.disc} finish a m/s of headwind`] = figureWithin(r.turnPerMps, 'm')
  return {
    sentence: settled
      ? one
        ? `${taken(best.disc, best.turnPerMps.value > 0)}: ${costs(best)}`
        : `${holds(best.disc)}: ${costs(best)}`
      : one
        ? `What the wind does to ${name(best.disc)} is not settled: ${costs(best)}`
        : `Which of ${listed(discs.map(name))} holds its line best into the wind is not settled: it leans to ${name(best.disc)}`,
    probability: p,
    settled,
    possible: possibly(
      one ? taken(best.disc, best.turnPerMps.value > 0) : holds(best.disc),
      one
        ? [true, false].map((turns) => ({
            says: taken(best.disc, turns),
            probability: turns === best.turnPerMps.value > 0 ? p : 1 - p,
          }))
        : rows.map((r) => ({ says: holds(r.disc), probability: r.pHoldsBest })),
    ),
    claim: !settled
      ? undefined
      : one
        ? { says: best.turnPerMps.value > 0 ? 'turns into the wind' : 'fights the wind', disc: best.disc }
        : { says: 'holds its line best', disc: best.disc, of: discs },
    besides: rows.filter((r) => r !== best || !settled).map((r) => `${name(r.disc)}: ${costs(r)}`),
    open: settled
      ? []
      : rows
          .filter((r) => r !== best)
          .map((r) => `${name(r.disc)} may hold best too, ${percent(r.pHoldsBest)}`),
    wants: undefined,
    figures,
    picture: { kind: 'wind', rows },
    throws: throwsOf(asked),
  }
}
