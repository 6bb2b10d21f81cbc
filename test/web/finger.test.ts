import { expect } from 'chai'
import { isTap, restedAt, trailed } from '../../web/stations/field/finger.ts'
import type { Touched } from '../../web/stations/field/finger.ts'

const at = (x: number, ms: number): Touched => ({ x, y: 0, ms })
const walked = (steps: readonly Touched[]) => steps.slice(1).reduce(trailed, [steps[0]!])

describe('a finger on the field', () => {
  it('that rolls as it is lifted leaves what it held where it rested', () => {
    expect(restedAt(walked([at(0, 0), at(40, 200), at(41, 345), at(53, 430), at(55, 440)]))).to.deep.equal(
      at(41, 345),
    )
  })
  it('that is still under way lets go where it is', () => {
    expect(restedAt(walked([at(0, 0), at(30, 40), at(60, 90), at(90, 130)])).x).to.equal(90)
    // too short for anything to have rested
    expect(restedAt(walked([at(0, 0), at(3, 30)])).x).to.equal(3)
  })
  it('keeps no more of its way than is looked at', () => {
    const trail = walked(Array.from({ length: 500 }, (_, i) => at(i, 10 * i)))
    expect(trail).to.have.length(10)
    expect(restedAt(trail).x).to.equal(490)
  })
  it('taps where it stays a moment, and takes hold where it stays or moves', () => {
    expect(isTap(at(0, 0), at(4, 120))).to.equal(true)
    expect(isTap(at(0, 0), at(4, 400))).to.equal(false)
    expect(isTap(at(0, 0), at(14, 120))).to.equal(false)
  })
})
