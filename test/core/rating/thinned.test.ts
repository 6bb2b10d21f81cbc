import { expect } from 'chai'
import { group, range } from 'd3'
import { thinned } from '../../../core/rating/thinned.ts'

describe('some of many throws', () => {
  const throws = (discs: number, each: number) =>
    range(discs * each).map((i) => ({ disc: `disc-${i % discs}`, at: i }))

  it('are all of them where there are few', () => {
    const few = throws(3, 4)
    expect(thinned(few, 12)).equal(few)
  })

  it('are as many of every disc, from the first to the last, also where discs take turns', () => {
    const some = thinned(throws(6, 250), 240)
    expect(some).lengthOf(240)
    for (const of of group(some, (t) => t.disc).values()) {
      expect(of).lengthOf(40)
      expect(of[0]!.at).lessThan(60)
      expect(of.at(-1)!.at).greaterThan(1440)
    }
    expect(some.map((t) => t.at)).deep.equal(some.map((t) => t.at).sort((a, b) => a - b))
  })

  it('leave a disc that has few all it has, and give its share to the others', () => {
    const rare = [...throws(2, 300), ...range(5).map((i) => ({ disc: 'rare', at: 600 + i }))]
    const count = group(thinned(rare, 105), (t) => t.disc)
    expect(count.get('rare')).lengthOf(5)
    expect(count.get('disc-0')).lengthOf(50)
    expect(count.get('disc-1')).lengthOf(50)
  })

  it('hold one of every disc even where that is more than asked', () => {
    expect(thinned(throws(8, 3), 4)).lengthOf(8)
  })
})
