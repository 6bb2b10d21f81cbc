import { expect } from 'chai'
import { expectedPairs } from '../../../core/judge/expectation.ts'
import type { Outcome } from '../../../core/rating/outcome.ts'
import { probabilityAbove } from '../../../core/rating/outcome.ts'

/** An outcome with these stabilities, all equally sure. */
function outcome(stability: Readonly<Record<string, number>>, sd = 0.5): Outcome {
  const discs = Object.keys(stability)
  const pairs = discs.flatMap((a, i) =>
    discs.slice(i + 1).map((b) => {
      const value = stability[a]! - stability[b]!
      return {
        a,
        b,
        difference: { value, sd },
        finish: { value, sd },
        pAMoreStable: probabilityAbove(value, sd),
      }
    }),
  )
  return { discs: discs.map((disc) => ({ disc })), pairs } as unknown as Outcome
}

describe('an expectation', () => {
  const thrown = outcome({ slate: 3, amber: 2.6, loam: 1, tallow: 2 })
  it('is held against the throws pair by pair, the surprises first', () => {
    const pairs = expectedPairs(thrown, ['slate', 'loam', 'tallow', 'amber'])
    expect(pairs).length(6)
    expect(pairs.map((p) => `${p.above} ${p.below} ${p.verdict}`)).deep.equal([
      'loam amber the other way',
      'loam tallow the other way',
      'slate loam as expected',
      'slate tallow as expected',
      'tallow amber open',
      'slate amber open',
    ])
    for (const p of pairs) expect(p.probability).within(0, 1)
  })
  it('is right or wrong the same, whichever way round the pair is held', () => {
    const [one] = expectedPairs(thrown, ['loam', 'slate'])
    const [other] = expectedPairs(thrown, ['slate', 'loam'])
    expect(one!.probability).closeTo(1 - other!.probability, 1e-12)
    expect([one!.verdict, other!.verdict]).deep.equal(['the other way', 'as expected'])
  })
  it('passes over discs that nobody rated', () => {
    expect(expectedPairs(thrown, ['slate', 'nobody'])).deep.equal([])
  })
})
