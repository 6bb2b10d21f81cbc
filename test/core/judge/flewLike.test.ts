import { expect } from 'chai'
import { fit } from '../../../core/rating/fit.ts'
import { flewLike } from '../../../core/judge/flewLike.ts'
import { simulateSession } from '../../simulate/session.ts'

describe('whether two discs flew alike', () => {
  const { evidence } = simulateSession({ seed: 0.31 })
  const state = fit(evidence)
  const [a, b] = evidence.discs.map((d) => d.id) as [string, string]

  it('says nought of a disc and itself, and the same both ways', () => {
    expect(flewLike(state, a, a)!.distanceM).equal(0)
    expect(flewLike(state, a, a)!.overlaps).equal(true)
    expect(flewLike(state, a, b)!.distanceM).closeTo(flewLike(state, b, a)!.distanceM, 1e-9)
  })

  it('tells discs apart that fly apart: the most from the least stable of a session', () => {
    const stable = evidence.discs
      .map((d, i) => ({ id: d.id, s: state.numbers[i]![1]! + state.numbers[i]![2]! }))
      .sort((x, y) => y.s - x.s)
    const [most, least] = [stable[0]!, stable[stable.length - 1]!]
    const far = flewLike(state, most.id, least.id)!
    expect(far.distanceM).greaterThan(0.5 * far.spread.pathM)
    expect(far.overlaps).equal(false)
  })

  it('says nothing before both were thrown, and knows no disc that is not there', () => {
    const unthrown = fit({ ...evidence, throws: evidence.throws.filter((t) => t.disc !== b) })
    expect(flewLike(unthrown, a, b)).equal(undefined)
    expect(() => flewLike(state, a, 'nobody')).not.throw()
    expect(flewLike(state, a, 'nobody')).equal(undefined)
  })
})
