import { expect } from 'chai'
import { randomLcg, randomNormal } from 'd3'
import { precisionOfThrow, rightAfter, TELLS, throwsThatTell } from '../../../core/rotation/retest.ts'

const numbers = { speed: 9, glide: 5, turn: -1, fade: 1.6 }
const range = { low: 0, high: 1.2 }

describe('a re-test', () => {
  it('needs more throws the nearer the edge, and none where nobody doubts', () => {
    const precision = precisionOfThrow({ numbers }, 26)
    const need = (value: number, sd = 0.5) => throwsThatTell({ value, sd }, range, precision)
    expect(need(0.6, 0.2)).equal(0)
    expect(need(-1.5, 0.4)).equal(0)
    expect(need(0.6, 0.6)).within(20, 40)
    const wide = { low: -0.5, high: 1.5 }
    expect(throwsThatTell({ value: 0.6, sd: 1 }, wide, precision)).lessThan(need(0.6, 1)! / 2)
    expect(throwsThatTell({ value: -0.5, sd: 0.4 }, wide, precision)).greaterThan(40)
    // right on the edge, and hardly more than a guess: no afternoon tells that
    expect(throwsThatTell({ value: 0, sd: 0.06 }, range, precision)).equal(null)
  })

  it('learns more of a throw by a faster arm, which turns a disc more', () => {
    const [slow, fast] = [20, 28].map((arm) => precisionOfThrow({ numbers }, arm))
    // one throw tells stability to about two numbers, with the thrower's day against it
    expect(1 / Math.sqrt(fast!)).within(1, 3)
    expect(fast!).greaterThan(slow!)
  })

  it('is right as often as it says', () => {
    const normal = randomNormal.source(randomLcg(0.21))(0, 1)
    const precision = precisionOfThrow({ numbers }, 26)
    const believed = { value: 0.6, sd: 1 }
    const n = throwsThatTell(believed, range, precision)!
    let right = 0
    const COUNT = 20_000
    for (let i = 0; i < COUNT; i++) {
      const really = believed.value + believed.sd * normal()
      const seen = really + normal() / Math.sqrt(n * precision)
      const weight = n * precision * believed.sd ** 2
      const told = (believed.value + weight * seen) / (1 + weight)
      const isIn = (v: number) => v > range.low && v < range.high
      if (isIn(told) === isIn(really)) right++
    }
    expect(right / COUNT).closeTo(rightAfter(n, believed, range, precision), 0.025)
    expect(right / COUNT).greaterThan(TELLS - 0.03)
    expect(rightAfter(n, believed, range, precision)).greaterThan(
      rightAfter(n - 1, believed, range, precision) - 1e-9,
    )
  })
})
