import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { shapley } from '../../../core/judge/shapley.ts'
import { whatChanged } from '../../../core/lab/changed.ts'
import { chanceOf, cloudOf } from '../../../core/lab/cloud.ts'
import type { Obstacle } from '../../../core/lab/field.ts'
import { bestOf, findThrows } from '../../../core/lab/find.ts'
import type { LabDisc, Setup } from '../../../core/lab/setup.ts'
import { USUAL } from './usual.ts'

const disc = (speed: number, turn: number, fade: number): LabDisc => ({
  numbers: { speed, glide: 5, turn, fade },
  covariance: [0.04, 0, 0, 0, 0.02, 0, 0, 0, 0.02],
  body: STANDARD_BODY,
})
const discs = [
  { id: 'straight', disc: disc(5, -0.5, 0.5) },
  { id: 'stable', disc: disc(9, 0, 3) },
  { id: 'flippy', disc: disc(9, -3, 1) },
]
const tree = (downM: number, sideM: number): Obstacle => ({
  kind: 'tree',
  at: { downM, sideM },
  radiusM: 1,
  heightM: 25,
})

describe('find the throw', () => {
  it('comes as near as looking at everything does, on small cases', () => {
    const fields: readonly (readonly Obstacle[])[] = [
      [tree(30, -3), tree(30, 3), { kind: 'zone', at: { downM: 80, sideM: 8 }, radiusM: 9 }],
      [tree(25, 0), { kind: 'zone', at: { downM: 70, sideM: -4 }, radiusM: 8 }],
      [
        { kind: 'line', from: { downM: 0, sideM: 6 }, to: { downM: 120, sideM: 6 }, water: true },
        { kind: 'zone', at: { downM: 85, sideM: 0 }, radiusM: 8 },
      ],
    ]
    for (const [i, obstacles] of fields.entries()) {
      const [found] = findThrows({ discs, like: USUAL, air: STILL_AIR, obstacles }, 1).throws
      const looked: { setup: Setup; both: number }[] = []
      for (const d of discs)
        for (const power of [1, 0.9, 0.8, 0.7, 0.6])
          for (let hyzerDeg = -24; hyzerDeg <= 30; hyzerDeg += 6)
            for (let aimDeg = -12; aimDeg <= 12; aimDeg += 3) {
              const setup = { disc: d.disc, air: STILL_AIR, throw: { ...USUAL, power, hyzerDeg, aimDeg } }
              const { both } = chanceOf(cloudOf(setup, obstacles, 60), obstacles)
              looked.push({ setup, both })
            }
      // a few throws flatter the best of some thousand by chance: the best are thrown more often
      const best = looked
        .sort((a, b) => b.both - a.both)
        .slice(0, 25)
        .map(({ setup }) => chanceOf(cloudOf(setup, obstacles, 2000), obstacles).both)
      expect(found!.chance.both, `field ${i}`).greaterThan(Math.max(...best) - 0.03)
    }
  })

  it('names the disc that does it best, one throw of a disc, the surest first', () => {
    const obstacles: readonly Obstacle[] = [{ kind: 'zone', at: { downM: 75, sideM: 0 }, radiusM: 10 }]
    const { throws: found, nearest } = findThrows({ discs, like: USUAL, air: STILL_AIR, obstacles })
    expect(nearest).equal(undefined)
    expect(found.length).within(2, 3)
    expect(new Set(found.map((f) => f.id)).size).equal(found.length)
    const sure = found.map((f) => f.chance.both)
    expect(sure).deep.equal(sure.toSorted((a, b) => b - a))
    expect(sure[0]).greaterThan(0.4)
  })

  it('finds none where nothing gets through, and says what comes nearest and what takes it', () => {
    const wall: readonly Obstacle[] = [
      ...Array.from({ length: 60 }, (_, i) => tree(15, i - 30)),
      { kind: 'zone', at: { downM: 70, sideM: 0 }, radiusM: 10 },
    ]
    const none = findThrows({ discs, like: USUAL, air: STILL_AIR, obstacles: wall })
    expect(none.throws).deep.equal([])
    const { both, through, taken } = none.nearest!.chance
    expect(both).lessThan(0.1)
    expect(taken.slice(0, 60).reduce((a, b) => a + b, 0)).closeTo(1 - through, 1e-9)
    const beyond: readonly Obstacle[] = [{ kind: 'zone', at: { downM: 190, sideM: 0 }, radiusM: 6 }]
    const short = findThrows({ discs, like: USUAL, air: STILL_AIR, obstacles: beyond })
    expect(short.throws).deep.equal([])
    // searches among parts of the discs say what one among all says
    const parts = discs.map((d) => findThrows({ discs: [d], like: USUAL, air: STILL_AIR, obstacles: beyond }))
    expect(bestOf(parts).throws).deep.equal([])
    expect(bestOf(parts).nearest!.chance.both).least(short.nearest!.chance.both - 0.03)
  })
})

describe('what changed', () => {
  const from: Setup = { disc: discs[0]!.disc, throw: USUAL, air: STILL_AIR }

  it('is told difference by difference, and all of them are the whole', () => {
    const to: Setup = {
      disc: discs[1]!.disc,
      throw: { ...USUAL, hyzerDeg: 10, noseDeg: 2, power: 0.9 },
      air: { ...STILL_AIR, windAlongMps: -4, windTowardFadeMps: 1, densityKgM3: 1.05 },
    }
    const { whole, parts } = whatChanged(from, to)
    expect(parts.map((p) => p.change)).deep.equal(['disc', 'speed', 'angle', 'nose', 'wind', 'air'])
    for (const part of ['carryM', 'veerM', 'at60M'] as const)
      expect(parts.reduce((sum, p) => sum + p[part], 0)).closeTo(whole[part], 1e-9)
    // the other way round it is the same with the other sign
    const back = whatChanged(to, from)
    for (const [i, p] of back.parts.entries()) expect(p.veerM).closeTo(-parts[i]!.veerM, 1e-9)
  })

  it('is nothing where nothing did, and all of it what alone did', () => {
    expect(whatChanged(from, from).parts).deep.equal([])
    const { whole, parts } = whatChanged(from, {
      ...from,
      air: { ...STILL_AIR, windAlongMps: -5 },
    })
    expect(parts).deep.equal([{ change: 'wind', ...whole }])
    expect(whole.carryM).lessThan(-2)
  })

  it('shares what two causes do together between them', () => {
    // nothing unless both: half to each
    expect(shapley(2, (set) => [set === 3 ? 8 : 0])).deep.equal([[4], [4]])
    // one that does nothing gets nothing
    expect(shapley(3, (set) => [set & 1 ? 5 : 0])).deep.equal([[5], [0], [0]])
  })
})
