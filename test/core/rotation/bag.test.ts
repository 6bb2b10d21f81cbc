import { expect } from 'chai'
import { mean, randomLcg, randomNormal } from 'd3'
import { bagFlight, bagOf, covered, gapsIn, overlapsIn } from '../../../core/rotation/bag.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { fullSpeedWith } from '../../../core/flight/arm.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease, SPIN_PER_MPS } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { THROW_SD } from '../../../core/rating/evidence.ts'
import { HABIT, OF_HABIT } from '../../../core/rating/places.ts'

const does = new Map([
  [
    'straight',
    new Map([
      ['a', 0.9],
      ['b', 0.8],
    ]),
  ],
  [
    'stable',
    new Map([
      ['b', 0.1],
      ['c', 0.7],
    ]),
  ],
  ['touch', new Map([['d', 0.5]])],
])
const n = (speed: number, glide: number, turn: number, fade: number) => ({ speed, glide, turn, fade })

describe('a bag', () => {
  it('does a job when any of its discs does', () => {
    expect(covered(does, 'straight', ['a', 'b'])).closeTo(0.98, 1e-9)
    expect(covered(does, 'stable', ['a'])).equal(0)
    expect(covered(does, 'nothing', ['a'])).equal(0)
  })

  it('of a few discs does most jobs, keeps what is to stay, and takes nothing that adds nothing', () => {
    const all = ['a', 'b', 'c', 'd', 'e']
    expect(bagOf(does, all, 3)).members(['a', 'c', 'd'])
    expect(bagOf(does, all, 3, ['b'])).deep.equal(['b', 'c', 'd'])
    expect(bagOf(does, all, 5)).not.include('e')
    expect(bagOf(does, ['e'], 2)).deep.equal([])
    expect(bagOf(does, all, 1, ['e', 'a'])).deep.equal(['e'])
  })

  it('lands where its thrower lands it, and scatters as that arm does', () => {
    const numbers = n(9, 5, -1, 2)
    const none = new Array<number>(OF_HABIT).fill(0)
    const armOf = (habit: Partial<Record<keyof typeof HABIT, number>>, scatter: number) => ({
      habit: none.map(
        (_, k) => habit[(Object.keys(HABIT) as (keyof typeof HABIT)[]).find((h) => HABIT[h] === k)!] ?? 0,
      ),
      covariance: new Array<number>(OF_HABIT ** 2).fill(0),
      scatter,
    })
    const meant = bagFlight('a', numbers, 26)
    expect(bagFlight('a', numbers, 26, armOf({}, 1))).deep.equal(meant)
    // more hyzer lands farther to the fade side, and a wilder arm over more of the field
    const tilted = bagFlight('a', numbers, 26, armOf({ hyzer: 4 * DEGREE }, 1))
    expect(tilted.veerM).greaterThan(meant.veerM + 2)
    const wild = bagFlight('a', numbers, 26, armOf({}, 1.5))
    expect(Math.sqrt(wild.covariance[2] / meant.covariance[2])).within(1.4, 1.6)
    const far = bagFlight('a', numbers, 26, armOf({ lnSpeed: 0.08 }, 1))
    expect(far.carryM).greaterThan(meant.carryM + 4)
  })

  it('lands where its discs land, and scatters as throws do', () => {
    const numbers = n(9, 5, -1, 2)
    const { carryM, veerM, covariance } = bagFlight('a', numbers, 26)
    const normal = randomNormal.source(randomLcg(0.6))(0, 1)
    const release = cleanRelease(fullSpeedWith(26, 9))
    const thrown = Array.from({ length: 3000 }, () => {
      const speedMps = release.speedMps * Math.exp(THROW_SD[0]! * normal())
      return landing(
        numbers,
        STANDARD_BODY,
        {
          ...release,
          speedMps,
          spinRadps: SPIN_PER_MPS * speedMps,
          launchRad: release.launchRad + THROW_SD[1]! * normal(),
          hyzerRad: release.hyzerRad + THROW_SD[2]! * normal(),
          noseRad: release.noseRad + THROW_SD[3]! * normal(),
          azimuthRad: THROW_SD[4]! * normal(),
        },
        STILL_AIR,
      )
    })
    const sd = (of: (l: { carryM: number; veerM: number }) => number, about: number) =>
      Math.sqrt(mean(thrown, (l) => (of(l) - about) ** 2)!)
    expect(Math.sqrt(covariance[0])).within(
      0.8 * sd((l) => l.carryM, carryM),
      1.2 * sd((l) => l.carryM, carryM),
    )
    expect(Math.sqrt(covariance[2])).within(0.8 * sd((l) => l.veerM, veerM), 1.2 * sd((l) => l.veerM, veerM))
  })

  it('overlaps where nobody sees which was thrown, and has gaps where nothing lands', () => {
    const flights = [
      bagFlight('driver', n(9, 5, -1, 2), 26),
      bagFlight('its twin', n(9, 5, -1.05, 2), 26),
      bagFlight('turning', n(9, 5, -2.6, 1), 26),
      bagFlight('putter', n(3, 2, 0, 1), 26),
    ]
    const pairs = overlapsIn(flights)
    expect(pairs[0]).include({ a: 'driver', b: 'its twin' })
    expect(pairs.some((p) => [p.a, p.b].includes('putter'))).equal(false)
    const gaps = gapsIn(flights)
    expect(gaps).length(1)
    expect(gaps[0]!.a).equal('putter')
    expect(gaps[0]!.fartherM).greaterThan(12)
    expect(gapsIn(flights.slice(0, 2))).deep.equal([])
  })
})
