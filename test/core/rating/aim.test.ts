import { expect } from 'chai'
import { DEGREE } from '../../../core/flight/units.ts'
import { explainThrow } from '../../../core/judge/why.ts'
import type { Evidence, ThrowEvidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { throwEvidence } from '../../../core/rating/fromSheet.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { simulateSession } from '../../simulate/session.ts'
import { line } from '../throw/line.ts'

/** The same throw along a line that lies so far toward the fade side. */
function turned(t: ThrowEvidence, aimRad: number): ThrowEvidence {
  const [cos, sin] = [Math.cos(aimRad), Math.sin(aimRad)]
  const by = (down: number, side: number) => [cos * down - sin * side, sin * down + cos * side] as const
  const [carryM, veerM] = by(t.carryM, t.veerM)
  const [windAlongMps, windTowardFadeMps] = by(t.air.windAlongMps, t.air.windTowardFadeMps)
  return { ...t, carryM, veerM, air: { ...t.air, windAlongMps, windTowardFadeMps }, aimRad }
}
/** One disc is aimed toward the fade side, the other away from it. */
const aimOfThrow = (i: number) => (i % 2 === 0 ? 7 * DEGREE : -4 * DEGREE)

describe('throws that are aimed off the line on purpose', () => {
  const { evidence } = simulateSession({ discs: 2, throws: 36, angles: [0], seed: 0.61 })
  const aimed: Evidence = { ...evidence, throws: evidence.throws.map((t, i) => turned(t, aimOfThrow(i))) }
  const untold: Evidence = {
    ...aimed,
    throws: aimed.throws.map(({ aimRad: _, ...t }) => t),
  }

  it('say of a disc what the same throws along the line say, where it is told', () => {
    const [straight, told, not] = [evidence, aimed, untold].map((e) => outcomeOf(fit(e)).discs)
    straight!.forEach((disc, i) => {
      for (const key of ['turn', 'fade', 'glide'] as const) {
        const off = (other: typeof told) => Math.abs(other![i]!.observed[key] - disc.observed[key])
        expect(off(told), `${disc.disc} ${key}`).lessThan(0.25 * disc.sd[key])
      }
    })
    // where it is not told, one seems more and the other less stable than it is
    const apart = (discs: typeof told) => {
      const [a, b] = discs!.map((d) => d.observed.turn + d.observed.fade)
      return a! - b!
    }
    expect(apart(not) - apart(straight)).greaterThan(1)
  })

  it('are no fault of the release: what is explained is how far it was from where it was aimed', () => {
    const [along, off] = [fit(evidence), fit(aimed)]
    evidence.throws.slice(0, 6).forEach((t, i) => {
      const [one, other] = [explainThrow(along, t), explainThrow(off, aimed.throws[i]!)]
      // the label promises it along its own line
      const { carryM, veerM } = one.promised
      const aim = aimOfThrow(i)
      expect(other.promised.veerM).closeTo(Math.sin(aim) * carryM + Math.cos(aim) * veerM, 0.2)
      expect(Math.abs(other.parts.aim.veerM)).lessThan(Math.abs(Math.sin(aim)) * carryM)
    })
  })

  it('are told by a sheet to the thrower’s right, for either hand', () => {
    expect(throwEvidence(line({ aimDeg: 6, hand: 'left', stroke: 'backhand' })).aimRad).closeTo(
      6 * DEGREE,
      1e-12,
    )
    expect(throwEvidence(line({ aimDeg: 6, hand: 'right', stroke: 'backhand' })).aimRad).closeTo(
      -6 * DEGREE,
      1e-12,
    )
    expect(throwEvidence(line())).not.have.property('aimRad')
  })
})
