import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { fullSpeedWith } from '../../../core/flight/arm.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { tracePath, veerAt } from '../../../core/flight/path.ts'
import { cleanRelease, RELEASE_HEIGHT } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { anglesOf } from '../../../core/lab/angles.ts'
import { EYES, labFlightOf, fromBehind, instantOf } from '../../../core/lab/flight.ts'
import type { Setup } from '../../../core/lab/setup.ts'
import { throwTo } from '../../../core/lab/throwTo.ts'
import { USUAL } from './usual.ts'

const setupOf = (numbers: [number, number, number, number], change: Partial<Setup['throw']> = {}): Setup => {
  const [speed, glide, turn, fade] = numbers
  return {
    disc: { numbers: { speed, glide, turn, fade }, covariance: null, body: STANDARD_BODY },
    throw: { ...USUAL, ...change },
    air: STILL_AIR,
  }
}

describe('a throw of the lab', () => {
  it('flies as the recorded path does, instant by instant, and ends on the ground', () => {
    const setup = setupOf([9, 5, -1, 2], { hyzerDeg: 8, power: 0.9 })
    const flight = labFlightOf(setup)!
    const path = tracePath(
      setup.disc.numbers,
      STANDARD_BODY,
      cleanRelease(0.9 * fullSpeedWith(USUAL.armMps, 9), 8 * DEGREE),
      STILL_AIR,
    )
    expect(flight.landed.downM).closeTo(path.carryM, 0.05)
    expect(flight.landed.sideM).closeTo(path.veerM, 0.05)
    expect(flight.timeS[0]).equal(0)
    expect(flight.upM[0]).closeTo(RELEASE_HEIGHT, 1e-9)
    expect(flight.tiltDeg[0]).closeTo(8, 0.3)
    expect(flight.upM.at(-1)).equal(0)
    expect(flight.timeS.at(-1)).equal(flight.hangS)
    expect(Math.max(...flight.upM)).closeTo(flight.apexM, 0.1)
    for (const part of [0.3, 0.6, 0.9]) {
      const at = instantOf(flight, part * flight.hangS)
      expect(at.sideM).closeTo(veerAt(path, at.downM), 0.15)
    }
    expect(instantOf(flight, -1)).deep.include({ downM: 0 })
    expect(instantOf(flight, 99)).deep.include(flight.landed)
  })

  it('is brought to a place by power and aim alone, also in wind, or as near as the arm throws', () => {
    const calm = setupOf([9, 5, -1, 2], { hyzerDeg: 12 })
    const windy = { ...calm, air: { ...STILL_AIR, windAlongMps: -3, windTowardFadeMps: 4 } }
    for (const setup of [calm, windy])
      for (const place of [
        { downM: 60, sideM: 0 },
        { downM: 45, sideM: -9 },
        { downM: 70, sideM: 12 },
      ]) {
        const found = throwTo(setup, place)
        const { landed } = labFlightOf({ ...setup, throw: found })!
        expect(Math.hypot(landed.downM - place.downM, landed.sideM - place.sideM)).lessThan(0.1)
        expect({ ...found, power: 0, aimDeg: 0 }).deep.equal({ ...setup.throw, power: 0, aimDeg: 0 })
      }
    const far = throwTo(calm, { downM: 190, sideM: 10 })
    expect(far.power).equal(1)
    const { landed } = labFlightOf({ ...calm, throw: far })!
    expect(Math.atan2(landed.sideM, landed.downM)).closeTo(Math.atan2(10, 190), 0.002)
  })

  it('knows the angle that stands up to flat, that finishes on the line, and that flexes back', () => {
    const setup = setupOf([11, 5, -3, 1])
    const { standsUp, onLine, flexes } = anglesOf(setup)
    const flown = (hyzerDeg: number) => labFlightOf({ ...setup, throw: { ...setup.throw, hyzerDeg } })!
    // a little steeper it no longer comes to flat, a little less steep it turns over
    expect(standsUp).within(3, 40)
    expect(Math.min(...flown(standsUp! + 2).tiltDeg)).greaterThan(1)
    expect(Math.min(...flown(standsUp! - 2).tiltDeg)).lessThan(1)
    expect(Math.abs(flown(onLine!).landed.sideM)).lessThan(0.5)
    const stable = setupOf([9, 3, 0, 4])
    const back = anglesOf(stable)
    expect(back.standsUp).equal(null)
    const stableAt = (hyzerDeg: number) => labFlightOf({ ...stable, throw: { ...stable.throw, hyzerDeg } })!
    expect(back.flexes).within(-40, -3)
    expect(stableAt(back.flexes! + 2).tiltDeg.at(-1)).greaterThan(3)
    expect(stableAt(back.flexes! - 2).tiltDeg.at(-1)).lessThan(3)
    // a disc that turns over for good does not come back from an anhyzer
    expect(flexes === null || flexes > back.flexes!).equal(true)
  })

  it('is seen from behind the tee: what is farther is nearer the horizon and the line', () => {
    const near = fromBehind({ downM: 10, sideM: 3, upM: 0 })
    const far = fromBehind({ downM: 60, sideM: 3, upM: 0 })
    expect(near.across).closeTo(3 / (10 + EYES.behindM), 1e-12)
    expect(far.across).lessThan(near.across)
    expect(near.above).lessThan(far.above)
    expect(far.above).lessThan(0)
    expect(fromBehind({ downM: 30, sideM: -2, upM: EYES.heightM })).deep.include({ above: 0 })
  })
})
