import { expect } from 'chai'
import { mean, randomLcg, randomNormal, range, rollup } from 'd3'
import { changeBy, stabilityAfter, Wear, whenLess, withoutLabel } from '../../../core/rotation/wear.ts'
import { PLASTIC_KINDS, usualDrop } from '../../../core/shelf/usualWear.ts'
import type { WornDisc } from '../../../core/rotation/wear.ts'
import type { PlasticKind } from '../../../core/shelf/usualWear.ts'
import { lives, numbersAfter, wearOf, worn } from '../../simulate/lives.ts'
import { stabilityBy } from '../../../core/flight/side.ts'
import { normalQuantile } from '../../../core/rating/normal.ts'

const use = (throws: number, hardHits = 0) => ({ throws, hardHits })
const disc = (id: string, rest: Partial<WornDisc> = {}): WornDisc => ({
  id,
  kind: 'base',
  blend: 'Loam',
  label: { value: 1.5, sd: 0.8 },
  tests: [],
  ...rest,
})

describe('wear', () => {
  it('takes a base blend fast and goes on, a premium slowly, and then it holds', () => {
    const lost = (kind: 'base' | 'premium', from: number, to: number) =>
      usualDrop(kind, use(to)) - usualDrop(kind, use(from))
    expect(lost('base', 0, 200)).greaterThan(3 * lost('premium', 0, 200))
    expect(lost('premium', 2000, 2200)).lessThan(0.25 * lost('premium', 0, 200))
    expect(lost('base', 2000, 2200)).greaterThan(0.3)
    for (const kind of PLASTIC_KINDS) {
      expect(usualDrop(kind, use(0))).equal(0)
      expect(usualDrop(kind, use(100, 3))).greaterThan(usualDrop(kind, use(100)))
    }
  })

  it('is told widely before any re-test, and from the label on', () => {
    const wear = new Wear([])
    const ways = wear.waysOf(disc('a'))
    expect(ways.reduce((sum, w) => sum + w.share, 0)).closeTo(1, 0.01)
    const { low, middle, high } = wear.paceOf('base', 'Loam')
    expect(middle).closeTo(1, 0.06)
    // one disc in five wears at less than half or more than twice what is usual
    expect(low).within(0.4, 0.65)
    expect(high).within(1.55, 2.4)
    const now = stabilityAfter('base', ways, use(0))
    expect(now.value).closeTo(1.5, 0.01)
    expect(now.sd).closeTo(0.8, 0.02)
    const tested = disc('b', { tests: [{ use: use(0), stability: { value: 1, sd: 0.2 } }] })
    expect(() => wear.waysOf(tested)).throw(RangeError, 'The tests of disc b were not given.')
  })

  it('is learned by a blend from its re-tests, by its kind from its blends, and by nobody else', () => {
    // each wears at three times what is usual
    const tested = (id: string, blend: string): WornDisc =>
      disc(id, {
        blend,
        tests: [0, 100, 200, 300].map((n) => ({
          use: use(n),
          stability: { value: 1.5 - 3 * usualDrop('base', use(n)), sd: 0.08 },
        })),
      })
    const wear = new Wear(['a', 'b', 'c'].map((id) => tested(id, 'Loam')))
    const own = wear.paceOf('base', 'Loam')
    expect(own.middle).within(2.1, 3.1)
    const kin = wear.paceOf('base', 'Reed')
    expect(kin.middle).within(1.15, own.middle - 0.3)
    expect(kin.high / kin.low).greaterThan(1.5 * (own.high / own.low))
    expect(wear.paceOf('premium', 'Slate').middle).closeTo(1, 0.06)
  })

  it('learns by re-tests what a hit does apart from what throws do', () => {
    // half of them are thrown a lot and never hit, the others are hit: a hit is worth so many throws
    const hitBy = (worth: number) =>
      new Wear(
        ['a', 'b', 'c', 'd'].flatMap((id, i) =>
          [true, false].map((isHit): WornDisc => {
            const uses = [0, 1, 2, 3].map((k) => (isHit ? use(20 * k, 5 * k) : use(100 * k)))
            return disc(`${id}${isHit}`, {
              blend: `blend ${i}`,
              tests: uses.map((u) => ({
                use: u,
                stability: { value: 1.5 - usualDrop('base', u, worth), sd: 0.08 },
              })),
            })
          }),
        ),
      ).hitOf('base')
    const [light, usual, hard] = [hitBy(8), hitBy(20), hitBy(50)]
    expect(light.middle).within(5, 13)
    expect(usual.middle).within(14, 28)
    expect(hard.middle).within(34, 66)
    expect(light.high).lessThan(hard.low)
    // before any re-test it is what is believed, and wide
    const { low, middle, high } = new Wear([]).hitOf('base')
    expect(middle).closeTo(20, 1)
    expect(high / low).greaterThan(3)
  })

  it('foretells what more use does, and when a disc is so much less stable', () => {
    const tests = [0, 150, 300].map((n) => ({
      use: use(n),
      stability: { value: 1.5 - usualDrop('base', use(n)), sd: 0.05 },
    }))
    const discs = ['a', 'b', 'c', 'd'].map((id) => disc(id, { tests }))
    const ways = new Wear(discs).waysOf(discs[0]!)
    const by = changeBy('base', ways, use(300), use(100))
    const really = usualDrop('base', use(400)) - usualDrop('base', use(300))
    expect(-by.value).closeTo(really, 0.04)
    expect(by.sd).within(0.005, 0.08)
    const { earliest, likely, latest } = whenLess('base', ways, use(300), 0.5)
    expect(usualDrop('base', use(300 + likely!)) - usualDrop('base', use(300))).closeTo(0.5, 0.12)
    expect(earliest).lessThan(likely!)
    expect(latest).greaterThan(likely!)
    // hits go on as they came
    const hit = whenLess('base', ways, use(300, 6), 0.5)
    expect(hit.likely).lessThan(likely!)
    // a stiff premium that held for a thousand throws holds
    const held = new Wear([]).waysOf(disc('p', { kind: 'premium' }))
    expect(whenLess('premium', held, use(2500), 1).likely).equal(null)
  })

  const SHARES = [0.5, 0.8, 0.9] as const
  /** How often what is said of discs after 200 more throws holds, by kind of plastic: 50, 80 and 90 of 100. */
  function held(seeds: number, faster: (kind: PlasticKind) => number) {
    const told = range(1, seeds + 1).flatMap((seed) => {
      const all = lives(seed / 37, 8, 5, faster)
      const wear = wearOf(all)
      return all.map((life) => {
        const later = use(life.use.throws + 200, life.use.hardHits)
        const really = stabilityBy(life.published, numbersAfter(life, later))
        const said = stabilityAfter(life.kind, wear.waysOf(worn(life)), later)
        return { kind: life.kind, off: Math.abs(really - said.value) / said.sd }
      })
    })
    const of = (some: typeof told) =>
      SHARES.map((share) => mean(some, (t) => Number(t.off < normalQuantile((1 + share) / 2)))!)
    return { count: told.length, all: of(told), byKind: rollup(told, of, (t) => t.kind) }
  }

  it('holds as often as it says over lives of discs, plastics that wear twice as fast among them', () => {
    for (const faster of [1, 2]) {
      const { count, all } = held(10, () => faster)
      expect(count).equal(400)
      // of those that wear twice as fast as anything that is believed, somewhat fewer
      const slack = faster === 1 ? 0.07 : 0.12
      for (const [i, share] of SHARES.entries())
        expect(all[i], `${share}, ${faster}`).within(share - slack, share + [0.12, 0.1, 0.07][i]!)
    }
  })

  it('holds for each kind of plastic apart, where it wears twice or half as fast as believed too', () => {
    for (const pace of [1, 2, 0.5]) {
      const { byKind } = held(12, () => pace)
      expect([...byKind.keys()]).have.members([...PLASTIC_KINDS])
      for (const [kind, of] of byKind)
        for (const [i, share] of SHARES.entries())
          expect(of[i], `${kind} at ${pace}, ${share}`).within(share - 0.11, share + [0.12, 0.1, 0.07][i]!)
    }
  })

  it('is read from what throws say alone: the label does not count once a test', () => {
    const normal = randomNormal.source(randomLcg(0.4))(0, 1)
    const label = { value: 1.5, sd: 1.1 }
    // a rating leans on the label as much as its throws are few
    const rated = (really: number, sd: number) => {
      const seen = really + sd * normal()
      const precision = 1 / sd ** 2 + 1 / label.sd ** 2
      return {
        value: (seen / sd ** 2 + label.value / label.sd ** 2) / precision,
        sd: Math.sqrt(1 / precision),
      }
    }
    const really = -0.8
    const leaning = Array.from({ length: 4000 }, () => rated(really, 0.7))
    const own = leaning.map((test) => withoutLabel(test, label)!)
    expect(mean(leaning, (t) => t.value)!).greaterThan(-0.3)
    expect(mean(own, (t) => t.value)!).closeTo(really, 0.04)
    expect(own[0]!.sd).closeTo(0.7, 1e-9)
    expect(withoutLabel({ value: 1.5, sd: 1.09 }, label)).equal(undefined)
  })
})
