import { expect } from 'chai'
import { randomLcg, randomNormal } from 'd3'
import fc from 'fast-check'
import { END_BANK, LEAST_BANK } from '../../../core/flight/glimpses.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import {
  AIR_CALLS,
  asMeasured,
  calledBanks,
  callProbability,
  isAirCall,
  WATCHER_SD,
} from '../../../core/rating/calls.ts'
import type { CalledBank } from '../../../core/rating/calls.ts'
import { CALLED_SD } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { simulateSession } from '../../simulate/session.ts'

const bank = fc.double({ min: -60 * DEGREE, max: 60 * DEGREE, noNaN: true })
const anyCalls = fc.tuple(fc.subarray([...AIR_CALLS]), fc.constantFrom(10, 0, -8))

describe('calls of the watcher', () => {
  it('order what the bank did: held, stood up, turned share out all there is', () => {
    fc.assert(
      fc.property(bank, fc.constantFrom(10, 6), (x, deg) => {
        const of = (call: (typeof AIR_CALLS)[number]) =>
          callProbability(calledBanks([call], deg * DEGREE)[0]!, x)
        expect(of('held') + of('stood up') + of('turned')).closeTo(1, 1e-6)
        const ends = (['dumped', 'fought back', 'turned'] as const).map((call) => {
          const said = calledBanks([call], -deg * DEGREE)
          return callProbability(said[said.length - 1]!, x)
        })
        expect(ends.reduce((s, p) => s + p, 0)).closeTo(1, 1e-6)
      }),
    )
  })

  it('take the further of two, and nothing from two that contradict each other', () => {
    expect(calledBanks(['stood up', 'turned'], 0.2)).deep.equal(calledBanks(['turned'], 0.2))
    expect(calledBanks(['fought back', 'dumped'], 0)).deep.equal(calledBanks(['dumped'], 0))
    expect(calledBanks(['held', 'turned'], 0.2).map((b) => b.bank)).deep.equal([END_BANK])
    expect(calledBanks(['held'], 0)[1]).include({ bank: END_BANK, low: -Infinity })
    expect(calledBanks(['held', 'turned', 'dumped'], 0.2).map((b) => b.bank)).deep.equal([END_BANK])
    expect(calledBanks(['held', 'dumped'], 0.2).map((b) => b.bank)).deep.equal([LEAST_BANK, END_BANK])
    expect(calledBanks([], 0)).deep.equal([])
    expect(isAirCall('turned')).equal(true)
    expect(isAirCall('sang')).equal(false)
  })

  it('become measurements with the slope and the curvature of their log probability', () => {
    fc.assert(
      fc.property(anyCalls, fc.double({ min: -1.8, max: 1.8, noNaN: true }), ([calls, deg], z) => {
        for (const b of calledBanks(calls, deg * DEGREE)) {
          const edge = Number.isFinite(b.low) ? b.low : b.high
          const x = edge + z * WATCHER_SD
          const h = 0.02 * WATCHER_SD
          const ln = (v: number) => Math.log(callProbability(b, v))
          const slope = (ln(x + h) - ln(x - h)) / (2 * h)
          const curve = (ln(x + h) - 2 * ln(x) + ln(x - h)) / (h * h)
          const { gap, variance, told } = asMeasured(b, x)
          expect(gap / variance).closeTo(slope, 0.02 * Math.abs(slope) + 0.02)
          expect(1 / variance).closeTo(-curve, 0.06 * Math.abs(curve) + 0.6)
          expect(told).within(0, 1)
        }
      }),
    )
  })

  it('stay finite numbers, however wrong the call', () => {
    fc.assert(
      fc.property(anyCalls, fc.double({ min: -2, max: 2, noNaN: true }), ([calls, deg], x) => {
        for (const b of calledBanks(calls, deg * DEGREE)) {
          const m = asMeasured(b, x)
          expect(Number.isFinite(m.gap) && m.variance > 0 && Number.isFinite(m.variance)).equal(true)
        }
      }),
    )
  })

  it('tell of a disc what its landings alone do not, and are honest about it', () => {
    const seeds = Array.from({ length: 8 }, (_, k) => ((k + 1) * 0.618) % 1)
    let [closer, sdWith, sdWithout, held, discs] = [0, 0, 0, 0, 0]
    for (const seed of seeds) {
      const { evidence, truth } = simulateSession({ seed, throws: 36, watched: true })
      const heard = outcomeOf(fit(evidence))
      const unheard = outcomeOf(fit({ ...evidence, throws: evidence.throws.map(({ calls: _, ...t }) => t) }))
      heard.discs.forEach((d, i) => {
        const true_ = truth.get(d.disc)!.turn
        closer += (d.observed.turn - true_) ** 2 - (unheard.discs[i]!.observed.turn - true_) ** 2
        sdWith += d.sd.turn
        sdWithout += unheard.discs[i]!.sd.turn
        if (Math.abs(d.observed.turn - true_) < 1.645 * d.sd.turn) held++
        discs++
      })
    }
    expect(closer).lessThan(0)
    expect(sdWith).lessThan(0.97 * sdWithout)
    expect(held / discs).within(0.8, 1)
  })

  it('of an eye that was measured are weighed by its error: the rating comes nearer and says rightly how sure it is', () => {
    const eye = 9 * DEGREE
    let [nearer, heldBy, heldUsual, discs] = [0, 0, 0, 0]
    for (let k = 1; k <= 10; k++) {
      const { evidence, truth } = simulateSession({ seed: (k * 0.618) % 1, throws: 36, called: true })
      const normal = randomNormal.source(randomLcg(k / 11))(0, eye)
      const seen = evidence.throws.map((t) =>
        t.hyzerCalledRad === undefined ? t : { ...t, hyzerCalledRad: t.hyzerCalledRad + normal() },
      )
      const by = outcomeOf(
        fit({
          ...evidence,
          throws: seen.map((t) => ({ ...t, watcherSdRad: Math.hypot(eye, CALLED_SD.hyzer) })),
        }),
      )
      const usual = outcomeOf(fit({ ...evidence, throws: seen }))
      by.discs.forEach((d, i) => {
        const [other, true_] = [usual.discs[i]!, truth.get(d.disc)!.turn]
        nearer += (d.observed.turn - true_) ** 2 - (other.observed.turn - true_) ** 2
        heldBy += Number(Math.abs(d.observed.turn - true_) < 1.645 * d.sd.turn)
        heldUsual += Number(Math.abs(other.observed.turn - true_) < 1.645 * other.sd.turn)
        discs++
      })
    }
    expect(nearer).lessThan(0)
    expect(heldBy / discs).within(0.82, 1)
    // taken for as good as usual they claim too much
    expect(heldUsual).lessThan(heldBy)
    // and a bank that is called is as uncertain
    const [usually] = calledBanks(['turned'], 0)
    const [hardly] = calledBanks(['turned'], 0, 2 * WATCHER_SD)
    const beyond = usually!.high + WATCHER_SD
    expect(callProbability(usually!, beyond)).closeTo(0.159, 0.001)
    expect(callProbability(hardly!, beyond)).closeTo(0.309, 0.001)
    expect(asMeasured(hardly!, usually!.high).variance).closeTo(
      4 * asMeasured(usually!, usually!.high).variance,
      1e-9,
    )
  })

  it('that are absurd do little: the throw is believed less', () => {
    const { evidence } = simulateSession({ seed: 0.31, throws: 36 })
    const plain = outcomeOf(fit(evidence))
    const absurd: CalledBank['bank'] = LEAST_BANK
    expect(calledBanks(['turned'], 0.1)[0]!.bank).equal(absurd)
    const throws = evidence.throws.map((t, i) =>
      i === 4 && t.hyzerRad >= 0 ? { ...t, calls: ['turned' as const, 'dumped' as const] } : t,
    )
    const with_ = outcomeOf(fit({ ...evidence, throws }))
    with_.discs.forEach((d, i) =>
      expect(Math.abs(d.observed.turn - plain.discs[i]!.observed.turn)).lessThan(2 * d.sd.turn),
    )
  })
})
