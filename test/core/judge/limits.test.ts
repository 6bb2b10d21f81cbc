import { expect } from 'chai'
import { mean } from 'd3'
import { sureness, unsettledNeighbours } from '../../../core/judge/ladder.ts'
import { limitsOf, limitWords, openPair } from '../../../core/judge/limits.ts'
import type { Limit } from '../../../core/judge/limits.ts'
import { kindsLike } from '../../../core/judge/kinds.ts'
import { UNLOGGED_WIND_SD } from '../../../core/rating/evidence.ts'
import type { Evidence, ThrowEvidence } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { simulateSession } from '../../simulate/session.ts'

const PAIR = ['disc-0', 'disc-1'] as const
/** Throws that are made before anybody asks what would tell more, and those made after. */
const [BEFORE, AFTER] = [12, 12]

const seenOf = ({ hyzerCalledRad: _, noseCalledRad: __, hangS: ___, ...t }: ThrowEvidence): ThrowEvidence => t
const sdOf = (evidence: Evidence) => outcomeOf(fit(evidence)).pairs[0]!.difference.sd

describe('what limits a rating', () => {
  /** What calling the angle and timing the flight were promised to do, and did, over simulated sessions. */
  const told = Array.from({ length: 30 }, (_, k) => {
    const { evidence } = simulateSession({
      seed: (0.29 + 0.618 * k) % 1,
      discs: 2,
      throws: BEFORE + AFTER,
      called: true,
      hang: true,
    })
    const with_ = (keep: (t: ThrowEvidence) => Partial<ThrowEvidence>) => ({
      ...evidence,
      throws: evidence.throws.map((t, i) => ({ ...seenOf(t), ...(i < BEFORE ? {} : keep(t)) })),
    })
    const plain = with_(() => ({}))
    const state = fit({ ...plain, throws: plain.throws.slice(0, BEFORE) })
    const limits = limitsOf(state, PAIR, kindsLike(state.evidence.throws))
    return {
      limits,
      without: sdOf(plain),
      angle: sdOf(with_((t) => ({ hyzerCalledRad: t.hyzerCalledRad! }))),
      hang: sdOf(with_((t) => ({ hangS: t.hangS! }))),
    }
  })
  const promised = (further: Limit['further'], key: 'sdAfter' | 'sdWithout') =>
    mean(told, ({ limits }) => limits.find((l) => l.further === further)?.[key])!

  it('narrows a pair within a fifth of what is promised, with the evidence and without', () => {
    expect(promised('angle', 'sdAfter') / mean(told, (t) => t.angle)!).within(0.8, 1.2)
    expect(promised('hang', 'sdAfter') / mean(told, (t) => t.hang)!).within(0.8, 1.2)
    expect(promised('angle', 'sdWithout') / mean(told, (t) => t.without)!).within(0.8, 1.2)
    expect(mean(told, (t) => t.angle)!).lessThan(mean(told, (t) => t.without)!)
  })

  it('puts first what is worth most a minute, and leaves out what is done already', () => {
    for (const { limits } of told) {
      expect(limits.map((l) => l.perMinute)).deep.equal(limits.map((l) => l.perMinute).sort((a, b) => b - a))
      for (const l of limits) expect(l.worth).least(0.1)
      expect(limits.some((l) => l.further === 'wind' || l.further === 'other angle')).equal(false)
    }
    const { evidence } = simulateSession({ seed: 0.4, discs: 2, throws: 12, called: true, hang: true })
    const state = fit(evidence)
    const kinds = kindsLike(evidence.throws)
    expect(limitsOf(state, PAIR, kinds).map((l) => l.further)).not.include.members(['angle'])
    // where all else is seen well and nobody noted the wind, the wind is what is left
    const seen = simulateSession({
      seed: 0.1,
      discs: 2,
      throws: 12,
      called: true,
      hang: true,
      recorded: true,
    }).evidence
    const blown = fit({
      ...seen,
      throws: seen.throws.map((t) => ({ ...t, windSdMps: UNLOGGED_WIND_SD, method: 'taped' as const })),
    })
    expect(limitsOf(blown, PAIR, kindsLike(blown.evidence.throws))[0]!.further).equal('wind')
    expect(limitsOf(state, PAIR, [])).deep.equal([])
  })

  it('says it in a sentence, of the pair that is nearest to being settled', () => {
    const [limit] = told[0]!.limits
    expect(limitWords({ ...limit!, further: 'angle', worth: 1.63 })).equal(
      'Call the angle out of the hand: worth 1.6 more throws each',
    )
    // held against sixty throws at most
    expect(limitWords({ ...limit!, further: 'path', worth: 4 })).equal(
      'Film the path: worth 4 or more throws each',
    )
    const { evidence } = simulateSession({ seed: 0.9, discs: 4, throws: 12, called: true })
    const state = fit(evidence)
    const outcome = outcomeOf(state)
    const pair = openPair(state, outcome, null)!
    expect(pair).length(2)
    expect(sureness(outcome, pair)).lessThan(0.9)
    for (const other of unsettledNeighbours(state, outcome))
      expect(sureness(outcome, other)).most(sureness(outcome, pair))
    // once all are settled there is nothing to ask
    const sure = { ...outcome, pairs: outcome.pairs.map((p) => ({ ...p, pAMoreStable: 0.99 })) }
    expect(openPair(state, sure, null)).equal(undefined)
    // the pair that is asked about comes first, as long as it is open
    const [asked] = unsettledNeighbours(state, outcome)
    expect(openPair(state, outcome, asked!)).equal(asked)
    expect(openPair(state, sure, asked!)).equal(undefined)
    expect(openPair(state, outcome, ['disc-0', 'gone'])).deep.equal(pair)
    expect(
      openPair(
        fit({ ...evidence, discs: evidence.discs.slice(0, 1), throws: [] }),
        {
          ...outcome,
          discs: outcome.discs.slice(0, 1),
        },
        null,
      ),
    ).equal(undefined)
  })
})
