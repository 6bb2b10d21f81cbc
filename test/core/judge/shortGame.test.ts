import { expect } from 'chai'
import { mean, randomLcg, randomNormal, range } from 'd3'
import fc from 'fast-check'
import {
  differenceOf,
  meanInterval,
  pairedDifference,
  PUTT_BANDS,
  shareMade,
} from '../../../core/judge/shortGame.ts'

const normal = (seed: number) => randomNormal.source(randomLcg(seed))()

describe('the short game', () => {
  it('has intervals of means that hold the truth nine times in ten, few throws or many', () => {
    const draw = normal(0.3)
    for (const n of [3, 8, 25]) {
      const held = range(1500).filter(() => {
        const i = meanInterval(range(n).map(() => 4 + 2 * draw()))!
        return i.low <= 4 && i.high >= 4
      }).length
      expect(held / 1500, `${n} throws`).within(0.875, 0.925)
    }
  })

  it('has differences that hold the truth, and probabilities that are right as often as they say', () => {
    const draw = normal(0.7)
    let [held, said, right] = [0, 0, 0]
    const rounds = 2000
    for (let k = 0; k < rounds; k++) {
      const truth = 1.5 * draw()
      const d = differenceOf(
        range(6).map(() => 5 + truth + 2 * draw()),
        range(9).map(() => 5 + draw()),
      )!
      if (d.low <= truth && d.high >= truth) held++
      said += Math.max(d.pLarger, 1 - d.pLarger)
      if (d.pLarger >= 0.5 === truth >= 0) right++
    }
    expect(held / rounds).within(0.875, 0.925)
    expect(right / rounds).closeTo(said / rounds, 0.05)
  })

  it('is the same seen from the other disc', () => {
    const list = fc.array(fc.double({ min: 0, max: 30, noNaN: true }), { minLength: 2, maxLength: 12 })
    fc.assert(
      fc.property(list, list, (a, b) => {
        const [one, other] = [differenceOf(a, b)!, differenceOf(b, a)!]
        expect(one.value).closeTo(-other.value, 1e-9)
        expect(one.low).closeTo(-other.high, 1e-6)
        expect(one.pLarger).closeTo(1 - other.pLarger, 1e-6)
        expect(one.low <= one.value && one.value <= one.high).equal(true)
        expect(one.value).closeTo(mean(a)! - mean(b)!, 1e-9)
      }),
    )
  })

  it('takes out the hole where both discs played it', () => {
    // one disc is a stroke better on every hole, however hard the hole is
    const holes = [3, 6, 4, 5, 7, 3].map((s) => [s, s + 1] as const)
    const paired = pairedDifference(holes, 0.5)!
    expect(paired.value).equal(-1)
    expect(paired.pLarger).lessThan(0.02)
    const unpaired = differenceOf(
      holes.map(([a]) => a),
      holes.map(([, b]) => b),
      0.5,
    )!
    expect(unpaired.pLarger).greaterThan(0.1)
  })

  it('says nothing of too few', () => {
    expect(meanInterval([3])).equal(undefined)
    expect(differenceOf([3], [4, 5])).equal(undefined)
    expect(pairedDifference([[3, 4]])).equal(undefined)
    expect(shareMade(0, 0)).equal(undefined)
  })

  it('is never surer of identical throws than they are measured', () => {
    const i = meanInterval([4, 4, 4, 4])!
    expect(i.high - i.low).greaterThan(0.3)
  })

  it('has shares of putts between never and always, that hold the truth', () => {
    const uniform = randomLcg(0.21)
    // over putters of every skill; for one skill the coverage of counts swings about this
    const held = range(4000).filter(() => {
      const p = uniform()
      const i = shareMade(range(20).filter(() => uniform() < p).length, 20)!
      return i.low <= p && i.high >= p
    }).length
    expect(held / 4000).within(0.87, 0.93)
    expect(shareMade(0, 5)).include({ low: 0, value: 0 })
    expect(shareMade(5, 5)).include({ high: 1, value: 1 })
    expect(
      PUTT_BANDS.every(([, to], i) => PUTT_BANDS[i + 1] === undefined || PUTT_BANDS[i + 1]![0] === to),
    ).equal(true)
  })
})
