import { randomLcg, randomNormal } from 'd3'
import { expect } from 'chai'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { tracePath } from '../../../core/flight/path.ts'
import { noDistances } from '../../../core/flight/landing.ts'
import { chanceOf, CLOUD, cloudOf, endTiltOf, rollWords, tracedBy } from '../../../core/lab/cloud.ts'
import { drawsOf, VARIES } from '../../../core/lab/draws.ts'
import { endedAmong } from '../../../core/lab/field.ts'
import type { Obstacle } from '../../../core/lab/field.ts'
import { releaseOf } from '../../../core/lab/setup.ts'
import type { LabThrow, Setup } from '../../../core/lab/setup.ts'
import { USUAL } from './usual.ts'

const setupOf = (rest: Partial<LabThrow> = {}, air = STILL_AIR): Setup => ({
  disc: {
    numbers: { speed: 9, glide: 5, turn: -1, fade: 2 },
    covariance: [0.09, 0, 0, 0, 0.04, -0.02, 0, -0.02, 0.05],
    body: STANDARD_BODY,
  },
  throw: { ...USUAL, ...rest },
  air,
})
/** Fields that throws go through, over and into. */
const FIELDS: readonly (readonly Obstacle[])[] = [
  [
    { kind: 'tree', at: { downM: 40, sideM: -6 }, radiusM: 1, heightM: 12 },
    { kind: 'tree', at: { downM: 42, sideM: 2 }, radiusM: 0.8, heightM: 12 },
  ],
  [
    { kind: 'ceiling', fromM: 20, toM: 45, heightM: 6.5 },
    { kind: 'line', from: { downM: 0, sideM: 14 }, to: { downM: 120, sideM: 14 }, water: true },
  ],
  [
    { kind: 'pond', at: { downM: 80, sideM: 0 }, radiusM: 9 },
    { kind: 'zone', at: { downM: 95, sideM: 6 }, radiusM: 12 },
    { kind: 'tree', at: { downM: 60, sideM: -3 }, radiusM: 1.5, heightM: 3 },
  ],
]

/** The chance over throws drawn by chance, each flown by itself. */
function drawn(setup: Setup, obstacles: readonly Obstacle[], count: number, seed: number): number {
  const normal = randomNormal.source(randomLcg(seed))(0, 1)
  const log = noDistances()
  let both = 0
  for (let i = 0; i < count; i++) {
    const flown = tracedBy(
      setup,
      Float64Array.from({ length: VARIES }, () => normal()),
      log,
    )
    if (flown && endedAmong(obstacles, log, flown.steps, flown.landed).fate === 'in') both++
  }
  return both / count
}

describe('a cloud of throws', () => {
  it('tells the chance to get through and stay in within a point of 20,000 drawn throws', () => {
    for (const [i, obstacles] of FIELDS.entries())
      for (const setup of [setupOf(), setupOf({ hyzerDeg: 8, aimDeg: -3, power: 0.9 })]) {
        const { both } = chanceOf(cloudOf(setup, obstacles, 2 * CLOUD), obstacles)
        const really = drawn(setup, obstacles, 20_000, 0.1 + 0.2 * i)
        // 20,000 drawn throws are themselves off by a third of a point as often as not
        expect(both, `field ${i}`).closeTo(really, 0.01)
      }
  })

  it('says what of it gets through, what of that stays, and which obstacle takes how much', () => {
    const setup = setupOf()
    for (const obstacles of FIELDS) {
      const { through, stays, both, taken } = chanceOf(cloudOf(setup, obstacles, CLOUD), obstacles)
      expect(through * stays).closeTo(both, 1e-9)
      expect(both + taken.reduce((a, b) => a + b, 0)).closeTo(1, 1e-9)
    }
    const open = chanceOf(cloudOf(setup, [], CLOUD), [])
    expect(open).deep.equal({ through: 1, stays: 1, both: 1, taken: [] })
  })

  it('is the same for the same throw, and lies about where the throw is meant to land', () => {
    const [a, b] = [cloudOf(setupOf(), [], CLOUD), cloudOf(setupOf(), [], CLOUD)]
    expect(a).deep.equal(b)
    // and the same in parts
    const parts = [0, 1, 2].map((place) => cloudOf(setupOf(), [], CLOUD, { place, of: 3 }))
    expect(parts.flatMap((p) => [...p.down])).deep.equal([...a.down])
    expect(parts.flatMap((p) => [...p.fate])).deep.equal([...a.fate])
    const { carryM, veerM } = tracePath(
      setupOf().disc.numbers,
      STANDARD_BODY,
      releaseOf(setupOf()),
      STILL_AIR,
    )
    const mean = (v: Float32Array) => v.reduce((x, y) => x + y, 0) / v.length
    // a nose up or down takes from the carry, never adds to it
    expect(mean(a.down)).within(carryM - 5, carryM)
    expect(mean(a.side)).closeTo(veerM, 2)
    const wide = cloudOf(setupOf({ scatter: 2 }), [], CLOUD)
    const sd = (v: Float32Array) => Math.sqrt(mean(v.map((x) => (x - mean(v)) ** 2)))
    expect(sd(wide.side)).greaterThan(1.5 * sd(a.side))
  })

  it('differs from throw to throw as normal values do, evenly', () => {
    const draws = drawsOf(4000)
    for (let j = 0; j < VARIES; j++) {
      const own = Array.from({ length: 4000 }, (_, i) => draws[i * VARIES + j]!)
      const mean = own.reduce((a, b) => a + b, 0) / 4000
      expect(mean).closeTo(0, 0.02)
      expect(own.reduce((a, b) => a + b * b, 0) / 4000).closeTo(1, 0.03)
      for (let k = 0; k < j; k++) {
        let sum = 0
        for (let i = 0; i < 4000; i++) sum += draws[i * VARIES + j]! * draws[i * VARIES + k]!
        expect(sum / 4000, `${j} with ${k}`).closeTo(0, 0.05)
      }
    }
  })

  it('knows a throw that lands on its edge and rolls from one that lies down', () => {
    expect(Math.abs(endTiltOf(setupOf()))).lessThan(50)
    expect(rollWords(endTiltOf(setupOf()))).equal(undefined)
    const roller: Setup = {
      ...setupOf({ hyzerDeg: -42, launchDeg: 12 }),
      disc: { ...setupOf().disc, numbers: { speed: 9, glide: 5, turn: -3, fade: 1 } },
    }
    expect(rollWords(endTiltOf(roller))).match(/^It lands at \d+° and rolls: the carry ends here/)
    expect(rollWords(58)).equal(
      'It lands at 58° and cuts in and rolls: the carry ends here, and where it rolls to is not told.',
    )
  })
})

describe('obstacles', () => {
  const log = noDistances()
  const flown = tracedBy(setupOf(), new Float64Array(VARIES), log)!
  const ended = (...obstacles: Obstacle[]) => endedAmong(obstacles, log, flown.steps, flown.landed)
  const path = tracePath(setupOf().disc.numbers, STANDARD_BODY, releaseOf(setupOf()), STILL_AIR)

  it('stop what flies into them, and let over and past what flies over and past', () => {
    const at = { downM: 0.99 * path.carryM, sideM: flown.landed.sideM }
    expect(ended({ kind: 'tree', at, radiusM: 1, heightM: 10 })).include({ fate: 'stopped', by: 0 })
    const early = { downM: 30, sideM: 0 }
    expect(ended({ kind: 'tree', at: early, radiusM: 3, heightM: 1 }).fate).equal('in')
    expect(ended({ kind: 'tree', at: { ...early, sideM: 12 }, radiusM: 3, heightM: 30 }).fate).equal('in')
    expect(ended({ kind: 'ceiling', fromM: 20, toM: 50, heightM: path.apexM + 1 }).fate).equal('in')
    const low = ended({ kind: 'ceiling', fromM: 0, toM: path.carryM, heightM: path.apexM - 0.5 })
    expect(low.fate).equal('stopped')
    expect(low.at.downM).lessThan(path.carryM)
  })

  it('take what lands beyond a line, in a pond or off every zone', () => {
    const across = (downM: number): Obstacle => ({
      kind: 'line',
      from: { downM, sideM: -40 },
      to: { downM, sideM: 40 },
      water: false,
    })
    expect(ended(across(path.carryM - 1))).include({ fate: 'out', by: 0 })
    expect(ended(across(path.carryM + 1)).fate).equal('in')
    expect(ended({ kind: 'pond', at: flown.landed, radiusM: 2 }).fate).equal('out')
    const zone = (sideM: number): Obstacle => ({
      kind: 'zone',
      at: { downM: flown.landed.downM, sideM: flown.landed.sideM + sideM },
      radiusM: 5,
    })
    expect(ended(zone(0)).fate).equal('in')
    expect(ended(zone(9))).include({ fate: 'off the zone', by: 0 })
    // one of two zones will do
    expect(ended(zone(9), zone(2)).fate).equal('in')
  })
})
