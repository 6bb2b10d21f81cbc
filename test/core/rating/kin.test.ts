import { expect } from 'chai'
import { labelScale, stabilityAt } from '../../../core/flight/side.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { effectsOf, plasticContrasts, varianceShares } from '../../../core/judge/effects.ts'
import type { Kin, RatedDisc } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { kinshipOf, SHARE } from '../../../core/rating/kin.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { simulateSession } from '../../simulate/session.ts'

const disc = (id: string, kin?: Kin): RatedDisc => ({
  id,
  published: { speed: 9, glide: 5, turn: -1, fade: 2 },
  body: STANDARD_BODY,
  ...(kin && { kin }),
})
/** Three molds in two plastics, two discs each. */
const FAMILY: Kin[] = ['Ash', 'Birch', 'Cedar'].flatMap((mold) =>
  ['soft', 'hard'].flatMap((plastic) => [
    { mold, plastic },
    { mold, plastic },
  ]),
)

describe('kinship', () => {
  it('finds what discs share, and leaves to a disc what nothing can tell from it', () => {
    const { effects, of, ownShare } = kinshipOf([
      disc('a', { mold: 'Ash', plastic: 'soft', run: 'first' }),
      disc('b', { mold: 'Ash', plastic: 'hard' }),
      disc('c', { mold: 'Birch', plastic: 'soft' }),
      disc('d'),
    ])
    expect(effects.map((e) => [e.level, ...e.names])).deep.members([
      ['mold', 'Ash'],
      ['plastic', 'Ash', 'soft'],
      ['plastic', 'Ash', 'hard'],
      ['blend', 'soft'],
    ])
    expect(of[3]).deep.equal([])
    expect(ownShare[3]).equal(1)
    expect(ownShare[0]).closeTo(1 - SHARE.mold - SHARE.plastic - SHARE.blend, 1e-12)
    expect(ownShare[2]).closeTo(1 - SHARE.blend, 1e-12)
  })

  it('adds up to one, and a control disc shares nothing', () => {
    expect(Object.values(SHARE).reduce((s, v) => s + v, 0)).closeTo(1, 1e-12)
    const { of } = kinshipOf([disc('a', FAMILY[0]), { ...disc('b', FAMILY[0]), control: true }])
    expect(of[1]).deep.equal([])
  })

  it('leaves the prior of a disc as wide as without kin', () => {
    const discs = FAMILY.map((k, i) => disc(`${i}`, k))
    const [first] = outcomeOf(fit({ discs, arms: [], throws: [] })).discs
    expect(first!.sd.glide).closeTo(0.6, 1e-9)
    expect(first!.sd.turn).closeTo(0.8, 1e-9)
    expect(first!.sd.fade).closeTo(0.8, 1e-9)
  })
})

describe('shared effects', () => {
  const without = (discs: readonly RatedDisc[]) => discs.map(({ kin: _, ...d }) => d)

  it('let a disc thrown three times lean on its siblings, and one thrown thirty stand on its own', () => {
    const few = { leaning: 0, alone: 0, leaningSd: 0, aloneSd: 0 }
    const often = { leaningSd: 0, aloneSd: 0 }
    for (let k = 0; k < 12; k++) {
      const s = simulateSession({
        seed: (0.031 * (k + 1) + 0.003) % 1,
        kin: FAMILY,
        control: true,
        called: true,
        throwsOf: FAMILY.map((_, i) => (i % 4 === 0 ? 3 : i % 4 === 1 && k < 4 ? 30 : 10)),
      })
      const trueS = (i: number) =>
        stabilityAt(labelScale(s.evidence.discs[i]!.published), s.sides.get(`disc-${i}`)!.side)
      const lean = outcomeOf(fit(s.evidence)).discs
      const alone = outcomeOf(fit({ ...s.evidence, discs: without(s.evidence.discs) })).discs
      for (const i of [4, 8]) {
        few.leaning += (lean[i]!.stability.value - trueS(i)) ** 2
        few.alone += (alone[i]!.stability.value - trueS(i)) ** 2
        few.leaningSd += lean[i]!.stability.sd
        few.aloneSd += alone[i]!.stability.sd
        if (k >= 4) continue
        often.leaningSd += lean[i + 1]!.stability.sd
        often.aloneSd += alone[i + 1]!.stability.sd
      }
    }
    expect(few.leaning).lessThan(0.92 * few.alone)
    expect(few.leaningSd).lessThan(few.aloneSd)
    expect(often.leaningSd / often.aloneSd).within(0.95, 1.05)
  })

  it('have intervals that hold the truth, and tell plastics apart', () => {
    let [held, all, right, sure] = [0, 0, 0, 0]
    for (let k = 0; k < 13; k++) {
      const s = simulateSession({ seed: 0.023 * (k + 1), kin: FAMILY, called: true, hang: true, throws: 144 })
      const state = fit(s.evidence)
      const stability = (i: number) => {
        const t = s.truth.get(`disc-${i}`)!
        return t.turn + t.fade
      }
      for (const c of plasticContrasts(state)) {
        const at = FAMILY.findIndex((f) => f.mold === c.mold && f.plastic === c.a)
        const bt = FAMILY.findIndex((f) => f.mold === c.mold && f.plastic === c.b)
        // the mean of two discs of each plastic: the effect and half the variance of the discs' own
        const true_ = (stability(at) + stability(at + 1) - stability(bt) - stability(bt + 1)) / 2
        const own = Math.sqrt(SHARE.disc + SHARE.run) * Math.hypot(0.8, 0.8)
        all++
        if (Math.abs(c.difference.value - true_) <= 1.645 * Math.hypot(c.difference.sd, own)) held++
        if (c.pAMoreStable > 0.9 || c.pAMoreStable < 0.1) {
          sure++
          if (c.difference.value * true_ > 0) right++
        }
      }
    }
    expect(held / all).within(0.84, 1)
    expect(sure).greaterThan(0)
    expect(right / sure).greaterThan(0.85)
  })

  it('put the variance where it is', () => {
    const shares = (split: Partial<typeof SHARE>) => {
      const total = { mold: 0, blend: 0, plastic: 0, run: 0, disc: 0 }
      for (let k = 0; k < 3; k++) {
        const kin = Array.from({ length: 8 }, (_, m) =>
          [0, 1, 2].map(() => ({ mold: `M${m}`, plastic: 'one' })),
        ).flat()
        const s = simulateSession({
          seed: 0.037 * (k + 1),
          kin,
          shares: { mold: 0, blend: 0, plastic: 0, run: 0, disc: 0, ...split },
          called: true,
          hang: true,
          throws: 240,
        })
        const found = varianceShares(fit(s.evidence))
        expect(Object.values(found).reduce((a, v) => a + v, 0)).closeTo(1, 1e-9)
        for (const level of Object.keys(total) as (keyof typeof total)[]) total[level] += found[level] / 3
      }
      return total
    }
    const [molds, discs] = [shares({ mold: 1 }), shares({ disc: 1 })]
    expect(molds.mold).greaterThan(discs.mold + 0.1)
    expect(discs.disc).greaterThan(molds.disc + 0.1)
  })

  it('see what wear does', () => {
    const kin = FAMILY.map((k, i) => ({ ...k, wear: i % 2 }))
    let [held, all] = [0, 0]
    let narrowed = 0
    for (let k = 0; k < 8; k++) {
      const s = simulateSession({ seed: 0.041 * (k + 1), kin, called: true, hang: true, throws: 144 })
      const wear = effectsOf(fit(s.evidence)).find((e) => e.level === 'wear')!
      // the truth of the effect is in the drawn discs: worn less new, siblings apart
      const gap = FAMILY.reduce((sum, _, i) => {
        const t = s.truth.get(`disc-${i}`)!
        return sum + ((i % 2 === 1 ? 1 : -1) * (t.turn + t.fade)) / 6
      }, 0)
      const own = Math.sqrt((2 * (SHARE.disc + SHARE.run)) / 6) * Math.hypot(0.8, 0.8)
      all++
      if (Math.abs(wear.stability.value - gap) <= 1.645 * Math.hypot(wear.stability.sd, own)) held++
      if (wear.stability.sd < 0.8 * Math.hypot(0.5, 0.45)) narrowed++
    }
    expect(held / all).greaterThan(0.8)
    expect(narrowed).equal(all)
  })
})
