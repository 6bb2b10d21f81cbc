import { range } from 'd3'
import { discCovariance, weightedCovariance } from './arrow.ts'
import { CONTROL_PRIOR_SD, DISC_PRIOR_SD } from './evidence.ts'
import { perDisc } from './perDisc.ts'
import type { RatedDisc } from './evidence.ts'
import type { FitState } from './state.ts'
import type { ThrowTerm } from './throwTerm.ts'

/**
 * The model is not nature. What it has wrong of a disc's aerodynamics, the ground or the wind shows in throws that were meant
 * alike and missed alike: their residuals go together, where those of a model that is right do not. How much they go together
 * says how far the numbers themselves may be off, beside what scatter leaves open; more throws take nothing of that away.
 */

/** Residuals go together about so much where the model is right, and how much that varies from session to session. */
const FEIGNED = { share: 0.05, sd: 0.02 }
/**
 * What is believed of the share in which they go together beyond that, before any throw: in seven sessions of ten the model is
 * right; where it is not, the share is exponential of this mean.
 */
const BELIEVED = { right: 0.7, share: 0.3 }
/** Shares that are looked at. */
const SHARES = range(0.005, 1, 0.01)

/**
 * Variance of (glide, turn, fade) per share in which residuals go together, set by sessions of a nature unlike the model (drag and
 * lift 5–8 % off, a cubic moment, spin, lasting gusts, sloping ground, landings marked at rest): see docs/method.
 */
const OFF: readonly number[] = [0.35 ** 2 / 0.3, 0.52 ** 2 / 0.3, 0.4 ** 2 / 0.3]
/** Part of it that discs of one mold share: aerodynamics belong to a shape. */
const OF_MOLD = 0.5
/**
 * So much more, as a share of it, all discs share, as ground that slopes and a wind that leans on everything do: it moves no disc against
 * another, but each against its label.
 */
const OF_ALL = 1.25
/** Rows that are compared: where it landed, which every throw has. */
const COMPARED = 2
/** Angles and winds this close together are alike: rad, m/s. */
const ALIKE = { hyzerRad: 0.05, windMps: 2 }

/** Throws meant alike in like wind, whoever made them: what the model has wrong of a disc it has wrong of everybody's throws. */
const kindOf = ({ evidence: t }: ThrowTerm): string =>
  [
    t.disc,
    t.power.toFixed(1),
    Math.round(t.hyzerRad / ALIKE.hyzerRad),
    Math.round((t.aimRad ?? 0) / ALIKE.hyzerRad),
    Math.round(t.air.windAlongMps / ALIKE.windMps),
    Math.round(t.air.windTowardFadeMps / ALIKE.windMps),
  ].join('|')

/**
 * Share in which whitened residuals of throws meant alike go together beyond what they do where the model is right: the mean of what
 * is believed once they have been seen. Before any throw was repeated it is what is believed of any session.
 */
export function discrepancyOf(counted: readonly ThrowTerm[], scales: Float64Array): number {
  const alike = new Map<string, { readonly sum: Float64Array; squares: number; count: number }>()
  for (const t of counted) {
    const key = kindOf(t)
    const kind = alike.get(key) ?? { sum: new Float64Array(COMPARED), squares: 0, count: 0 }
    alike.set(key, kind)
    // a bad throw says nothing of the model
    const size = Math.sqrt(Math.min(1, t.weight) / scales[t.arm]!)
    for (let r = 0; r < COMPARED; r++) {
      const v = size * t.white[r]!
      kind.sum[r]! += v
      kind.squares += v * v
    }
    kind.count++
  }
  let [products, count] = [0, 0]
  for (const kind of alike.values()) {
    if (kind.count < 2) continue
    // Σ over pairs of v·w = ½·((Σ v)² − Σ v²); so many pairs of n throws are worth n − 1 of independent ones
    const pairs = (kind.count * (kind.count - 1)) / 2
    const together = (kind.sum.reduce((s, v) => s + v * v, 0) - kind.squares) / 2 / pairs
    products += (kind.count - 1) * together
    count += COMPARED * (kind.count - 1)
  }
  return believedShare(count === 0 ? undefined : { share: products / count, worth: count })
}

/** What to believe of the share in which residuals go together, seen in so many products. */
function believedShare(seen: { readonly share: number; readonly worth: number } | undefined): number {
  const far = (share: number) =>
    seen === undefined
      ? 0
      : (seen.share - FEIGNED.share - share) ** 2 / (2 * (1 / seen.worth + FEIGNED.sd ** 2))
  // however far all of them are, some are nearest
  const least = Math.min(far(0), ...SHARES.map(far))
  const likely = (share: number) => Math.exp(least - far(share))
  const weights = SHARES.map((s) => Math.exp(-s / BELIEVED.share) * likely(s))
  const prior = SHARES.reduce((sum, s) => sum + Math.exp(-s / BELIEVED.share), 0)
  const right = (BELIEVED.right / (1 - BELIEVED.right)) * prior * likely(0)
  const all = weights.reduce((sum, w) => sum + w, right)
  return weights.reduce((sum, w, i) => sum + w * SHARES[i]!, 0) / all
}

/**
 * What the model has wrong of two discs alike, against what it has wrong of one by itself: all of a disc's own, part of that of a disc
 * of its mold, and what it has wrong of all.
 */
export function sharedByModel({ evidence: { discs } }: FitState, a: number, b: number): number {
  if (a === b) return OF_ALL + 1
  const mold = discs[a]!.kin?.mold
  return OF_ALL + (mold !== undefined && mold === discs[b]!.kin?.mold ? OF_MOLD : 0)
}

/**
 * What the model's own error adds to the covariance of two discs' numbers: one value a number. Only what was learnt by way of the
 * model is off by it: nothing is added to a belief that no throw has moved.
 */
export function discrepancyBetween(state: FitState, a: number, b: number): readonly number[] {
  const shared = sharedByModel(state, a, b)
  const [one, other] = [learntOf(state, a), learntOf(state, b)]
  return OFF.map((off, k) => shared * state.discrepancy * off * Math.sqrt(one[k]! * other[k]!))
}

/** Share of the belief in each of a disc's numbers that throws have replaced, 0 … 1. */
function learntFrom({ control }: RatedDisc, covariance: Float64Array): readonly number[] {
  const sds = control ? CONTROL_PRIOR_SD : DISC_PRIOR_SD
  return sds.map((sd, k) => Math.max(0, 1 - covariance[k * 4]! / (sd * sd)))
}
const learntOf = perDisc(({ posterior, evidence }, disc) =>
  learntFrom(evidence.discs[disc]!, discCovariance(posterior, disc, disc)),
)

/**
 * Covariance of a disc's numbers, the model's own error included: 3 × 3, row by row.
 *
 * @param covariance the same as scatter leaves it
 * @param discrepancy how far the model itself may be off
 */
export function withModelError(disc: RatedDisc, covariance: Float64Array, discrepancy: number): Float64Array {
  const result = covariance.slice()
  learntFrom(disc, covariance).forEach(
    (learnt, k) => (result[k * 4]! += (OF_ALL + 1) * discrepancy * OFF[k]! * learnt),
  )
  return result
}

/** Covariance of two discs' numbers, the model's own error included: 3 × 3, row by row. */
export function numbersCovariance(state: FitState, a: number, b: number): Float64Array {
  const covariance = discCovariance(state.posterior, a, b)
  discrepancyBetween(state, a, b).forEach((v, k) => (covariance[k * 4]! += v))
  return covariance
}

/**
 * Covariance of one weighted sum of each disc's numbers, the model's own error included: discs × discs, row by row.
 *
 * @param weights of glide, turn and fade, per disc
 */
export function sidesCovariance(
  state: FitState,
  weights: readonly (readonly [number, number, number])[],
): Float64Array {
  const covariance = weightedCovariance(state.posterior, weights)
  const n = weights.length
  for (let a = 0; a < n; a++)
    for (let b = 0; b < n; b++)
      covariance[a * n + b]! += discrepancyBetween(state, a, b).reduce(
        (s, v, k) => s + v * weights[a]![k]! * weights[b]![k]!,
        0,
      )
  return covariance
}
