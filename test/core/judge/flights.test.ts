import { randomLcg, randomNormal } from 'd3'
import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { referenceRelease } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { correctedFlight } from '../../../core/judge/corrected.ts'
import { pathAsThrown } from '../../../core/rating/asThrown.ts'
import { forecastThrow } from '../../../core/judge/forecast.ts'
import { fit } from '../../../core/rating/fit.ts'
import { throwDisc } from '../../../core/simulate/thrower.ts'
import { simulateSession } from '../../simulate/session.ts'
import { outcomeOfBelief } from './outcomes.ts'

describe('corrected flight', () => {
  const [disc] = outcomeOfBelief([{ disc: 'D', turn: -1.4, fade: 1.7, sd: 0.3 }]).discs
  const flight = correctedFlight(disc!)

  it('is the flight of the believed numbers at the reference release in still air', () => {
    const end = landing(disc!.observed, STANDARD_BODY, referenceRelease(9), STILL_AIR)
    const last = flight.path.at(-1)!
    expect(last.x).closeTo(end.carryM, 0.02)
    expect(last.y).closeTo(end.veerM, 0.02)
    const claimed = landing(disc!.published, STANDARD_BODY, referenceRelease(9), STILL_AIR)
    expect(flight.published.at(-1)!.y).closeTo(claimed.veerM, 0.02)
  })

  it('has a band that holds nine flights in ten of those believed possible', () => {
    const normal = randomNormal.source(randomLcg(0.25))()
    const end = flight.band.at(-1)!
    let held = 0
    for (let i = 0; i < 1000; i++) {
      const numbers = {
        speed: 9,
        glide: 5 + 0.3 * normal(),
        turn: -1.4 + 0.3 * normal(),
        fade: 1.7 + 0.3 * normal(),
      }
      const { veerM } = landing(numbers, STANDARD_BODY, referenceRelease(9), STILL_AIR)
      if (veerM >= end.low && veerM <= end.high) held++
    }
    expect(held / 1000).within(0.86, 0.94)
  })
})

describe('forecast of a throw', () => {
  const { evidence } = simulateSession({ seed: 0.31, called: true, hang: true, throws: 120 })
  const state = fit(evidence)
  const planned = {
    disc: 'disc-2',
    arm: 'arm-0',
    power: 1,
    hyzerRad: 8 * DEGREE,
    air: { ...STILL_AIR, windAlongMps: -2 },
  }

  it('holds two throws in three in its ellipse, over many sessions', () => {
    let [inside, all] = [0, 0]
    for (let k = 1; k <= 12; k++) {
      const session = simulateSession({ seed: 0.08 * k, called: true, hang: true, gusts: 0.6 })
      const f = forecastThrow(fit(session.evidence), planned)
      const [xx, xy, yy] = f.covariance
      const uniform = randomLcg(0.08 * k + 0.01)
      const normal = randomNormal.source(uniform)()
      for (let i = 0; i < 60; i++) {
        // the wind at a throw is not quite the wind that was logged
        const air = {
          ...planned.air,
          windAlongMps: planned.air.windAlongMps + 0.6 * normal(),
          windTowardFadeMps: 0.6 * normal(),
        }
        const { body } = session.evidence.discs[2]!
        const numbers = session.truth.get('disc-2')!
        const { landing: l } = throwDisc(numbers, body, session.arms[0]!, planned, air, uniform)
        const [dx, dy] = [l.carryM + normal() - f.carryM, l.veerM + normal() - f.veerM]
        all++
        if ((yy * dx * dx - 2 * xy * dx * dy + xx * dy * dy) / (xx * yy - xy * xy) <= 2 * Math.log(3))
          inside++
      }
    }
    expect(inside / all).within(0.6, 0.73)
  })

  it('is wider for an arm nobody has seen throw', () => {
    const known = forecastThrow(state, planned)
    const stranger = forecastThrow(state, { ...planned, arm: 'new' }, [{ id: 'new', fullSpeedMps: 26 }])
    expect(stranger.covariance[0]).greaterThan(known.covariance[0])
    expect(stranger.covariance[2]).greaterThan(known.covariance[2])
  })

  it('says which disc it knows nothing of', () => {
    expect(() => forecastThrow(state, { ...planned, disc: 'nowhere' })).throws(RangeError, /nowhere/)
  })

  it('draws a throw from the hand to where it landed, through its bend', () => {
    const thrown = { ...evidence.throws[8]!, mid: { downM: 40, veerM: -6 } }
    const path = pathAsThrown(state, thrown)
    expect(path[0]).deep.equal({ x: 0, y: 0 })
    expect(path.at(-1)!.x).closeTo(thrown.carryM, 1e-6)
    expect(path.at(-1)!.y).closeTo(thrown.veerM, 1e-6)
    const i = path.findIndex((p) => p.x >= 40)
    const [a, b] = [path[i - 1]!, path[i]!]
    expect(a.y + ((b.y - a.y) * (40 - a.x)) / (b.x - a.x)).closeTo(-6, 0.15)
  })
})
