import { expect } from 'chai'
import { DEGREE } from '../../../core/flight/units.ts'
import { behindOf } from '../../../core/judge/behind.ts'
import { againstEye } from '../../../core/judge/eye.ts'
import { matchedThrows } from '../../../core/judge/matched.ts'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf, pairOf } from '../../../core/rating/outcome.ts'
import { mean } from 'd3'
import { simulateSession } from '../../simulate/session.ts'

const { evidence, truth } = simulateSession({ seed: 0.3, discs: 3, throws: 36, called: true, control: true })
const state = fit(evidence)
const outcome = outcomeOf(state)

describe('against the eye', () => {
  it('looks at the landings of every disc but the control disc', () => {
    const { seen } = againstEye(state, outcome, evidence.throws)
    expect(seen.map((s) => s.disc).sort()).deep.equal(['disc-1', 'disc-2'])
    for (const s of seen) {
      const own = evidence.throws.filter((t) => t.disc === s.disc)
      expect(s.throws).equal(own.length)
      expect(s.meanLanding).closeTo(
        mean(own, (t) => (100 * t.veerM) / t.carryM)!,
        1e-9,
      )
    }
  })

  it('says what misled it: one disc thrown at hyzer, the other at anhyzer', () => {
    const [stable, other] =
      pairOf(outcome, 'disc-1', 'disc-2').pAMoreStable > 0.5 ? ['disc-1', 'disc-2'] : ['disc-2', 'disc-1']
    // the more stable one is looked at where it was thrown at anhyzer, the other where it was thrown at hyzer
    const own = evidence.throws.filter((t) =>
      t.disc === stable ? t.hyzerRad < -5 * DEGREE : t.disc === other ? t.hyzerRad > 5 * DEGREE : false,
    )
    const { misled } = againstEye(state, outcome, own)
    expect(misled.length).greaterThan(0)
    for (const m of misled) {
      expect([m.taken, m.truly]).deep.equal([other, stable])
      expect(m.probability).least(0.9)
      expect(m.causeM).greaterThan(0)
    }
    expect(truth.size).equal(3)
  })
})

describe('what stands behind a disc', () => {
  it('is its throws with their pull, and what was taken out of them, the most first', () => {
    const [one] = behindOf(state, evidence.throws, ['disc-1', 'disc-2'])
    const own = evidence.throws.filter((t) => t.disc === 'disc-1')
    expect(one!.throws.map((t) => t.throw)).deep.equal(own.map((t) => t.id))
    const told = new Map(outcome.throws.map((t) => [t.throw, t.weight]))
    for (const t of one!.throws) expect(t.pull).equal(told.get(t.throw))
    const sizes = one!.takenOut.map((c) => Math.hypot(c.carryM, c.veerM))
    expect(sizes).deep.equal([...sizes].sort((a, b) => b - a))
    expect(one!.takenOut.map((c) => c.cause)).include.members(['angle', 'wind', 'speed'])
    expect(behindOf(state, [], ['disc-1'])).deep.equal([{ disc: 'disc-1', throws: [], takenOut: [] }])
  })
})

describe('throws matched', () => {
  it('pairs throws meant alike one to one, and takes out what differs between them', () => {
    const matched = matchedThrows(state, evidence.throws, 'disc-1', 'disc-2')
    expect(matched.length).equal(12)
    expect(new Set(matched.map((m) => m.b)).size).equal(12)
    const of = (id: string) => evidence.throws.find((t) => t.id === id)!
    for (const m of matched) {
      const [a, b] = [of(m.a), of(m.b)]
      expect([a.disc, b.disc]).deep.equal(['disc-1', 'disc-2'])
      expect(Math.abs(a.hyzerRad - b.hyzerRad)).lessThan(3 * DEGREE)
      expect(a.air.windAlongMps * b.air.windAlongMps).greaterThan(0)
      expect(m.landed.veerM).closeTo(a.veerM - b.veerM, 1e-9)
    }
    // corrected they scatter less than as they landed
    const scatter = (key: 'landed' | 'corrected') => {
      const list = matched.map((m) => m[key].carryM)
      const middle = mean(list)!
      return mean(list, (v) => (v - middle) ** 2)!
    }
    expect(scatter('corrected')).lessThan(scatter('landed'))
    expect(matchedThrows(state, evidence.throws, 'disc-1', 'nobody')).deep.equal([])
  })
})
