import { expect } from 'chai'
import { turnedWinds, windTurned } from '../../../core/judge/turnedWind.ts'
import type { Turn } from '../../../core/judge/turnedWind.ts'
import { fit } from '../../../core/rating/fit.ts'
import { seedOf, simulateSession } from '../../simulate/session.ts'

const SESSIONS = 5
const sessions = Array.from(
  { length: SESSIONS },
  (_, k) => simulateSession({ throws: 36, discs: 4, gusts: 0.6, seed: seedOf(62_000 + k) }).evidence,
)
/** What is said of sessions whose wind was turned round like that when it was logged. */
const said = (turn?: Turn) =>
  sessions.map((e) => turnedWinds(fit(turn ? windTurned(e, '', turn) : e)).map((t) => t.turn))

describe('a wind that was logged the wrong way round', () => {
  it('is said, whole or leg by leg, and nothing is said of one that was logged right', () => {
    expect(said().flat()).deep.equal([])
    expect(said('all').filter((t) => t[0] === 'all').length).least(SESSIONS - 1)
    for (const turn of ['out', 'back'] as const)
      expect(said(turn).filter((t) => t[0] === turn).length, turn).least(SESSIONS - 2)
  })

  it('of one outing among several is said of that one, with its throws', () => {
    const { evidence } = simulateSession({
      ...{ throws: 60, discs: 4, outings: 3, called: true, gusts: 0.6, seed: seedOf(63_001) },
    })
    const [, second] = [...new Set(evidence.throws.map((t) => t.outing!))]
    const [found, ...more] = turnedWinds(fit(windTurned(evidence, second!, 'all')))
    expect(more).deep.equal([])
    expect(found).include({ outing: second, turn: 'all' })
    expect(found!.throws).deep.equal(evidence.throws.filter((t) => t.outing === second).map((t) => t.id))
  })

  it('turned round twice is the wind it was, and nothing is turned of a wind nobody logged', () => {
    const [evidence] = sessions as [(typeof sessions)[0]]
    expect(windTurned(windTurned(evidence, '', 'all'), '', 'all')).deep.equal(evidence)
    const calm = evidence.throws.map((t) => ({
      ...t,
      air: { ...t.air, windAlongMps: 0, windTowardFadeMps: 0 },
    }))
    expect(turnedWinds(fit({ ...evidence, throws: calm }))).deep.equal([])
  })
})
