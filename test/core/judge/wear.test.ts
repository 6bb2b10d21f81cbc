import { randomLcg, randomNormal } from 'd3'
import { expect } from 'chai'
import { leavesSlot, stabilityAfter, WEAR_RATE_PRIOR, wearRate } from '../../../core/judge/wear.ts'
import type { Retest } from '../../../core/judge/wear.ts'

/** Re-tests of three discs of a plastic that loses so much per hundred throws and per hit. */
function retests(seed: number, per100: number, perHit: number, count = 6): Retest[] {
  const uniform = randomLcg(seed)
  const normal = randomNormal.source(uniform)()
  return ['a', 'b', 'c'].flatMap((disc, d) =>
    Array.from({ length: count }, (_, i) => {
      const throws = 120 * i
      const hardHits = Math.floor(i * 3 * uniform())
      return {
        disc,
        throws,
        hardHits,
        stability: {
          value: 1 + 0.2 * d + (per100 * throws) / 100 + perHit * hardHits + 0.3 * normal(),
          sd: 0.3,
        },
      }
    }),
  )
}

describe('wear', () => {
  it('is the prior where nothing was tested again', () => {
    const rate = wearRate([])
    for (const key of Object.keys(WEAR_RATE_PRIOR) as (keyof typeof WEAR_RATE_PRIOR)[]) {
      expect(rate[key].value).closeTo(WEAR_RATE_PRIOR[key].value, 1e-12)
      expect(rate[key].sd).closeTo(WEAR_RATE_PRIOR[key].sd, 1e-12)
    }
  })

  it('is learnt from re-tests, with intervals that hold the truth', () => {
    let [held, all] = [0, 0]
    for (let k = 1; k <= 60; k++) {
      const per100 = -0.02 - 0.004 * k
      const rate = wearRate(retests(k / 61, per100, -0.02))
      expect(rate.per100.sd).lessThan(WEAR_RATE_PRIOR.per100.sd)
      for (const [found, true_] of [
        [rate.per100, per100],
        [rate.perHit, -0.02],
      ] as const) {
        all++
        if (Math.abs(found.value - true_) <= 1.645 * found.sd) held++
      }
    }
    expect(held / all).within(0.84, 0.99)
  })

  it('tells a plastic that wears fast from one that holds', () => {
    const [fast, slow] = [wearRate(retests(0.3, -0.3, 0)), wearRate(retests(0.3, -0.02, 0))]
    expect(fast.per100.value).lessThan(slow.per100.value - 0.2)
  })

  it('forecasts less stability and less certainty the further ahead', () => {
    const rate = wearRate(retests(0.5, -0.1, -0.01))
    const now = { value: 1, sd: 0.2 }
    const [soon, late] = [stabilityAfter(now, rate, 100, 2), stabilityAfter(now, rate, 800, 16)]
    expect(late.value).lessThan(soon.value)
    expect(late.sd).greaterThan(soon.sd)
    expect(stabilityAfter(now, rate, 0, 0)).deep.equal(now)
  })

  it('says when a disc leaves its slot, and when it never does', () => {
    const rate = wearRate(retests(0.5, -0.2, 0))
    const slot = { low: 0.5, high: 2 }
    const f = leavesSlot({ value: 1.2, sd: 0.2 }, rate, slot, 0)
    expect(f.inSlotNow).greaterThan(0.95)
    expect(f.earliest).lessThan(f.leavesAfterThrows)
    expect(f.leavesAfterThrows).lessThan(f.latest)
    const after = stabilityAfter({ value: 1.2, sd: 0.2 }, rate, f.leavesAfterThrows, 0)
    expect(after.value).closeTo(slot.low, 0.1)
    const still = { ...rate, per100: { value: 0, sd: 0 } }
    expect(leavesSlot({ value: 1.2, sd: 0.2 }, still, slot, 0).leavesAfterThrows).equal(
      Number.POSITIVE_INFINITY,
    )
  })
})
