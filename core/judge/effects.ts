import { groups } from 'd3'
import { OF_DISC } from '../rating/places.ts'
import type { FitState } from '../rating/state.ts'
import { effectColumn } from '../rating/beliefs.ts'
import { effectPrior, SHARE } from '../rating/kin.ts'
import type { KinLevel, SpreadLevel } from '../rating/kin.ts'
import { labelScale, sideSlopesOf } from '../flight/side.ts'
import { DISC_PRIOR_SD } from '../rating/evidence.ts'
import type { Estimate } from '../rating/outcome.ts'
import { themselves } from './answers/themselves.ts'

/** What discs of one mold, plastic, blend or run have in common beyond their labels, or what wear does to them. */
export interface EffectOutcome {
  readonly level: KinLevel
  /** Mold; mold and plastic; mold, plastic and run; blend; empty for wear, which is from new to beaten. */
  readonly names: readonly string[]
  /** Ids of the discs that share it. */
  readonly discs: readonly string[]
  readonly glide: Estimate
  readonly turn: Estimate
  readonly fade: Estimate
  /** Of the three together, as flights show them: s, on the scale of turn + fade. */
  readonly stability: Estimate
  /** What was believed of that before any throw. */
  readonly believed: Estimate
}

/** Two plastics of one mold: how much more stable discs of `a` fly than discs of `b`, labels included. */
export interface PlasticContrast {
  readonly mold: string
  readonly a: string
  readonly b: string
  readonly difference: Estimate
  /** As an answer says it of the plastics themselves. */
  readonly pAMoreStable: number
}

/** Shares of the variance of stability between discs about their labels; they add up to 1. */
export type VarianceShares = Readonly<Record<SpreadLevel, number>>

/** Mean and standard deviation of a weighted sum of border unknowns (column → weight). */
export function combination(state: FitState, weights: ReadonlyMap<number, number>): Estimate {
  const { border, sharedCovariance } = state.posterior
  const arms = state.evidence.arms.length
  const from = effectColumn(arms, 0)
  let value = 0
  let variance = 0
  for (const [p, w] of weights) {
    value += w * state.effects[Math.floor((p - from) / OF_DISC)]![(p - from) % OF_DISC]!
    for (const [q, v] of weights) variance += w * v * sharedCovariance[p * border + q]!
  }
  return { value, sd: Math.sqrt(Math.max(0, variance)) }
}

/** How s follows glide, turn and fade, on average over the labels of some discs. */
function stabilityBy(state: FitState, discs: readonly number[]): readonly number[] {
  const all = discs.map((d) => {
    const { published } = state.evidence.discs[d]!
    const { perNumber } = labelScale(published)
    return sideSlopesOf(published).sideBy.map((v) => v / perNumber)
  })
  return [0, 1, 2].map((k) => all.reduce((s, by) => s + by[k]!, 0) / all.length)
}

/** The effects of a fit, each with its interval; none where no two discs are kin. */
export function effectsOf(state: FitState): EffectOutcome[] {
  const arms = state.evidence.arms.length
  return state.kinship.effects.map(({ level, names, discs }, e) => {
    const at = effectColumn(arms, e)
    const of = (column: number) => combination(state, new Map([[at + column, 1]]))
    const by = stabilityBy(state, discs)
    const prior = effectPrior(level, state.spread)
    return {
      level,
      names,
      discs: discs.map((d) => state.evidence.discs[d]!.id),
      glide: of(0),
      turn: of(1),
      fade: of(2),
      stability: combination(state, new Map(by.map((w, k) => [at + k, w]))),
      believed: {
        value: by.reduce((s, w, k) => s + w * prior.mean[k]!, 0),
        sd: Math.sqrt(by.reduce((s, w, k) => s + w ** 2 * prior.variance[k]!, 0)),
      },
    }
  })
}

/**
 * Every pair of plastics of one mold compared: what their labels say apart plus what their effects, and those of
 * their blends across molds, add. The discs' own oddities are not in it: it is about discs of that plastic nobody
 * has thrown yet as much as about those thrown.
 */
export function plasticContrasts(state: FitState): PlasticContrast[] {
  const { evidence, kinship } = state
  const arms = evidence.arms.length
  const plastics = kinship.effects.flatMap((e, i) =>
    e.level === 'plastic' ? [{ mold: e.names[0]!, plastic: e.names[1]!, discs: e.discs, effect: i }] : [],
  )
  type Plastic = (typeof plastics)[number]
  const blendOf = (plastic: string) =>
    kinship.effects.findIndex((e) => e.level === 'blend' && e.names[0] === plastic)
  const label = (discs: readonly number[]) =>
    discs.reduce((s, d) => s + evidence.discs[d]!.published.turn + evidence.discs[d]!.published.fade, 0) /
    discs.length
  const ids = (at: readonly number[]) => at.map((d) => evidence.discs[d]!.id)
  const sureOf = new Map(
    groups(plastics, (p) => p.mold).map(([mold, of]) => {
      const discs = of.map((p) => ids(p.discs))
      const sure = of.length > 1 ? themselves(state, discs, ['plastic', 'blend']) : undefined
      return [mold, (a: Plastic, b: Plastic) => sure!(of.indexOf(a), of.indexOf(b)).probability]
    }),
  )
  return plastics.flatMap((a, i) =>
    plastics.slice(i + 1).flatMap((b) => {
      if (a.mold !== b.mold) return []
      const weights = new Map<number, number>()
      const by = stabilityBy(state, [...a.discs, ...b.discs])
      const add = (effect: number, sign: number) => {
        if (effect < 0) return
        by.forEach((w, k) => weights.set(effectColumn(arms, effect) + k, sign * w))
      }
      add(a.effect, 1)
      add(b.effect, -1)
      add(blendOf(a.plastic), 1)
      add(blendOf(b.plastic), -1)
      const { value, sd } = combination(state, weights)
      const difference = { value: value + label(a.discs) - label(b.discs), sd }
      return [
        {
          mold: a.mold,
          a: a.plastic,
          b: b.plastic,
          difference,
          pAMoreStable: sureOf.get(a.mold)!(a, b),
        },
      ]
    }),
  )
}

/** How much of the spread between discs about their labels is mold, blend, plastic, run and the disc itself. */
export function varianceShares(state: FitState): VarianceShares {
  const levels = Object.keys(SHARE) as SpreadLevel[]
  const [, turn, fade] = DISC_PRIOR_SD
  const of = (l: SpreadLevel) => state.spread[l] * SHARE[l] * (turn ** 2 + fade ** 2)
  const all = levels.reduce((s, l) => s + of(l), 0)
  return Object.fromEntries(levels.map((l) => [l, of(l) / all])) as unknown as VarianceShares
}
