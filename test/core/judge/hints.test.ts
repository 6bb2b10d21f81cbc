import { expect } from 'chai'
import fc from 'fast-check'
import { countHints, HINT_RULES, hintsBetween } from '../../../core/judge/hints.ts'
import type { InspectedFlyer } from '../../../core/judge/hints.ts'
import { boundsOf, STABILITY_WORDS, stabilityWord } from '../../../core/judge/words.ts'
import type { Measured } from '../../../core/shelf/inspection.ts'

const plain: Measured = {
  diameterMm: 211,
  heightMm: 17,
  rimDepthMm: 12,
  rimWidthMm: 19,
  partingLineMm: 7,
  domeMm: 3,
  noseDeg: 38,
  bead: false,
  edge: 1,
  stiffness: 2,
  grip: 2,
}
const flyer = (change: Partial<Measured>, stability: number | null, sd = 0.3, glide = 5): InspectedFlyer => ({
  measured: { ...plain, ...change },
  stability: stability === null ? null : { value: stability, sd },
  glide: stability === null ? null : { value: glide, sd },
})
const hint = (a: InspectedFlyer, b: InspectedFlyer, key: string) =>
  hintsBetween(a, b).find((h) => h.rule.key === key)

describe('what the hand says', () => {
  it('is borne out, or not, by what the throws say', () => {
    const high = flyer({ partingLineMm: 8.2 }, 2)
    expect(hint(high, flyer({}, 0), 'parting line')).include({
      words: 'Parting line higher',
      usually: 'usually more stable',
      verdict: 'borne out',
    })
    expect(hint(high, flyer({}, 4), 'parting line')!.verdict).equal('not borne out')
    expect(hint(high, flyer({}, 1.9), 'parting line')!.verdict).equal('open')
    expect(hint(high, flyer({}, null), 'parting line')).include({ verdict: 'open', probability: null })
  })

  it('is the same said from the other side', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 3, max: 12, noNaN: true }),
        fc.double({ min: -2, max: 4, noNaN: true }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        (partingLineMm, stability, sd) => {
          const [a, b] = [flyer({ partingLineMm }, stability, sd), flyer({}, 1, 0.3)]
          const [one, other] = [hint(a, b, 'parting line'), hint(b, a, 'parting line')]
          expect(one === undefined).equal(other === undefined)
          if (one && other) {
            expect(one.probability).closeTo(other.probability!, 1e-9)
            expect(one.verdict).equal(other.verdict)
            expect(one.more).closeTo(-other.more, 1e-12)
          }
        },
      ),
    )
  })

  it('is silent about differences that nobody feels, and foretells nothing where practitioners disagree', () => {
    expect(hintsBetween(flyer({ partingLineMm: 7.2 }, 1), flyer({}, 1))).deep.equal([])
    expect(hint(flyer({ stiffness: 4 }, 3), flyer({}, 0), 'stiffness')).include({
      usually: 'no agreement',
      verdict: 'untold',
      probability: null,
    })
    expect(hintsBetween(flyer({ domeMm: null }, 1), flyer({}, 1))).deep.equal([])
  })

  it('is counted over settled pairs only', () => {
    const counts = countHints([
      [flyer({ partingLineMm: 8 }, 3), flyer({}, 0)],
      [flyer({ partingLineMm: 8 }, 0), flyer({}, 3)],
      [flyer({ partingLineMm: 8 }, 1), flyer({}, 1)],
      [flyer({ bead: true }, 3), flyer({}, 0)],
    ])
    const of = (key: string) => counts.find((c) => c.key === key)!
    expect(of('parting line')).deep.equal({ key: 'parting line', right: 1, settled: 2 })
    expect(of('bead')).deep.equal({ key: 'bead', right: 1, settled: 1 })
    expect(counts.map((c) => c.key)).not.include('stiffness')
    expect(counts.length).equal(HINT_RULES.filter((r) => r.usually !== null).length)
  })
})

describe('bounds of the words for stability', () => {
  it('hold exactly the stabilities that have the word', () => {
    fc.assert(
      fc.property(fc.double({ min: -6, max: 8, noNaN: true }), (s) => {
        for (const word of STABILITY_WORDS) {
          const { low, high } = boundsOf(word)
          expect(s >= low && s < high).equal(stabilityWord(s) === word)
        }
      }),
    )
  })
})
