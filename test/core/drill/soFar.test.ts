import { expect } from 'chai'
import { kindsSoFar } from '../../../core/drill/soFar.ts'
import { FIRST_LEVEL, levelAfter } from '../../../core/drill/staircase.ts'

describe('kinds of questions so far', () => {
  it('say how often each was right, what it earned, and how hard the next is', () => {
    const answer = (kind: 'angle' | 'nose', right: boolean, points: number) => ({ kind, right, points })
    const all = [answer('nose', true, 80), answer('angle', true, 60), answer('angle', false, -20)]
    expect(kindsSoFar(all)).deep.equal([
      { kind: 'angle', answers: 2, right: 0.5, points: 20, level: levelAfter([true, false]) },
      { kind: 'nose', answers: 1, right: 1, points: 80, level: levelAfter([true]) },
    ])
    expect(kindsSoFar(all)[1]!.level).greaterThan(FIRST_LEVEL)
  })
})
