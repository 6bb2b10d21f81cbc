import { randomLcg, randomUniform } from 'd3'
import { expect } from 'chai'
import type { DrillReply, Truth } from '../../../core/drill/question.ts'
import { surenessOf } from '../../../core/drill/sureness.ts'
import { surenessWords } from '../../../core/drill/words.ts'

interface Claim {
  readonly truth: Truth
  readonly answer: DrillReply
}
/** Ranges that hold what is true so often. */
const ranges = (count: number, holds: number, seed: number): Claim[] => {
  const random = randomUniform.source(randomLcg(seed))(0, 1)
  return Array.from({ length: count }, () => ({
    truth: { kind: 'range', value: random() < holds ? 0.5 : 3 },
    answer: { kind: 'range', low: 0, high: 1 },
  }))
}
/** Options that are said to be as likely as they are, or by so much likelier. */
const options = (count: number, tooSure: number, seed: number): Claim[] => {
  const random = randomUniform.source(randomLcg(seed))(0, 1)
  return Array.from({ length: count }, () => {
    const said = 0.5 + 0.5 * random()
    const share = Math.min(1, said + tooSure)
    return {
      truth: { kind: 'shares', option: random() < said ? 0 : 1 },
      answer: { kind: 'shares', shares: [share, 1 - share] },
    }
  })
}

describe('how sure somebody is', () => {
  it('is compared with how often it held: ranges against four times in five, options against their share', () => {
    const [own] = surenessOf(ranges(60, 0.5, 0.3))
    expect(own).include({ of: 'ranges', answers: 60, isSure: true })
    expect(own!.claimed).closeTo(0.8, 1e-9)
    expect(own!.held.value).within(own!.held.low, own!.held.high)
    expect(surenessWords(own!)).match(
      /^You are too sure: of your ranges and circles \d\d % held \(\d\d % to \d\d %, 60 answers\), not the 80 % you said\.$/,
    )
    const [never] = surenessOf(ranges(60, 1, 0.3))
    expect(surenessWords(never!)).contain('You may be surer')
    // right at 90 % and wrong at 90 %: it held half as often
    const said = (option: number): Claim => ({
      truth: { kind: 'shares', option },
      answer: { kind: 'shares', shares: [0.9, 0.1] },
    })
    const [half] = surenessOf(Array.from({ length: 12 }, (_, i) => said(i % 2)))
    expect(half).include({ of: 'options', answers: 12, isSure: true })
    expect(half!.claimed).closeTo(0.9, 1e-9)
    expect(half!.held.value).equal(0.5)
  })

  it('is not told of few answers, nor of choices in which two are held alike', () => {
    expect(surenessOf(ranges(11, 0.2, 0.4))).deep.equal([])
    const even: Claim = {
      truth: { kind: 'shares', option: 0 },
      answer: { kind: 'shares', shares: [0.5, 0.5] },
    }
    expect(surenessOf(Array.from({ length: 30 }, () => even))).deep.equal([])
  })

  it('is not found wrong in those who mean what they say: at most two of a hundred', () => {
    const wrong = Array.from({ length: 100 }, (_, w) => {
      const seed = (0.0037 + w * 0.00971) % 1
      return surenessOf([...ranges(60, 0.8, seed), ...options(60, 0, (seed + 0.5) % 1)])
    }).filter((own) => own.some((s) => s.isSure)).length
    expect(wrong).most(2)
  })

  it('is found in those who are sure of too much, within 60 answers', () => {
    const found = Array.from({ length: 40 }, (_, w) => {
      const seed = (0.011 + w * 0.0237) % 1
      return [surenessOf(ranges(60, 0.55, seed)), surenessOf(options(60, 0.22, seed))]
    })
    for (const which of [0, 1])
      expect(found.filter((f) => f[which]!.some((s) => s.isSure)).length / 40, String(which)).greaterThan(0.7)
  })
})
