import { expect } from 'chai'
import fc from 'fast-check'
import { nextThrows } from '../../../core/plan/nextThrow.ts'

const discs = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1, maxLength: 5 })
const angles = fc.uniqueArray(fc.constantFrom(10, 5, 0, -8), { minLength: 1, maxLength: 4 })

describe('the even plan', () => {
  it('throws every disc at every angle as often, round after round', () => {
    fc.assert(
      fc.property(discs, angles, fc.integer({ min: 1, max: 3 }), (ids, degs, rounds) => {
        const cells = nextThrows(ids, degs, [], ids.length * degs.length * rounds)
        for (const disc of ids)
          for (const hyzerDeg of degs)
            expect(cells.filter((c) => c.disc === disc && c.hyzerDeg === hyzerDeg)).length(rounds)
      }),
    )
  })

  it('makes up first for what was thrown least', () => {
    fc.assert(
      fc.property(discs, angles, fc.nat(30), (ids, degs, pick) => {
        const all = ids.flatMap((disc) => degs.map((hyzerDeg) => ({ disc, hyzerDeg })))
        const missing = all[pick % all.length]!
        const thrown = all.filter((c) => c !== missing)
        expect(nextThrows(ids, degs, thrown, 1)[0]).deep.equal(missing)
      }),
    )
  })

  it('does not throw a disc twice running when another is as good', () => {
    const cells = nextThrows(['a', 'b', 'c'], [10, 0], [], 6)
    cells.slice(1).forEach((c, i) => expect(c.disc).not.equal(cells[i]!.disc))
  })

  it('names the next throws of thousands after one look at each', () => {
    const ids = Array.from({ length: 20 }, (_, i) => `d${i}`)
    let looks = 0
    const thrown = Array.from({ length: 5000 }, (_, i) => ({
      get disc() {
        looks++
        return ids[i % 20]!
      },
      hyzerDeg: [10, 0, -8][i % 3]!,
    }))
    const cells = nextThrows(ids, [10, 0, -8], thrown, 60)
    // one for each throw, and one more at the last, which is not thrown twice running
    expect(looks).equal(5001)
    // 5,000 throws are 83 rounds of sixty and twenty more: the forty cells thrown less come first
    const of = (c: { disc: string; hyzerDeg: number }) =>
      thrown.filter((t) => t.disc === c.disc && t.hyzerDeg === c.hyzerDeg).length
    expect(cells.slice(0, 40).map(of)).deep.equal(Array.from({ length: 40 }, () => 83))
  })

  it('has nothing to name without discs or angles', () => {
    expect(nextThrows([], [0], [], 3)).deep.equal([])
    expect(nextThrows(['a'], [], [], 3)).deep.equal([])
  })
})
