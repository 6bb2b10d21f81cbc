import { randomLcg } from 'd3'
import { expect } from 'chai'
import { drillQuestionOf } from '../../../core/drill/deal.ts'
import { DRILL_KINDS, QUESTIONS } from '../../../core/drill/question.ts'
import type { DrillReply } from '../../../core/drill/question.ts'
import { circleCost, isRight, pointsOf, rangeCost, sharesPoints } from '../../../core/drill/scoring.ts'
import { FIRST_LEVEL, levelAfter, TARGET } from '../../../core/drill/staircase.ts'
import { labFlightOf } from '../../../core/lab/flight.ts'
import { normalQuantile } from '../../../core/rating/normal.ts'

const seeds = Array.from({ length: 12 }, (_, i) => (0.021 + i * 0.381966) % 1)

describe('a question of the drill', () => {
  it('is the same of the same seed, flies, and has one truth of its kind', () => {
    for (const kind of DRILL_KINDS)
      for (const level of [0, 0.5, 1])
        for (const seed of seeds) {
          const q = drillQuestionOf(kind, level, seed)
          expect(drillQuestionOf(kind, level, seed)).deep.equal(q)
          expect(q.truth.kind).equal(QUESTIONS[kind].answer)
          expect(q.flights).length(kind === 'more-stable' || kind === 'cause' ? 2 : 1)
          for (const f of q.flights) expect(labFlightOf(f)!.landed.downM).least(30)
          if (kind === 'cause') expect(q.windShown).equal(false)
        }
  })

  it('is true of its flights', () => {
    for (const seed of seeds) {
      const angle = drillQuestionOf('angle', 0.3, seed)
      expect(angle.truth).deep.equal({ kind: 'range', value: angle.flights[0]!.throw.hyzerDeg })
      const nose = drillQuestionOf('nose', 0, seed)
      const { noseDeg } = nose.flights[0]!.throw
      expect(nose.truth).deep.equal({ kind: 'shares', option: noseDeg > 4 ? 0 : noseDeg < -4 ? 2 : 1 })
      const stood = drillQuestionOf('stood-up', 0.5, seed)
      const least = Math.min(...labFlightOf(stood.flights[0]!)!.tiltDeg)
      expect(stood.truth).deep.equal({ kind: 'shares', option: least <= 1 ? 0 : 1 })
      const more = drillQuestionOf('more-stable', 0.5, seed)
      const [a, b] = more.flights.map(({ disc: { numbers } }) => numbers.turn + numbers.fade)
      expect(more.truth).deep.equal({ kind: 'shares', option: a! > b! ? 0 : 1 })
      const landing = drillQuestionOf('landing', 0.5, seed)
      expect(landing.truth).deep.equal({ kind: 'circle', at: labFlightOf(landing.flights[0]!)!.landed })
      expect(landing.shownPart).within(0.4, 0.9)
    }
  })

  it('has every option about as often, and is closer the harder it is', () => {
    const many = Array.from({ length: 90 }, (_, i) => (0.013 + i * 0.0107) % 1)
    for (const kind of ['nose', 'cause', 'more-stable', 'stood-up'] as const) {
      const options = new Array<number>(QUESTIONS[kind].options.length).fill(0)
      for (const seed of many) {
        const { truth } = drillQuestionOf(kind, 0.4, seed)
        if (truth.kind === 'shares') options[truth.option]!++
      }
      for (const n of options) expect(n, kind).greaterThan((0.4 * many.length) / options.length)
    }
    const apart = (level: number) =>
      seeds.reduce((sum, seed) => {
        const [a, b] = drillQuestionOf('more-stable', level, seed).flights.map(
          ({ disc: { numbers } }) => numbers.turn + numbers.fade,
        )
        return sum + Math.abs(a! - b!)
      }, 0)
    expect(apart(1)).lessThan(0.3 * apart(0))
  })
})

describe('points', () => {
  it('are served best by saying what one believes: shares', () => {
    for (const believed of [0.5, 0.7, 0.9]) {
      const expected = (said: number) =>
        believed * sharesPoints([said, 1 - said], 0) + (1 - believed) * sharesPoints([said, 1 - said], 1)
      const best = Array.from({ length: 101 }, (_, i) => i / 100).reduce((a, b) =>
        expected(b) > expected(a) ? b : a,
      )
      expect(best).closeTo(believed, 0.011)
    }
    // sure and wrong costs most
    expect(sharesPoints([1, 0], 0)).equal(100)
    expect(sharesPoints([1, 0], 1)).equal(-300)
    expect(sharesPoints([0.5, 0.5], 0)).equal(0)
    expect(sharesPoints([1 / 3, 1 / 3, 1 / 3], 2)).closeTo(0, 1e-9)
  })

  it('are served best by the range that holds four times in five', () => {
    const beliefs = Array.from({ length: 999 }, (_, i) => 20 + 6 * normalQuantile((i + 1) / 1000))
    const cost = (half: number, middle = 20) =>
      beliefs.reduce((s, v) => s + rangeCost({ low: middle - half, high: middle + half }, v), 0)
    const halves = Array.from({ length: 60 }, (_, i) => 0.5 + i / 4)
    const best = halves.reduce((a, b) => (cost(b) < cost(a) ? b : a))
    expect(best).closeTo(1.2816 * 6, 0.4)
    expect(cost(best, 22)).greaterThan(cost(best, 20))
    expect(circleCost({ at: { downM: 70, sideM: 0 }, radiusM: 5 }, { downM: 70, sideM: 8 })).closeTo(40, 1e-9)
  })

  it('are none for the best answer of somebody who saw nothing', () => {
    for (const kind of ['angle', 'turn', 'fade', 'landing'] as const) {
      const dealt = Array.from({ length: 400 }, (_, i) =>
        drillQuestionOf(kind, 0.4, (0.007 + i * 0.00241) % 1),
      )
      const points = (answer: DrillReply) => dealt.reduce((s, q) => s + pointsOf(q, answer), 0) / dealt.length
      const values = dealt.map(({ truth: t }) =>
        t.kind === 'range' ? t.value : t.kind === 'circle' ? t.at.downM : NaN,
      )
      const middle = values.toSorted((a, b) => a - b)[200]!
      const [low, high] = [Math.min(...values), Math.max(...values)]
      const best = Math.max(
        ...Array.from({ length: 40 }, (_, i) => {
          const half = ((high - low) * (i + 1)) / 80
          return points(
            kind === 'landing'
              ? { kind: 'circle', at: { downM: middle, sideM: 2 }, radiusM: half }
              : { kind: 'range', low: (low + high) / 2 - half, high: (low + high) / 2 + half },
          )
        }),
      )
      expect(best, kind).within(-12, 12)
    }
  })

  it('are a hundred at most, tell right from wrong, and refuse an answer to another question', () => {
    const q = drillQuestionOf('angle', 0.3, 0.4)
    const value = q.truth.kind === 'range' ? q.truth.value : NaN
    const narrow = { kind: 'range' as const, low: value - 1, high: value + 1 }
    const off = { kind: 'range' as const, low: value + 12, high: value + 14 }
    expect(pointsOf(q, narrow)).within(95, 97)
    expect(pointsOf(q, off)).lessThan(0)
    expect([isRight(q.truth, narrow), isRight(q.truth, off)]).deep.equal([true, false])
    expect(() => pointsOf(q, { kind: 'shares', shares: [1, 0] })).throw(RangeError, 'not answered like that')
    // undecided is not right
    expect(isRight({ kind: 'shares', option: 0 }, { kind: 'shares', shares: [0.5, 0.5] })).equal(false)
  })
})

describe('the level', () => {
  it('follows an eye to where it is right three times in four', () => {
    const random = randomLcg(0.7)
    for (const sees of [0.35, 0.7]) {
      const rights: boolean[] = []
      let [late, right] = [0, 0]
      for (let i = 0; i < 900; i++) {
        const level = levelAfter(rights)
        expect(level).within(0, 1)
        // surely at first, like a coin far beyond what it sees
        const p = 0.5 + 0.5 / (1 + Math.exp(12 * (level - sees)))
        rights.push(random() < p)
        if (i < 100) continue
        late++
        if (rights.at(-1)) right++
      }
      expect(right / late).closeTo(TARGET, 0.04)
      expect(levelAfter(rights)).closeTo(sees, 0.3)
    }
    expect(levelAfter([])).equal(FIRST_LEVEL)
  })
})
