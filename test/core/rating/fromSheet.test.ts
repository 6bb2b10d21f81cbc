import { expect } from 'chai'
import { airDensity, REFERENCE_DENSITY } from '../../../core/flight/air.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { landingSd, THROW_SD, UNLOGGED_WIND_SD } from '../../../core/rating/evidence.ts'
import type { Evidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { armId, evidenceOf, kinOf, throwEvidence, whoseArm } from '../../../core/rating/fromSheet.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { line } from '../throw/line.ts'
import { simulateSession } from '../../simulate/session.ts'

describe('a sheet as evidence', () => {
  it('turns the thrower’s right into the fade side, for each hand and stroke', () => {
    for (const [hand, stroke, sign] of [
      ['right', 'backhand', -1],
      ['right', 'forehand', 1],
      ['left', 'backhand', 1],
      ['left', 'forehand', -1],
    ] as const) {
      const e = throwEvidence(
        line({ hand, stroke, midDownM: 50, midRightM: 4, windAlongMps: 2, windAcrossMps: 3 }),
      )
      expect(e.veerM).equal(-12 * sign)
      expect(e.mid).deep.equal({ downM: 50, veerM: 4 * sign })
      expect(e.air.windTowardFadeMps).equal(3 * sign)
      expect(e.air.windAlongMps).equal(2)
    }
  })

  it('knows the air from temperature and altitude, and the reference where nobody noted it', () => {
    expect(throwEvidence(line()).air.densityKgM3).equal(REFERENCE_DENSITY)
    expect(throwEvidence(line({ temperatureC: 5, altitudeM: 800 })).air.densityKgM3).equal(airDensity(5, 800))
  })

  it('is unsure of a wind nobody noted', () => {
    expect(throwEvidence(line()).windSdMps).equal(UNLOGGED_WIND_SD)
    expect(throwEvidence(line({ windAlongMps: 0 }))).not.have.property('windSdMps')
    expect(UNLOGGED_WIND_SD).greaterThan(THROW_SD[5]!)
  })

  it('keeps what was not seen absent, and angles in radians', () => {
    const e = throwEvidence(line({ hyzerCalledDeg: 12, hangS: 4.2 }))
    expect(e.hyzerCalledRad).closeTo(12 * DEGREE, 1e-12)
    expect(e.hangS).equal(4.2)
    for (const key of ['noseCalledRad', 'launchCalledRad', 'apexM', 'releaseSpeedMps', 'mid'])
      expect(e).not.have.property(key)
  })

  it('reads what a watcher called among the notes, and keeps to words it knows', () => {
    const called = (in_the_air: string) => throwEvidence(line({ notes: { in_the_air } })).calls
    expect(called('Stood up, dumped; sang')).deep.equal(['stood up', 'dumped'])
    expect(called('wobbly')).equal(undefined)
    expect(throwEvidence(line({}))).not.have.property('calls')
  })

  it('turns the sides of a recorded path with the landing, and takes the gusts that were logged', () => {
    const path = { downM: [1, 50], veerM: [0, 3], upM: [1, 8] }
    for (const hand of ['right', 'left'] as const) {
      const e = throwEvidence(line({ hand, path, rightM: 3, windAlongMps: 2, windSdMps: 1.5 }))
      expect(e.path!.veerM[1]).equal(e.veerM)
      expect(e.path!.upM).deep.equal([1, 8])
      expect(e.windSdMps).equal(1.5)
    }
    expect(throwEvidence(line({ windAlongMps: 2 }))).not.have.property('windSdMps')
    expect(throwEvidence(line({ windSdMps: 0.2 })).windSdMps).equal(UNLOGGED_WIND_SD)
  })

  it('lists discs and arms once, a person with two strokes twice', () => {
    const sheet = [
      line({ fullSpeedMps: 26 }),
      line({ throw: 'u', stroke: 'forehand' }),
      line({ throw: 'v', disc: 'HS-021', mold: 'Tarnwick', maker: 'Eskwright', plastic: 'Slate' }),
    ]
    const { discs, arms } = evidenceOf(sheet)
    expect(discs.map((d) => d.id)).deep.equal(['HS-017', 'HS-021'])
    expect(discs[0]).not.have.property('kin')
    expect(discs[1]!.kin).deep.equal(kinOf('Eskwright', 'Tarnwick', 'Slate', undefined))
    expect(arms).deep.equal([{ id: armId(sheet[0]!), fullSpeedMps: 26 }, { id: armId(sheet[1]!) }])
  })

  it('knows whose an arm is, whatever somebody is called', () => {
    const called = ['Ida', 'Ida|right|backhand', '100 % | Odile', '%7C']
    const arms = called.map((thrower) => armId(line({ thrower })))
    expect(new Set(arms).size).equal(called.length)
    arms.forEach((id, i) =>
      expect(whoseArm(id)).deep.equal({ thrower: called[i], hand: 'right', stroke: 'backhand' }),
    )
    expect(whoseArm(armId(line({ thrower: 'Ida', habitOf: 'hyzer | 1' }))).thrower).equal('Ida')
  })
})

describe('what the wind and the measure are worth', () => {
  it('measures worse by eye than with a tape, and paced the further the worse', () => {
    expect(landingSd('taped', 90, 5)[0]).lessThan(landingSd('ranged', 90, 5)[0])
    expect(landingSd('ranged', 90, 5)[0]).lessThan(landingSd(undefined, 90, 5)[0])
    expect(landingSd('paced', 100, 5)[0]).closeTo(3, 1e-12)
    expect(landingSd('paced', 10, 5)[0]).equal(0.5)
  })

  it('sees gusts where there were some, and is less sure for them', () => {
    const of = (gusts: number) => {
      let [gust, sd] = [0, 0]
      for (const seed of [0.1, 0.2, 0.3, 0.4, 0.5, 0.6]) {
        const state = fit(simulateSession({ seed, gusts, called: true }).evidence)
        gust += state.gust / 6
        sd += outcomeOf(state).discs.reduce((s, d) => s + d.sd.turn, 0) / 36
      }
      return { gust, sd }
    }
    const [calm, gusty] = [of(0), of(1.6)]
    expect(gusty.gust).greaterThan(2 * calm.gust)
    expect(gusty.sd).greaterThan(1.05 * calm.sd)
  })

  it('rates the same throws less surely when nobody noted the wind', () => {
    const sd = (e: Evidence) => outcomeOf(fit(e)).discs.reduce((s, d) => s + d.sd.turn, 0)
    let [noted, not] = [0, 0]
    for (const seed of [0.15, 0.35, 0.55, 0.75]) {
      const { evidence } = simulateSession({ seed, called: true })
      noted += sd(evidence)
      not += sd({
        ...evidence,
        throws: evidence.throws.map((t) => ({ ...t, windSdMps: UNLOGGED_WIND_SD })),
      })
    }
    expect(not).greaterThan(noted)
  })
})
