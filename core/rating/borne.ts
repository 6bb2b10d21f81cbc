import { discBorderCovariance } from './arrow.ts'
import { aimColumn } from './beliefs.ts'
import { numbersCovariance } from './discrepancy.ts'
import { AIM_LINE_SD, habitSdsOf } from './evidence.ts'
import type { Arm } from './evidence.ts'
import { AIM, BEARS_ON, OF_DISC, OF_HABIT } from './places.ts'
import type { FitState } from './state.ts'
import { outingKey } from './warm.ts'

/**
 * Covariance of everything a throw bears on (its disc's numbers, its arm's habit, the aim line of its outing) as the fit has
 * it, as believed before any throw where it has none: BEARS_ON × BEARS_ON, row by row.
 *
 * @param disc the disc's place
 * @param arms full speeds of arms that have not thrown yet
 */
export function covarianceBorne(
  state: FitState,
  disc: number,
  thrown: { readonly arm: string; readonly outing?: string },
  arms: readonly Arm[] = [],
): Float64Array {
  const { evidence, posterior, outings, kinship } = state
  const { border, sharedCovariance } = posterior
  const arm = evidence.arms.findIndex((a) => a.id === thrown.arm)
  const outing = outings.indexOf(outingKey(thrown))
  const believed = habitSdsOf(arms.find((a) => a.id === thrown.arm) ?? { id: thrown.arm })
  /** Border column of an unknown; −1 where the fit has none. */
  const columns = Array.from({ length: BEARS_ON }, (_, k) => {
    if (k < OF_DISC) return -1
    if (k === AIM) return outing < 0 ? -1 : aimColumn(evidence.arms.length, kinship.effects.length, outing)
    return arm < 0 ? -1 : arm * OF_HABIT + k - OF_DISC
  })
  const prior = (k: number) => (k === AIM ? AIM_LINE_SD : believed[k - OF_DISC]!) ** 2
  const own = numbersCovariance(state, disc, disc)
  const cross = discBorderCovariance(posterior, disc)
  /** Of unknowns i ≤ j. */
  const covariance = (i: number, j: number): number => {
    const [p, q] = [columns[i]!, columns[j]!]
    if (j < OF_DISC) return own[i * OF_DISC + j]!
    if (i < OF_DISC) return q < 0 ? 0 : cross[i * border + q]!
    if (p >= 0 && q >= 0) return sharedCovariance[p * border + q]!
    return i === j ? prior(i) : 0
  }
  return Float64Array.from({ length: BEARS_ON * BEARS_ON }, (_, at) => {
    const [i, j] = [Math.floor(at / BEARS_ON), at % BEARS_ON]
    return covariance(Math.min(i, j), Math.max(i, j))
  })
}
