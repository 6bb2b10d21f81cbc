import { expect } from 'chai'
import { airDensity, STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease, referenceSpeed } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { CAUSES, explainThrow } from '../../../core/judge/why.ts'
import type { Why } from '../../../core/judge/why.ts'
import type { ThrowEvidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { simulateSession } from '../../simulate/session.ts'

const total = (w: Why, key: 'carryM' | 'veerM') =>
  w.promised[key] + CAUSES.reduce((s, c) => s + w.parts[c][key], 0) + w.unexplained[key]

describe('why it finished there', () => {
  const published = { speed: 9, glide: 5, turn: -1, fade: 2 }
  const discs = [{ id: 'a', published, body: STANDARD_BODY, control: true }]
  const arms = [{ id: 'arm', fullSpeedMps: referenceSpeed(9) }]
  const one = (change: Partial<ThrowEvidence>, hyzerRad = 0, air = STILL_AIR): Why => {
    const { carryM, veerM } = landing(
      published,
      STANDARD_BODY,
      cleanRelease(referenceSpeed(9), hyzerRad),
      air,
    )
    const thrown: ThrowEvidence = {
      id: 't',
      disc: 'a',
      arm: 'arm',
      power: 1,
      hyzerRad: 0,
      air,
      carryM,
      veerM,
      counts: true,
      ...change,
    }
    return explainThrow(fit({ discs, arms, throws: [thrown] }), thrown)
  }

  it('adds up to the whole, for every throw of simulated sessions', () => {
    for (const seed of [0.2, 0.6]) {
      const { evidence } = simulateSession({ seed, called: true, bad: 0.1, gusts: 1, throws: 36 })
      const state = fit(evidence)
      for (const t of evidence.throws) {
        const w = explainThrow(state, t)
        expect(total(w, 'carryM')).closeTo(t.carryM, 1e-6)
        expect(total(w, 'veerM')).closeTo(t.veerM, 1e-6)
      }
    }
  })

  it('names nothing worth a step when the throw does what its label promises', () => {
    const w = one({})
    for (const c of CAUSES) {
      expect(Math.abs(w.parts[c].carryM), c).lessThan(0.8)
      expect(Math.abs(w.parts[c].veerM), c).lessThan(0.8)
    }
  })

  it('gives the angle what a called angle did', () => {
    const w = one({ hyzerCalledRad: 8 * DEGREE }, 8 * DEGREE)
    const whole = w.landed.veerM - w.promised.veerM
    expect(whole).greaterThan(8)
    expect(w.parts.angle.veerM / whole).within(0.75, 1.1)
    expect(w.release.hyzerRad / DEGREE).within(6, 9)
  })

  it('gives wind and air what wind and air did', () => {
    const windy = one({}, 0, { ...STILL_AIR, windAlongMps: -4 })
    expect(windy.parts.wind.carryM / (windy.landed.carryM - windy.promised.carryM)).within(0.8, 1.2)
    const cold = one({}, 0, { ...STILL_AIR, densityKgM3: airDensity(-10, 0) })
    expect(cold.parts.air.veerM / (cold.landed.veerM - cold.promised.veerM)).within(0.7, 1.3)
  })

  it('gives the disc what makes it unlike its label', () => {
    const { evidence, truth } = simulateSession({
      seed: 0.44,
      called: true,
      hang: true,
      control: true,
      throws: 96,
    })
    const state = fit(evidence)
    for (const d of evidence.discs) {
      const t = truth.get(d.id)!
      const gap = t.turn + t.fade - d.published.turn - d.published.fade
      if (Math.abs(gap) < 1) continue
      const flat = evidence.throws.find((x) => x.disc === d.id && x.hyzerRad === 0)!
      expect(Math.sign(explainThrow(state, flat).parts.disc.veerM)).equal(Math.sign(gap))
    }
  })
})
