import { expect } from 'chai'
import { randomLcg, randomNormal } from 'd3'
import { fit } from '../../../core/rating/fit.ts'
import { growthOf, hasGrown, discScatter } from '../../../core/rotation/scatter.ts'
import type { ScatterTest } from '../../../core/rotation/scatter.ts'
import { seedOf, simulateSession } from '../../simulate/session.ts'

describe('scatter', () => {
  it('of a disc is told against the others of the day, as often as it says, and more where it lands wilder', () => {
    let [held, all, wilder] = [0, 0, 0]
    const SESSIONS = 24
    for (let k = 1; k <= SESSIONS; k++) {
      const { evidence } = simulateSession({ seed: seedOf(k), discs: 4, throws: 40 })
      for (const { value, sd } of discScatter(fit(evidence)).values()) {
        all++
        if (Math.abs(value) < 1.282 * sd) held++
      }
      // the same throws, but that the first disc lands wilder by twice what throws scatter
      const normal = randomNormal.source(randomLcg(seedOf(k + 100)))(0, 1)
      const [first] = evidence.discs
      const throws = evidence.throws.map((t) =>
        t.disc === first!.id ? { ...t, carryM: t.carryM + 9 * normal(), veerM: t.veerM + 9 * normal() } : t,
      )
      const wild = discScatter(fit({ ...evidence, throws })).get(first!.id)!
      if (wild.value > wild.sd) wilder++
    }
    expect(held / all).within(0.68, 0.92)
    expect(wilder / SESSIONS).greaterThan(0.8)
  })

  it('is said of no disc that was thrown too seldom, nor of one that was thrown alone', () => {
    const { evidence } = simulateSession({ seed: 0.3, discs: 1, throws: 12 })
    expect(discScatter(fit(evidence)).size).equal(0)
  })

  it('grows where the last test scatters more than those before, and is said so seldom where nothing changed', () => {
    const test = (throws: number, value: number, sd = 0.15): ScatterTest => ({
      use: { throws, hardHits: 0 },
      scatter: { value, sd },
    })
    const grown = growthOf([test(400, 0.55), test(0, 0), test(200, 0.05)])!
    expect(grown.times).within(1.5, 1.8)
    expect(hasGrown(grown)).equal(true)
    expect(growthOf([test(100, 0.5)])).equal(undefined)
    expect(growthOf([test(100, 0.5), test(100, 0.1)])).equal(undefined)
    const normal = randomNormal.source(randomLcg(0.7))(0, 0.15)
    let said = 0
    for (let k = 0; k < 400; k++) if (hasGrown(growthOf([0, 100, 200].map((n) => test(n, normal()))))) said++
    expect(said / 400).lessThan(0.1)
  })
})
