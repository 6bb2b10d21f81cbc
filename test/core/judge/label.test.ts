import { expect } from 'chai'
import { labelGaps } from '../../../core/judge/label.ts'
import type { Evidence, Kin } from '../../../core/rating/evidence.ts'
import { fit } from '../../../core/rating/fit.ts'
import { simulateSession } from '../../simulate/session.ts'

/** Three molds in two plastics, two discs each. */
const FAMILY: Kin[] = ['Ash', 'Birch', 'Cedar'].flatMap((mold) =>
  ['soft', 'hard'].flatMap((plastic) => [
    { mold, plastic },
    { mold, plastic },
  ]),
)
const DESIGN = { throws: 96, discs: 12, called: true, kin: FAMILY } as const
const seeds = (count: number) => Array.from({ length: count }, (_, k) => (0.29 + 0.618 * k) % 1)
const NUMBERS = ['glide', 'turn', 'fade'] as const

/** The labels of a plastic, with a number further off. */
const relabelled = (evidence: Evidence, plastic: string, turn: number): Evidence => ({
  ...evidence,
  discs: evidence.discs.map((d) =>
    d.kin?.mold === 'Ash' && d.kin.plastic === plastic
      ? { ...d, published: { ...d.published, turn: d.published.turn + turn } }
      : d,
  ),
})

describe('a label against the throws of its plastic', () => {
  it('is hardly ever contradicted where discs are as believed, and then on the right side', () => {
    let [said, wrong, asked] = [0, 0, 0]
    for (const seed of seeds(24)) {
      const { evidence, truth } = simulateSession({ ...DESIGN, seed })
      const found = labelGaps(fit(evidence))
      asked += 6 * NUMBERS.length
      for (const { discs, gaps } of found)
        for (const gap of gaps) {
          const off = discs.map((id) => {
            const { published } = evidence.discs.find((d) => d.id === id)!
            return truth.get(id)![gap.number] - published[gap.number]
          })
          said++
          if ((off[0]! + off[1]!) * (gap.seen - gap.published) < 0) wrong++
        }
    }
    expect(said).within(6, 0.25 * asked)
    expect(wrong / said).lessThan(0.08)
  })

  it('is contradicted where it is wrong by two, for that plastic, with the throws that say so', () => {
    let found = 0
    for (const seed of seeds(10)) {
      const { evidence } = simulateSession({ ...DESIGN, throws: 192, seed })
      const told = labelGaps(fit(relabelled(evidence, 'soft', 2)))
      const own = told.find((p) => p.discs.includes('disc-0') && p.discs.includes('disc-1'))
      const gap = own?.gaps.find((g) => g.number === 'turn')
      if (!gap || gap.seen > gap.published) continue
      found++
      expect(gap).include({ throws: 32, discs: 2 })
      expect(gap.probability).within(0.95, 1)
    }
    expect(found).greaterThan(5)
  })

  it('is left alone by one disc of a plastic, and where hardly anything was thrown', () => {
    const { evidence } = simulateSession({ ...DESIGN, seed: 0.5 })
    const one = relabelled({ ...evidence, discs: evidence.discs.filter((d) => d.id !== 'disc-1') }, 'soft', 3)
    const throws = one.throws.filter((t) => t.disc !== 'disc-1')
    const told = labelGaps(fit({ ...one, throws }))
    expect(told.filter((p) => p.discs.includes('disc-0'))).deep.equal([])
    const few = evidence.throws.filter((t) => t.disc !== 'disc-0' && t.disc !== 'disc-1').slice(0, 3)
    expect(labelGaps(fit({ ...evidence, throws: few }))).deep.equal([])
  })
})
