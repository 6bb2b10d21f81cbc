import { ODD, ownVariances, remainderOf } from './beliefs.ts'
import { AIM_LINE_SD, habitSdsOf } from './evidence.ts'
import { effectPrior, SHARE_WORTH } from './kin.ts'
import type { SpreadLevel } from './kin.ts'
import { GUST_WORTH, lnOfMisfit, pathRowsOf, SCALE_PRIOR } from './noise.ts'
import { OF_DISC } from './places.ts'
import type { FitState } from './state.ts'
import type { ThrowTerm } from './throwTerm.ts'
import { paceBeliefs } from './worn.ts'

/**
 * ln of how likely all that was seen is, all that is not known integrated out by Laplace's approximation, up to a constant: what
 * two tellings of the same throws are compared by, such as the wind as it was logged and the other way round.
 *
 * The likelihood of a throw is that of its whole misfit ({@link lnOfMisfit}), with the covariance R + B·Q·Bᵀ of what is seen; gusts,
 * noise scales and the variances of kinship count with the beliefs in them.
 *
 * Source: D. J. C. MacKay, Bayesian interpolation, 1992.
 */
export function lnLikelihood(state: FitState): number {
  const { evidence, kinship, spread, gust, posterior } = state
  const believed = { discs: evidence.discs, kinship, habitSds: evidence.arms.map(habitSdsOf) }
  let sum = -0.5 * posterior.lnDeterminant
  for (const t of state.terms) if (t.evidence.counts) sum += ofThrow(t, state)
  evidence.discs.forEach((_, d) => {
    const variance = ownVariances(believed, spread, d)
    const odd = remainderOf(believed, state, d).reduce((s, v, k) => s + v ** 2 / variance[k]!, 0)
    sum -= 0.5 * (odd <= ODD ? odd : 2 * Math.sqrt(ODD * odd) - ODD)
    for (const v of variance) sum -= 0.5 * Math.log(v)
  })
  kinship.effects.forEach(({ level }, e) => {
    const prior = effectPrior(level, spread)
    prior.variance.forEach((v, k) => {
      sum -= 0.5 * ((state.effects[e]![k]! - prior.mean[k]!) ** 2 / v + Math.log(v))
    })
  })
  believed.habitSds.forEach((sds, a) =>
    sds.forEach((sd, k) => (sum -= 0.5 * (state.habits[a]![k]! / sd) ** 2)),
  )
  for (const { away, variance } of paceBeliefs(state.worn, state.paces)) sum -= 0.5 * (away ** 2 / variance)
  for (const aim of state.aims) sum -= 0.5 * (aim / AIM_LINE_SD) ** 2
  for (const s of [...state.scales, ...state.cameras])
    sum -= 0.5 * SCALE_PRIOR.worth * (Math.log(s) + SCALE_PRIOR.value / s)
  sum -= GUST_WORTH * (Math.log(gust) + 1 / gust)
  for (const level of Object.keys(SHARE_WORTH) as SpreadLevel[])
    sum -= 0.5 * OF_DISC * SHARE_WORTH[level] * (Math.log(spread[level]) + 1 / spread[level])
  return sum
}

/** That of one throw: of what was seen of it, and of its recorded path by itself. */
function ofThrow(t: ThrowTerm, { scales, cameras }: FitState): number {
  const pathRows = pathRowsOf(t)
  let sum = ofMisfit(t.distance, t.count, scales[t.arm]!)
  if (pathRows > 0) sum += ofMisfit(t.pathDistance, pathRows, cameras[t.outing]!)
  for (let r = 0; r < t.rows; r++) sum -= Math.log(t.factor[r * t.rows + r]!)
  return sum
}
const ofMisfit = (distance: number, count: number, scale: number) =>
  lnOfMisfit(count, distance / scale) - 0.5 * count * Math.log(scale)
