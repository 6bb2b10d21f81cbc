import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import {
  REFERENCE_LAUNCH,
  referenceSpeed,
  RELEASE_HEIGHT,
  SPIN_PER_MPS,
} from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { findAngle } from '../../../core/judge/findAngle.ts'
import { forecastThrow } from '../../../core/judge/forecast.ts'
import { broughtToLine, lineAngles, onTheLine, wholeDegrees } from '../../../core/judge/sameLine.ts'
import { fit } from '../../../core/rating/fit.ts'
import type { SimulatedSession } from '../../simulate/session.ts'
import { simulateSession } from '../../simulate/session.ts'

const planned = { arm: 'arm-0', power: 1, air: STILL_AIR }

/** The angle somebody with these habits must really mean. */
function trueAngle({ evidence, truth, arms, aimRad }: SimulatedSession, id: string): number | undefined {
  const { habit, fullSpeedMps } = arms[0]!
  const speedMps = fullSpeedMps * Math.exp(habit.lnSpeed)
  const found = findAngle(
    truth.get(id)!,
    evidence.discs.find((d) => d.id === id)!.body,
    {
      speedMps,
      launchRad: REFERENCE_LAUNCH + habit.launchRad,
      hyzerRad: 0,
      noseRad: habit.noseRad,
      azimuthRad: aimRad,
      spinRadps: SPIN_PER_MPS * speedMps,
      heightM: RELEASE_HEIGHT,
      wobble: 0,
    },
    STILL_AIR,
    { kind: 'finish on the line' },
  )
  return found.found ? found.hyzerRad - habit.hyzerRad : undefined
}

describe('the angle it takes to finish on the line', () => {
  it('is the one whose throw is expected on the line', () => {
    const { evidence } = simulateSession({ seed: 0.21, called: true })
    const state = fit(evidence)
    const { angles } = lineAngles(
      state,
      evidence.discs.map((d) => d.id),
      planned,
    )
    let found = 0
    for (const a of angles) {
      if (!a.found) continue
      found++
      const expected = forecastThrow(state, { ...planned, disc: a.disc, hyzerRad: a.hyzerRad })
      expect(expected.veerM, a.disc).closeTo(0, 0.03)
      expect(expected.carryM, a.disc).closeTo(a.carryM, 0.05)
    }
    expect(found).least(4)
  })

  it('holds the true angle, and states the order of two discs, as often as it says', () => {
    let [in90, angles, likelier, stated, pairs] = [0, 0, 0, 0, 0]
    for (let k = 0; k < 24; k++) {
      const session = simulateSession({ seed: (0.37 + k * 0.618) % 1, discs: 4, throws: 36, called: true })
      const ids = session.evidence.discs.map((d) => d.id)
      const told = lineAngles(fit(session.evidence), ids, planned)
      const truth = new Map(ids.map((id) => [id, trueAngle(session, id)]))
      for (const a of told.angles) {
        const real = truth.get(a.disc)
        if (!a.found || real === undefined) continue
        angles++
        if (Math.abs(real - a.hyzerRad) < 1.645 * a.sdRad) in90++
      }
      for (const p of told.pairs) {
        const [a, b] = [truth.get(p.a), truth.get(p.b)]
        if (a === undefined || b === undefined) continue
        pairs++
        stated += p.pAMore
        if (a > b) likelier++
      }
    }
    expect(angles).greaterThan(66)
    expect(in90 / angles).within(0.85, 0.97)
    expect(pairs).greaterThan(92)
    expect(likelier / pairs).closeTo(stated / pairs, 0.075)
  })

  it('asks for more hyzer of the disc that turns more, and says when no angle does', () => {
    const arm = { id: 'arm-0', fullSpeedMps: referenceSpeed(9) }
    const disc = (id: string, turn: number, fade: number) => ({
      id,
      published: { speed: 9, glide: 5, turn, fade },
      body: STANDARD_BODY,
    })
    const state = fit({
      discs: [disc('turns', -2.5, 1.5), disc('stands', -1, 2), disc('fades', 0.5, 4.5)],
      arms: [arm],
      throws: [],
    })
    const { angles, pairs } = lineAngles(state, ['stands', 'turns', 'fades'], planned)
    expect(angles.map((a) => a.disc)).deep.equal(['stands', 'turns', 'fades'])
    const pair = pairs.find((p) => p.a === 'turns' && p.b === 'stands')!
    expect(pair.moreRad).greaterThan(0)
    expect(pair.pAMore).greaterThan(0.5)
    // a gale from the turn side carries a soft throw away whatever the angle
    const gale = { ...planned, power: 0.45, air: { ...STILL_AIR, windTowardFadeMps: 22 } }
    const { angles: blown, pairs: none } = lineAngles(state, ['stands', 'fades'], gale)
    expect(blown[1]).deep.equal({
      disc: 'fades',
      found: false,
      why: 'It finishes on the fade side from every angle.',
    })
    expect(none).deep.equal([])
    // somebody who has not thrown yet: a wider answer, not none
    const [known] = lineAngles(state, ['stands'], planned).angles
    const [fresh] = lineAngles(state, ['stands'], { ...planned, arm: 'new' }, [{ id: 'new' }]).angles
    if (!known?.found || !fresh?.found) throw new Error('both have an angle')
    expect(fresh.sdRad).greaterThan(known.sdRad)
    expect(() => lineAngles(state, ['stands'], { ...planned, arm: 'nobody' })).throw(RangeError)
    expect(() => lineAngles(state, ['nothing'], planned)).throw(RangeError)
  })

  it('brings planned throws back to the line, each disc at its own angle', () => {
    const { evidence } = simulateSession({ seed: 0.21, called: true })
    const state = fit(evidence)
    const windy = { ...STILL_AIR, windAlongMps: -4 }
    const throws = evidence.discs.flatMap(({ id }) =>
      [STILL_AIR, windy].map((air) => ({ ...planned, disc: id, air, hyzerRad: 0, angleCalled: true })),
    )
    const aimed = broughtToLine(state, throws)
    expect(aimed.map((t) => [t.disc, t.air, t.angleCalled])).deep.equal(
      throws.map((t) => [t.disc, t.air, t.angleCalled]),
    )
    const on = aimed.filter((t) => Math.abs(forecastThrow(state, t).veerM) < 0.05)
    expect(on.length).least(aimed.length - 2)
    expect(new Set(aimed.map((t) => t.hyzerRad)).size).greaterThan(6)
    // a gale brings none back, and leaves the throws as they were meant
    const gale = throws.map((t) => ({ ...t, power: 0.4, air: { ...STILL_AIR, windTowardFadeMps: 22 } }))
    expect(broughtToLine(state, gale)).deep.equal(gale)
  })

  it('counts a throw as on the line by how throws scatter', () => {
    expect(onTheLine(90, 3.5)).equal(true)
    expect(onTheLine(90, -3.7)).equal(false)
    expect(onTheLine(30, 1.9)).equal(true)
    expect(wholeDegrees(-0.2 * DEGREE)).equal(0)
  })
})
