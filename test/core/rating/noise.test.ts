import { expect } from 'chai'
import { randomLcg, randomNormal } from 'd3'
import { bendOf, lnOfMisfit, pulledMisfit, weightOf } from '../../../core/rating/noise.ts'

/** Squared lengths of so many standard normal values. */
function squares(count: number, draws: number): number[] {
  const normal = randomNormal.source(randomLcg(0.42))()
  return Array.from({ length: draws }, () => {
    let s = 0
    for (let i = 0; i < count; i++) s += normal() ** 2
    return s
  })
}
const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length

describe('what a throw weighs', () => {
  it('is all of it where it is an ordinary one, however little it misses, and ever less beyond', () => {
    for (const count of [2, 3, 5, 12]) {
      expect(weightOf(count, 0)).equal(1)
      expect(weightOf(count, count)).equal(1)
      let last = 1
      for (let d = 2 * count + 2; d < 400; d *= 1.5) {
        const weight = weightOf(count, d)
        expect(weight).lessThan(last)
        last = weight
      }
      // what it pulls in the end falls with its distance, as that of a Student-t does
      expect(weightOf(count, 1e6) * 1e6).lessThan(count + Math.sqrt(2 * count) + 4.001)
      const lessened = squares(count, 20_000).filter((d) => weightOf(count, d) < 1).length / 20_000
      expect(lessened).within(0.1, 0.2)
    }
  })

  it('is the slope of how likely it is', () => {
    for (const count of [2, 4, 9])
      for (const d of [0.5, 3, 6, 9, 20, 90]) {
        const slope = (lnOfMisfit(count, d + 1e-4) - lnOfMisfit(count, d - 1e-4)) / 2e-4
        expect(slope).closeTo(-0.5 * weightOf(count, d), 1e-6)
      }
  })

  it('is counted on as it turns out among throws that scatter like a Gaussian', () => {
    for (const count of [2, 3, 5, 12, 30]) {
      const drawn = squares(count, 60_000)
      const misfit = mean(drawn.map((d) => weightOf(count, d) * d)) / count
      expect(pulledMisfit(count), `${count} observations`).closeTo(misfit, 0.01)
      const slopeOf = (d: number) => (weightOf(count, d + 1e-5) - weightOf(count, d - 1e-5)) / 2e-5
      const bend =
        mean(drawn.map((d) => weightOf(count, d) + (2 * slopeOf(d) * d) / count)) /
        mean(drawn.map((d) => weightOf(count, d)))
      expect(bendOf(count), `${count} observations`).closeTo(bend, 0.012)
      // an estimate by such weights varies as the inverse of its weighted information says: the sandwich
      const sandwich = (mean(drawn.map((d) => weightOf(count, d) ** 2 * d)) / count) * bend ** -2
      expect(sandwich / mean(drawn.map((d) => weightOf(count, d)))).closeTo(1, 0.03)
    }
  })
})
