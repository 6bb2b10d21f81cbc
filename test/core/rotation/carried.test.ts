import { expect } from 'chai'
import { CarriedShelf } from '../../../core/rotation/carried.ts'
import type { ShelfDisc } from '../../../core/rotation/carried.ts'
import { StableAt } from '../../../core/rotation/doing.ts'
import { stabilityAfter, usedOn } from '../../../core/rotation/wear.ts'

const published = { speed: 9, glide: 5, turn: -1, fade: 2 }
const rated = {
  numbers: { ...published, turn: -1.6, fade: 1.7 },
  covariance: [0.2, 0, 0, 0, 0.08, 0.01, 0, 0.01, 0.09],
}
const disc = (change: Partial<ShelfDisc> = {}): ShelfDisc => ({
  id: 'a',
  kind: 'base',
  blend: 'Slate',
  published,
  rated,
  use: { throws: 300, hardHits: 2 },
  tests: [
    { use: { throws: 10, hardHits: 0 }, stability: { value: 1.2, sd: 0.3 }, scatter: null },
    { use: { throws: 200, hardHits: 1 }, stability: { value: 0.1, sd: 0.3 }, scatter: null },
  ],
  ...change,
})
const carried = (d: ShelfDisc) => {
  const shelf = new CarriedShelf()
  shelf.wearOf([d])
  return shelf.carried(d)
}

describe('a disc as the rotation knows it', () => {
  it('was at its last test as stable as all its throws say, and as surely', () => {
    const { kind, ways } = carried(disc())
    const all = new StableAt({ published, ...rated })
    const then = stabilityAfter(kind, ways, { throws: 200, hardHits: 1 })
    expect(then.value).closeTo(all.stability, 1e-9)
    expect(then.sd).closeTo(all.sd, 1e-9)
    // what it went through since has taken some, and nobody knows just how much
    const now = stabilityAfter(kind, ways, { throws: 300, hardHits: 2 })
    expect(now.value).lessThan(then.value)
    expect(now.sd).greaterThan(then.sd)
  })

  it('is as its throws say where no day of it was a test, and as its label says where nobody threw it', () => {
    const untested = carried(disc({ tests: [] }))
    const all = new StableAt({ published, ...rated })
    expect(stabilityAfter(untested.kind, untested.ways, untested.use).value).closeTo(all.stability, 1e-9)
    const unthrown = carried(disc({ tests: [], rated: null, use: { throws: 0, hardHits: 0 } }))
    expect(stabilityAfter(unthrown.kind, unthrown.ways, unthrown.use).value).closeTo(1, 0.05)
  })

  it('still wears as fast as its tests say', () => {
    const lost = (tests: ShelfDisc['tests']) => {
      const { kind, ways, use } = carried(disc({ tests }))
      return stabilityAfter(kind, ways, use).value - stabilityAfter(kind, ways, usedOn(use, 300)).value
    }
    const [first, second] = disc().tests
    const slow = [first!, { ...second!, stability: { value: 1.1, sd: 0.1 } }]
    const fast = [first!, { ...second!, stability: { value: -1.5, sd: 0.1 } }]
    expect(lost(fast)).greaterThan(1.3 * lost(slow))
  })

  it('is another once its throws say otherwise', () => {
    const shelf = new CarriedShelf()
    const [before, after] = [disc(), disc({ rated: { ...rated, numbers: published } })]
    shelf.wearOf([before])
    const value = (d: ShelfDisc) => stabilityAfter('base', shelf.carried(d).ways, d.use).value
    const was = value(before)
    expect(value(after)).greaterThan(was + 0.3)
    expect(value(before)).equal(was)
    expect(shelf.carried(before).ways).equal(shelf.carried(before).ways)
  })
})
