import { TYPICAL_FULL_SPEED } from './evidence.ts'
import type { ThrowEvidence } from './evidence.ts'
import { covarianceBorne } from './borne.ts'
import { factorises, forward } from './cholesky.ts'
import { eliminate, settleAlone } from './eliminate.ts'
import { lnOfMisfit } from './noise.ts'
import { BEARS_ON } from './places.ts'
import type { FitState } from './state.ts'
import { makeTerm, placeTerm } from './throwTerm.ts'
import type { ThrowTerm } from './throwTerm.ts'
import { outingKey } from './warm.ts'
import { numbersThen, paceOf } from './worn.ts'

/**
 * A throw by itself: its own errors where they are most believable, everything else as a fit has it.
 *
 * @throws RangeError when its disc or its arm is not part of the fit
 */
export function termIn(state: FitState, thrown: ThrowEvidence): ThrowTerm {
  const { discs, arms } = state.evidence
  const disc = discs.findIndex((d) => d.id === thrown.disc)
  const arm = arms.findIndex((a) => a.id === thrown.arm)
  if (disc < 0 || arm < 0) throw new RangeError(`${thrown.disc} or ${thrown.arm} is not part of this fit.`)
  const outing = state.outings.indexOf(outingKey(thrown))
  const term = makeTerm(thrown, discs[disc]!, disc, arm, Math.max(0, outing), '')
  term.windVariance = term.windBelieved * state.gust
  term.scale = state.scales[arm]!
  const lnFull = Math.log(arms[arm]!.fullSpeedMps ?? TYPICAL_FULL_SPEED)
  const numbers = numbersThen(state.numbers[disc]!, term.worn, paceOf(state, disc))
  const place = () =>
    placeTerm(term, numbers, lnFull, state.habits[arm]!, outing < 0 ? 0 : state.aims[outing]!)
  settleAlone(term, place)
  eliminate(term)
  return term
}

/**
 * ln of how likely what was seen of a throw is by what a fit without it knows, up to what all tellings of the throw share: scattered as
 * throws are in the fit, as wide as the throw's own errors and what is not known of its disc, its arm and its aim line make it.
 *
 * @throws RangeError when its disc or its arm is not part of the fit
 */
export function lnForetold(state: FitState, thrown: ThrowEvidence): number {
  const term = termIn(state, thrown)
  const { rows, bearing, white, factor, scale } = term
  const borne = covarianceBorne(state, term.disc, thrown)
  const covariance = new Float64Array(rows * rows)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < rows; c++) {
      let s = r === c ? scale : 0
      for (let i = 0; i < BEARS_ON; i++)
        for (let j = 0; j < BEARS_ON; j++)
          s += bearing[r * BEARS_ON + i]! * borne[i * BEARS_ON + j]! * bearing[c * BEARS_ON + j]!
      covariance[r * rows + c] = s
    }
  if (!factorises(covariance, rows)) return -Infinity
  const off = white.slice(0, rows)
  forward(covariance, rows, off)
  const distance = off.reduce((s, v) => s + v * v, 0)
  let ln = lnOfMisfit(rows, distance)
  for (let r = 0; r < rows; r++) ln -= Math.log(factor[r * rows + r]! * covariance[r * rows + r]!)
  return ln
}
