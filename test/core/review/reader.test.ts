import { gzipSync } from 'node:zlib'
import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { fullSpeedWith } from '../../../core/flight/arm.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease } from '../../../core/flight/release.ts'
import { armOfMidrange, toReader } from '../../../core/review/reader.ts'
import { bundleReader } from '../../../scripts/reader.mjs'

const disc = {
  name: 'Slate',
  place: 0,
  published: { speed: 9, glide: 5, turn: -1, fade: 2 },
  observed: { speed: 9, glide: 5.2, turn: -1.4, fade: 1.8 },
  within: { glide: 0.4, turn: 0.4, fade: 0.4 },
  body: STANDARD_BODY,
}

describe('what a disc is to a reader', () => {
  it('is what it flies like at the full power of their arm, in their wind', () => {
    for (const armMps of [18, 24, 31])
      for (const wind of [-5, 0, 5]) {
        const told = toReader(disc, armMps, wind)
        const { carryM, veerM } = landing(disc.observed, disc.body, cleanRelease(fullSpeedWith(armMps, 9)), {
          ...STILL_AIR,
          windAlongMps: wind,
        })
        expect(told.carryM).closeTo(carryM, 1e-2)
        expect(told.finishM).closeTo(veerM, 1e-2)
        expect(told.path.at(-1)!.x).closeTo(carryM, 1e-2)
        expect(told.turnedM).most(0)
      }
  })

  it('is more stable the slower the arm; its numbers are of still air', () => {
    const [slow, fast] = [toReader(disc, 18, 0), toReader(disc, 31, 0)]
    expect(slow.turn).greaterThan(fast.turn)
    expect(slow.finishM).greaterThan(fast.finishM)
    const windy = toReader(disc, 24, -6)
    const still = toReader(disc, 24, 0)
    expect([windy.turn, windy.fade]).deep.equal([still.turn, still.fade])
    expect(windy.finishM).lessThan(still.finishM)
  })

  it('finds an arm by how far a mid-range disc goes', () => {
    const [near, far] = [armOfMidrange(55)!, armOfMidrange(85)!]
    expect(near).lessThan(far)
    expect(near).within(15, 26)
    expect(armOfMidrange(900)).equal(undefined)
  })
})

describe('the code that travels inside a review', () => {
  it('holds the flight and weighs less than 80 kB packed', async function () {
    const code = await bundleReader()
    expect(gzipSync(code).length).lessThan(80_000)
    expect(code).contain('reader-data')
    // it can ask nobody for anything, and runs nothing it is given
    expect(code).not.match(/\bfetch\(|XMLHttpRequest|WebSocket|\beval\(|new Function|innerHTML/)
  })
})
