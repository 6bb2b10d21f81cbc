import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { rankDistribution } from '../../../core/rating/outcome.ts'
import type { Outcome } from '../../../core/rating/outcome.ts'
import type { Settling } from '../../../core/judge/resolve.ts'
import { gapWords, labelStatement, statements } from '../../../core/judge/statements.ts'
import { hedgedStability, stabilityWord } from '../../../core/judge/words.ts'
import { outcomeOfBelief } from './outcomes.ts'

const said = (outcome: Outcome, aside: readonly string[] = [], settlings: readonly Settling[] = []) =>
  statements(outcome, rankDistribution(outcome, new Set(aside)), { name: (code) => code }, settlings)
const SETTLING: Settling = {
  a: 'A',
  b: 'B',
  resolution: 0.5,
  alike: 0.4,
  meant: [],
  chances: [
    { throws: 12, chance: 0.352 },
    { throws: 24, chance: 0.52 },
    { throws: 48, chance: 0.998 },
  ],
  kinds: [-2.5, 2.5].map((windAlongMps, i) => ({
    kind: { arm: 'arm', power: 1, hyzerRad: 0, air: { ...STILL_AIR, windAlongMps } },
    throws: 25 - i,
  })),
}

describe('stability words', () => {
  it('change at the bounds of the scale', () => {
    const words: [number, string][] = [
      [-3, 'very understable'],
      [-2, 'understable'],
      [-1, 'slightly understable'],
      [0, 'straight'],
      [1, 'slightly overstable'],
      [2, 'overstable'],
      [3, 'very overstable'],
    ]
    for (const [s, word] of words) expect(stabilityWord(s)).equal(word)
    expect(stabilityWord(0.49)).equal('straight')
    expect(stabilityWord(0.5)).equal('slightly overstable')
  })

  it('are hedged when the interval straddles a bound', () => {
    expect(hedgedStability(1, 0.2)).equal('slightly overstable')
    expect(hedgedStability(1.4, 0.3)).equal('slightly overstable or overstable')
    expect(hedgedStability(0, 2)).equal('between understable and overstable')
  })
})

describe('what can be said', () => {
  const clear = outcomeOfBelief([
    { disc: 'low', turn: -2, fade: 1, sd: 0.15 },
    { disc: 'high', turn: 0, fade: 3, sd: 0.15 },
    { disc: 'middle', turn: -1, fade: 2, sd: 0.15 },
  ])

  it('names the most and the least stable and the order of neighbours, each settled', () => {
    const list = said(clear)
    expect(list.slice(0, 2).map((s) => s.text)).deep.equal([
      'high is the most stable of the three',
      'low is the least stable of the three',
    ])
    const orders = list.filter((s) => s.kind === 'order')
    expect(orders.map((s) => s.discs)).deep.members([
      ['high', 'middle'],
      ['middle', 'low'],
    ])
    expect(orders.every((s) => s.settled && s.probability! > 0.99)).equal(true)
  })

  it('leaves discs aside that nothing is asked about', () => {
    const list = said(clear, ['high'])
    expect(list.some((s) => s.discs.includes('high'))).equal(false)
    expect(list.some((s) => s.text === 'middle is more stable than low')).equal(true)
  })

  it('calls a close pair open, says which way it leans, and what would settle it', () => {
    const close = outcomeOfBelief([
      { disc: 'A', turn: -1, fade: 2, sd: 0.3 },
      { disc: 'B', turn: -1, fade: 2.4, sd: 0.3 },
    ])
    const open = said(close).find((s) => s.kind === 'open')!
    expect(open).include({ settled: false, text: 'B against A is not settled', detail: 'leaning to B' })
    expect(open.probability).within(0.7, 0.9)
    expect(said(close, [], [SETTLING]).find((s) => s.kind === 'open')!.detail).equal(
      'leaning to B; 12 more throws of the two, mostly flat into the wind, settle it with 35 %, 24 with 52 %, 48 with 99 %',
    )
  })

  it('gives the probability of an order, then metres, to the side the thrower sees', () => {
    const order = said(clear).find((s) => s.kind === 'order' && s.discs[0] === 'high')!
    expect(order.text).equal('high is more stable than middle')
    expect(order.detail).match(
      /^it finishes 4\.0 m \(3\.0 to 5\.0\) farther left in a flight of 100 m; 24 throws$/,
    )
    const mixed = said({ ...clear, fadeSide: undefined }).find((s) => s.kind === 'order')!
    expect(mixed.detail).match(/farther to the fade side/)
    const right = said({ ...clear, fadeSide: 'right' }).find((s) => s.kind === 'order')!
    expect(right.detail).match(/farther right/)
  })

  it('says that two fly alike only where they lie within half a number with 90 %', () => {
    const pair = (sd: number) =>
      said(
        outcomeOfBelief([
          { disc: 'A', turn: -1, fade: 2, sd },
          { disc: 'B', turn: -1, fade: 2.02, sd },
        ]),
      ).find((s) => s.kind === 'alike' || s.kind === 'open')!
    expect(pair(0.15)).include({ kind: 'alike', settled: true })
    expect(pair(0.15).probability).greaterThan(0.9)
    expect(pair(0.4)).include({ kind: 'open', settled: false })
  })

  it('puts every disc asked about against its label, with the probability of what is said', () => {
    const of = (turn: number, fade: number, sd: number, throws = 12) =>
      labelStatement(outcomeOfBelief([{ disc: 'D', turn, fade, sd, throws }]).discs[0]!, 'left', {
        name: (d) => d,
      })
    expect(of(-1, 2, 0.15).text).equal('D flies as its label says, to within half a number')
    expect(of(-1, 2, 0.15).probability).greaterThan(0.95)
    expect(of(-2, 1.8, 0.2).text).equal('D is less stable than its label')
    expect(of(-0.7, 2.3, 0.45).text).equal('D may be more stable than its label')
    expect(of(-1, 2.1, 0.8).text).equal('Nothing speaks against the label of D')
    expect(of(-1, 2, 0.8, 0)).include({ text: 'D has not been thrown', settled: false })
  })

  it('shows by what a disc is more stable: its finish, or the mean of its flight where the finish does not show it', () => {
    const of = (side: number, finish: number, sd = 1) =>
      gapWords({ side: { value: side, sd: 0.5 }, finish: { value: finish, sd } }, 'left', { name: (d) => d })
    expect(of(2, 6)).equal('it finishes 6.0 m (4.4 to 7.6) farther left in a flight of 100 m')
    expect(of(2, 0.5)).equal('it flies 2.0 m (1.2 to 2.8) farther left as the mean of a flight of 100 m')
    expect(of(2, -0.2, 3)).contain('it flies 2.0 m')
    // neither shows it: the one that people see
    expect(of(0.2, 0.6)).contain('it finishes 0.6 m (−1.0 to 2.2) farther left')
    // nothing is not so far to a side
    expect(of(0.02, 0.02)).equal('it finishes where the other does, within 1.6 m, in a flight of 100 m')
  })

  it('says nothing settled of one disc that was not thrown', () => {
    const list = said(outcomeOfBelief([{ disc: 'A', turn: -1, fade: 2, sd: 0.8, throws: 0 }]))
    expect(list).length(1)
    expect(list[0]!.settled).equal(false)
  })
})
