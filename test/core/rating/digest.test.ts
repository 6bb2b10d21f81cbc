import { expect } from 'chai'
import { fit } from '../../../core/rating/fit.ts'
import type { ThrowEvidence } from '../../../core/rating/evidence.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { simulateSession } from '../../simulate/session.ts'

describe('a throw that no arithmetic holds', () => {
  const { evidence } = simulateSession({ seed: 0.3, throws: 24, discs: 2 })
  const spoiled = (change: Partial<ThrowEvidence>, at = 5) => ({
    ...evidence,
    throws: evidence.throws.map((t, i) => (i === at ? { ...t, ...change } : t)),
  })
  const { id } = evidence.throws[5]!
  const rest = outcomeOf(fit({ ...evidence, throws: evidence.throws.filter((t) => t.id !== id) }))

  for (const [what, change, why] of [
    [
      'a landing beyond numbers',
      { carryM: Infinity },
      /^its landing down the line has a value as large as Infinity$/,
    ],
    ['a landing that is none', { veerM: NaN }, /landing off the line has a value as large as NaN/],
    [
      'a recorded path with a value of 1e308',
      { path: { downM: [1, 20, 40, 60], veerM: [0, 1e308, -1e308, 2] } },
      /recorded path has a value as large as 1e\+308/,
    ],
    [
      'a recorded path with fewer sides than distances',
      { path: { downM: [1, 20, 40, 60], veerM: [0, 1] } },
      /goes together in no flight/,
    ],
    [
      'wind that nobody could stand in',
      { windSdMps: 1e200 },
      /spread of the wind has a value as large as 1e\+200/,
    ],
  ] as const)
    it(`is left out and named, and the rest is rated as if it had not been thrown: ${what}`, () => {
      const state = fit(spoiled(change))
      expect(state.leftOut.map((t) => t.throw)).deep.equal([id])
      expect(state.leftOut[0]!.why).match(why)
      expect(outcomeOf(state)).deep.equal(rest)
    })

  it('is left out beside others, and when a fit goes on from an earlier one', () => {
    const before = fit(evidence)
    const two = spoiled({ carryM: NaN })
    const throws = two.throws.map((t, i) => (i === 9 ? { ...t, apexM: Infinity } : t))
    const state = fit({ ...evidence, throws }, { warm: before })
    expect(state.leftOut.map((t) => t.throw)).deep.equal([id, evidence.throws[9]!.id])
    const after = fit(evidence, { warm: state })
    expect(after.leftOut).deep.equal([])
    const [a, b] = [outcomeOf(before).discs[0]!, outcomeOf(after).discs[0]!]
    expect(b.stability.value).closeTo(a.stability.value, 0.02)
  })
})
