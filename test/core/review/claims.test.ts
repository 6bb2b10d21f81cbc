import { expect } from 'chai'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { judgeSaid, wordedAs } from '../../../core/review/judged.ts'
import type { Judged } from '../../../core/review/judged.ts'
import { claimsIn } from '../../../core/review/saidClaims.ts'
import { LEFT_ALONE, sayings } from '../../simulate/sayings.ts'
import { simulateSession } from '../../simulate/session.ts'

const NAMING = [
  { disc: 'a', names: ['Slate', 'HS-021', 'Tarnwick'] },
  { disc: 'b', names: ['Loam, new', 'HS-017', 'Tarnwick'] },
]
const found = (text: string) =>
  claimsIn(text, NAMING).map((f) => [text.slice(f.from, f.to), f.claim] as const)

describe('claims in what a reviewer writes', () => {
  it('are found where they stand, however often, under any name of a disc', () => {
    expect(
      found(
        'We threw all day. Slate is clearly more stable than Loam, new, and HS-017 flies farther than HS-021.',
      ),
    ).deep.equal([
      ['Slate is clearly more stable than Loam, new', { says: 'is-more-stable-than', disc: 'a', than: 'b' }],
      ['HS-017 flies farther than HS-021', { says: 'flies-farther-than', disc: 'b', than: 'a' }],
    ])
    expect(found('the slate is the most overstable of them all')[0]![1]).deep.equal({
      says: 'is the most stable',
      disc: 'a',
    })
  })

  it('are not found under a name that two discs share, nor of a disc against itself', () => {
    expect(found('Tarnwick is true to its numbers.')).deep.equal([])
    expect(found('Slate is more stable than HS-021.')).deep.equal([])
    expect(claimsIn('Slate is more stable than Loam.', [])).deep.equal([])
  })

  it('are left alone where they are denied, doubted, quoted, asked, or hold under a condition', () => {
    for (const words of LEFT_ALONE)
      expect(found(words.replace(/\bA\b/g, 'Slate').replace(/\bB\b/g, 'Loam, new')), words).deep.equal([])
  })

  it('say the same once they are worded as the throws allow: what is carried is found again, what is not is left alone', () => {
    const claim = { says: 'is-more-stable-than', disc: 'a', than: 'b' } as const
    const name = (d: string) => (d === 'a' ? 'Slate' : 'Loam, new')
    const worded = (verdict: Judged['verdict'], probability?: number) =>
      wordedAs(claim, { verdict, probability }, name)
    expect(worded('carried', 0.944)).equal('Slate is more stable than Loam, new (94 %)')
    expect(found(`${worded('carried', 0.944)}.`)[0]![1]).deep.equal(claim)
    const turned = worded('contradicted', 0.02)
    expect(turned).equal('Loam, new is more stable than Slate (98 %)')
    expect(found(`${turned}.`)[0]![1]).deep.equal({ says: 'is-more-stable-than', disc: 'b', than: 'a' })
    for (const [verdict, p] of [
      ['leaning', 0.8],
      ['not shown', 0.6],
      ['not shown', undefined],
    ] as const)
      expect(found(`${worded(verdict, p)}.`), worded(verdict, p)).deep.equal([])
    expect(
      wordedAs(
        { says: 'is true to its numbers', disc: 'a' },
        { verdict: 'contradicted', probability: 0.01 },
        name,
      ),
    ).equal('The throws contradict it that Slate is true to its numbers (99 %)')
  })

  it('about discs that were not thrown are not shown', () => {
    const { evidence } = simulateSession({ seed: 0.4, discs: 3, throws: 12, called: true })
    const state = fit({ ...evidence, throws: evidence.throws.filter((t) => t.disc !== 'disc-2') })
    const outcome = outcomeOf(state)
    const discs = evidence.discs.map((d) => d.id)
    for (const claim of [
      { says: 'is-more-stable-than', disc: 'disc-0', than: 'disc-2' },
      { says: 'fly alike', disc: 'disc-2', than: 'disc-0' },
      { says: 'is the most stable', disc: 'disc-2' },
      { says: 'is true to its numbers', disc: 'disc-2' },
      { says: 'skips-farther-than', disc: 'disc-0', than: 'disc-1' },
    ] as const)
      expect(judgeSaid(state, outcome, claim, discs, []), claim.says).deep.equal({
        probability: undefined,
        verdict: 'not shown',
      })
    // superlatives are among those thrown
    const sums = ['disc-0', 'disc-1'].map(
      (disc) => judgeSaid(state, outcome, { says: 'is the most stable', disc }, discs, []).probability!,
    )
    expect(sums[0]! + sums[1]!).closeTo(1, 0.01)
  })

  it('made from the truth and from its opposite are marked wrongly in one of a hundred at most, and all are found', () => {
    const { sentences, misread, wrong, marked, due, meddled } = sayings(24, 60)
    expect(sentences).greaterThan(2000)
    expect(misread).equal(0)
    expect(meddled).equal(0)
    expect(marked).greaterThan(sentences / 3)
    expect(wrong / sentences).most(0.01)
    expect(wrong).most(due + 3 * Math.sqrt(due))
  })
})
