import { OF_DISC, OF_HABIT } from './places.ts'
import type { Arrow, SolvedArrow } from './arrow.ts'
import { spreadCovariance } from './arrow.ts'
import { AIM_LINE_SD, CONTROL_PRIOR_SD, DISC_PRIOR_SD } from './evidence.ts'
import type { RatedDisc } from './evidence.ts'
import { effectPrior, SHARE_WORTH } from './kin.ts'
import type { Kinship, SpreadLevel } from './kin.ts'
import { paceBeliefs } from './worn.ts'
import type { Worn } from './worn.ts'

/** How the variance at each level compares with what was believed before any throw; 1 is as believed. */
export type Spread = Readonly<Record<SpreadLevel, number>>
export const SPREAD_BELIEVED: Spread = { mold: 1, blend: 1, plastic: 1, run: 1, disc: 1 }

/**
 * A label further off than this (squared, in prior standard deviations, over three numbers: one in twenty) is a
 * wrong label rather than an odd disc, and holds its disc the less the further off it is.
 */
export const ODD = 7.81

/** What the fit is given about discs and arms before any throw. */
export interface Believed {
  readonly discs: readonly RatedDisc[]
  readonly kinship: Kinship
  /** Per arm: prior standard deviations of its habit. */
  readonly habitSds: readonly (readonly number[])[]
  /** Discs that were not the same at each of their throws. */
  readonly worn: Worn
}

/** Where the search stands; see FitState. */
export interface SearchStanding {
  readonly numbers: readonly Float64Array[]
  readonly habits: readonly Float64Array[]
  readonly effects: readonly Float64Array[]
  /** Aim line of every outing, rad. */
  readonly aims: Float64Array
  /** Paces of wear, see worn.ts. */
  readonly paces: Float64Array
}

/** First border column of an effect. */
export const effectColumn = (arms: number, effect: number): number => arms * OF_HABIT + effect * OF_DISC

/** Border column of an outing's aim line. */
export const aimColumn = (arms: number, effects: number, outing: number): number =>
  effectColumn(arms, effects) + outing

/** Border column of a pace of wear. */
export const paceColumn = (arms: number, effects: number, aims: number, pace: number): number =>
  aimColumn(arms, effects, aims) + pace

/** Prior variances of what is a disc's own. */
export function ownVariances(
  { discs, kinship }: Pick<Believed, 'discs' | 'kinship'>,
  spread: Spread,
  disc: number,
): readonly number[] {
  if (discs[disc]!.control) return CONTROL_PRIOR_SD.map((sd) => sd * sd)
  return DISC_PRIOR_SD.map((sd) => spread.disc * kinship.ownShare[disc]! * sd * sd)
}

/** What is left of a disc's difference from its label once its effects are taken out. */
export function remainderOf(
  believed: Pick<Believed, 'discs' | 'kinship'>,
  standing: SearchStanding,
  disc: number,
): number[] {
  const { published } = believed.discs[disc]!
  return [published.glide, published.turn, published.fade].map((label, k) => {
    let r = standing.numbers[disc]![k]! - label
    for (const { effect, weight } of believed.kinship.of[disc]!) r -= weight * standing.effects[effect]![k]!
    return r
  })
}

/** Adds to the normal equations what is believed before any throw: discs, effects, habits, aim lines, paces of wear. */
export function addBeliefs(arrow: Arrow, believed: Believed, standing: SearchStanding, spread: Spread): void {
  const { discs, kinship, habitSds } = believed
  const arms = habitSds.length
  const add = (at: number, precision: number, away: number) => {
    arrow.shared[at * arrow.border + at]! += precision
    arrow.sharedSide[at]! -= precision * away
  }
  discs.forEach((_, d) => {
    const r = remainderOf(believed, standing, d)
    const variance = ownVariances(believed, spread, d)
    const odd = r.reduce((s, v, k) => s + (v * v) / variance[k]!, 0)
    const held = odd <= ODD ? 1 : Math.sqrt(ODD / odd)
    const list = kinship.of[d]!
    const touched = arrow.columns[d]!
    // effects stand last among a disc's columns, in the order of its kin
    const first = touched.length - list.length * OF_DISC
    for (let k = 0; k < OF_DISC; k++) {
      const precision = held / variance[k]!
      arrow.own[d * 9 + k * 4]! += precision
      arrow.ownSide[d * OF_DISC + k]! -= precision * r[k]!
      list.forEach(({ effect, weight }, i) => {
        const column = effectColumn(arms, effect) + k
        arrow.coupling[d]![k * touched.length + first + i * OF_DISC + k]! -= precision * weight
        arrow.sharedSide[column]! += precision * weight * r[k]!
        for (const other of list)
          arrow.shared[column * arrow.border + effectColumn(arms, other.effect) + k]! +=
            precision * weight * other.weight
      })
    }
  })
  kinship.effects.forEach(({ level }, e) => {
    const prior = effectPrior(level, spread)
    for (let k = 0; k < OF_DISC; k++)
      add(effectColumn(arms, e) + k, 1 / prior.variance[k]!, standing.effects[e]![k]! - prior.mean[k]!)
  })
  habitSds.forEach((sds, a) => {
    for (let k = 0; k < OF_HABIT; k++) add(a * OF_HABIT + k, 1 / sds[k]! ** 2, standing.habits[a]![k]!)
  })
  standing.aims.forEach((aim, o) =>
    add(aimColumn(arms, kinship.effects.length, o), 1 / AIM_LINE_SD ** 2, aim),
  )
  const columnOf = (pace: number) => paceColumn(arms, kinship.effects.length, standing.aims.length, pace)
  for (const { at, from, away, variance } of paceBeliefs(believed.worn, standing.paces)) {
    add(columnOf(at), 1 / variance, away)
    if (from === undefined) continue
    add(columnOf(from), 1 / variance, -away)
    const [p, q] = [columnOf(at), columnOf(from)]
    arrow.shared[p * arrow.border + q]! -= 1 / variance
    arrow.shared[q * arrow.border + p]! -= 1 / variance
  }
}

/**
 * Variances at each level from what the discs and effects turned out to be (expectation–maximisation, held by a
 * prior worth a few groups).
 */
export function respread(
  believed: Believed,
  standing: SearchStanding,
  spread: Spread,
  solved: SolvedArrow,
): Spread {
  const { discs, kinship, habitSds } = believed
  const arms = habitSds.length
  const sum: Record<SpreadLevel, number> = { mold: 0, blend: 0, plastic: 0, run: 0, disc: 0 }
  const count: Record<SpreadLevel, number> = { mold: 0, blend: 0, plastic: 0, run: 0, disc: 0 }
  const { border, nearCovariance } = solved
  kinship.effects.forEach(({ level }, e) => {
    if (level === 'wear') return
    const { variance } = effectPrior(level, SPREAD_BELIEVED)
    for (let k = 0; k < OF_DISC; k++) {
      const at = effectColumn(arms, e) + k
      sum[level] +=
        (standing.effects[e]![k]! ** 2 + nearCovariance[at * border + at]!) / variance[k]! / OF_DISC
    }
    count[level]++
  })
  discs.forEach((disc, d) => {
    if (disc.control) return
    const r = remainderOf(believed, standing, d)
    const variance = ownVariances(believed, SPREAD_BELIEVED, d)
    const list = kinship.of[d]!
    const k = solved.columns[d]!.length
    const rows = solved.gain[d]!.slice()
    const first = k - list.length * OF_DISC
    list.forEach(({ weight }, i) => {
      for (let j = 0; j < OF_DISC; j++) rows[j * k + first + i * OF_DISC + j]! += weight
    })
    const covariance = spreadCovariance(solved, d, rows, d, rows)
    let odd = 0
    for (let j = 0; j < OF_DISC; j++) odd += (r[j]! ** 2 + covariance[j * 4]!) / variance[j]!
    // a wrong label says nothing about how odd discs are
    sum.disc += Math.min(odd, 2 * ODD) / OF_DISC
    count.disc++
  })
  const level = (l: SpreadLevel) => (SHARE_WORTH[l] + sum[l]) / (SHARE_WORTH[l] + count[l])
  return {
    mold: level('mold'),
    blend: level('blend'),
    plastic: level('plastic'),
    run: level('run'),
    disc: level('disc'),
  }
}

/** Whether two spreads are as good as equal. */
export const sameSpread = (a: Spread, b: Spread): boolean =>
  (Object.keys(a) as SpreadLevel[]).every((l) => Math.abs(a[l] - b[l]) < 0.02 * b[l])
