import { expect } from 'chai'
import { CLAIMABLES, judgeClaim } from '../../../core/judge/claims.ts'
import type { BuiltClaim } from '../../../core/judge/claims.ts'
import { labelScale } from '../../../core/flight/side.ts'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf, pairOf } from '../../../core/rating/outcome.ts'
import { NOTHING_OF_SHORT } from '../../../core/throw/short.ts'
import { simulateSession } from '../../simulate/session.ts'

const { evidence } = simulateSession({ seed: 0.3, discs: 3, throws: 48, called: true })
const state = fit(evidence)
const outcome = outcomeOf(state)
const claim = (over: Partial<BuiltClaim>): BuiltClaim => ({
  disc: 'disc-0',
  says: 'is-more-stable-than',
  than: 'disc-1',
  by: 0,
  ...over,
})
const judged = (over: Partial<BuiltClaim>) => judgeClaim(state, claim(over), [])

describe('claims written before the first throw', () => {
  it('of stability hold as surely as the pair is settled, and say the opposite of one another', () => {
    const pair = pairOf(outcome, 'disc-0', 'disc-1')
    const p = pair.a === 'disc-0' ? pair.pAMoreStable : 1 - pair.pAMoreStable
    expect(judged({}).probability).closeTo(p, 0.02)
    const [more, less] = [judged({}).probability!, judged({ says: 'is-less-stable-than' }).probability!]
    expect(more + less).closeTo(1, 1e-3)
  })

  it('hold less surely the more they claim', () => {
    for (const says of CLAIMABLES.filter((s) => s !== 'skips-farther-than'))
      for (const than of ['disc-1', null]) {
        const list = [0, 0.5, 1, 4].map((by) => judged({ says, than, by }).probability!)
        expect(list, says).deep.equal([...list].sort((a, b) => b - a))
      }
    const far = pairOf(outcome, 'disc-0', 'disc-1').difference
    const more = (Math.abs(far.value) + 6 * far.sd) / labelScale(evidence.discs[0]!.published).perNumber
    expect(judged({ by: more })).deep.include({ verdict: 'not held' })
  })

  it('against a label are about the disc’s own numbers', () => {
    const disc = outcome.discs.find((d) => d.disc === 'disc-0')!
    const off = disc.observed.glide - disc.published.glide
    const { probability } = judged({ says: 'has-more-glide-than', than: null })
    expect(probability! > 0.5).equal(off > 0)
  })

  it('of what was not seen are not settled; of skips by the skips that were logged', () => {
    const nobody = fit({ ...evidence, throws: evidence.throws.filter((t) => t.disc !== 'disc-1') })
    expect(judgeClaim(nobody, claim({}), [])).deep.equal({ probability: undefined, verdict: 'not settled' })
    const skips = claim({ says: 'skips-farther-than' })
    expect(judgeClaim(state, skips, []).verdict).equal('not settled')
    const play = (disc: string, groundM: number) =>
      ({ ...NOTHING_OF_SHORT, disc, game: 'ground', groundM }) as const
    const short = [
      ...[6, 6.4, 5.8].map((m) => play('disc-0', m)),
      ...[2, 2.5, 1.7].map((m) => play('disc-1', m)),
    ]
    expect(judgeClaim(state, skips, short).verdict).equal('held')
    expect(judgeClaim(state, { ...skips, by: 8 }, short).verdict).equal('not held')
  })
})
