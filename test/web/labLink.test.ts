import { expect } from 'chai'
import {
  airOf,
  FIRST_SETUP,
  INTENDED,
  intendedLink,
  intendedOf,
  linkOf,
  setupOf,
} from '../../contract/lab.ts'
import type { LabSetup } from '../../contract/lab.ts'

const FULL: LabSetup = {
  discs: [
    { id: '01890a5d-ac96-774b-bcce-b302099a8057' },
    { numbers: { speed: 5, glide: 5, turn: -1, fade: 1 } },
  ],
  throw: { ...FIRST_SETUP.throw, hyzerDeg: 12.5, power: 0.83, aimDeg: -3.25 },
  weather: { windAlongMps: -4, windTowardFadeMps: 1.5, temperatureC: 3, altitudeM: 1200 },
  fade: 'right',
  obstacles: [
    { kind: 'tree', at: { downM: 40, sideM: -3 }, radiusM: 1, heightM: 12 },
    { kind: 'ceiling', fromM: 20, toM: 50, heightM: 6 },
    { kind: 'line', from: { downM: 0, sideM: 14 }, to: { downM: 80, sideM: 14 }, water: true },
    { kind: 'pond', at: { downM: 70, sideM: 10 }, radiusM: 6 },
    { kind: 'zone', at: { downM: 80, sideM: 0 }, radiusM: 8 },
  ],
  before: { disc: FIRST_SETUP.discs[0]!, throw: FIRST_SETUP.throw, weather: FIRST_SETUP.weather },
}

describe('a link to the lab', () => {
  it('holds everything that is set, and gives it back', () => {
    expect(setupOf(linkOf(FULL))).deep.equal(FULL)
    expect(setupOf(linkOf(FIRST_SETUP))).deep.equal(FIRST_SETUP)
  })

  it('is told apart from one that holds nothing, and from one that holds what no lab sets', () => {
    expect(setupOf('')).equal(undefined)
    expect(setupOf('setup=cut off {')).equal(null)
    const wild = { ...FULL, throw: { ...FULL.throw, hyzerDeg: 400 } }
    expect(setupOf(linkOf(wild))).equal(null)
    expect(setupOf(linkOf({ ...FULL, discs: [] }))).equal(null)
  })

  it('to the field holds the throw that is meant, and nothing that is none', () => {
    const meant = { discId: '01890a5d-ac96-774b-bcce-b302099a8057', hyzerDeg: 17, power: 0.85, aimDeg: -4.3 }
    const held = (link: string) => new URLSearchParams(link).get(INTENDED)
    expect(intendedOf(held(intendedLink(meant)))).deep.equal(meant)
    // a link of before, which said nothing of the aim
    const { aimDeg: _, ...before } = meant
    expect(intendedOf(JSON.stringify(before))).deep.equal({ ...meant, aimDeg: 0 })
    for (const wrong of [null, '', '17', '{"discId":"somebody’s"}'])
      expect(intendedOf(wrong), String(wrong)).equal(undefined)
  })

  it('means thinner air where it is warm and high', () => {
    expect(airOf(FULL.weather)).deep.include({ windAlongMps: -4, windTowardFadeMps: 1.5 })
    const at = (altitudeM: number, temperatureC: number) =>
      airOf({ ...FULL.weather, altitudeM, temperatureC }).densityKgM3
    expect(at(1500, 20)).lessThan(at(0, 20))
    expect(at(0, 35)).lessThan(at(0, 5))
  })
})
