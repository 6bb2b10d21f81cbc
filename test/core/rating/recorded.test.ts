import { expect } from 'chai'
import { mean, range } from 'd3'
import { fit } from '../../../core/rating/fit.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'
import { condense } from '../../../core/rating/recorded.ts'
import { simulateSession } from '../../simulate/session.ts'

const line = (xs: readonly number[]) => ({
  downM: xs,
  veerM: xs.map((x) => 0.001 * x * x),
  upM: xs.map((x) => 1 + 0.2 * x - 0.002 * x * x),
  timeS: xs.map((x) => x / 25),
})

/** Values at the marks again, from the whitened ones. */
const values = (e: NonNullable<ReturnType<typeof condense>>, i: number) => {
  const { factor, white } = e.channels[i]!
  const m = white.length
  return Array.from(white, (_, r) => range(r + 1).reduce((s, k) => s + factor[r * m + k]! * white[k]!, 0))
}

describe('a recorded path', () => {
  it('is condensed to its own values at a few marks', () => {
    const e = condense(line(range(2, 96, 1.5)))!
    expect(e.marks.length).equal(9)
    expect(e.channels.map((c) => c.channel)).deep.equal([0, 1, 2])
    values(e, 0).forEach((v, k) => expect(v).closeTo(0.001 * e.marks[k]! ** 2, 1e-4))
    values(e, 1).forEach((v, k) => expect(v).closeTo(1 + 0.2 * e.marks[k]! - 0.002 * e.marks[k]! ** 2, 1e-4))
  })

  it('is not worth ten times as much for ten times the points', () => {
    const sds = [20, 200].map((n) => {
      const e = condense(line(range(n).map((i) => 2 + (90 * i) / n)))!
      const { factor } = e.channels[0]!
      return Math.hypot(...factor.subarray(9 * 2, 9 * 2 + 3))
    })
    expect(sds[1]!).lessThan(sds[0]!)
    // independent readings would have made it a third
    expect(sds[1]!).greaterThan(0.75 * sds[0]!)
  })

  it('does without heights and times, and says nothing where it goes nowhere', () => {
    const { downM, veerM } = line([5, 20, 60])
    expect(condense({ downM, veerM })!.channels.length).equal(1)
    expect(condense({ downM, veerM })!.marks.length).equal(3)
    expect(condense({ downM: [], veerM: [] })).equal(undefined)
    expect(condense({ downM: [4, 4, 4.5], veerM: [0, 0, 0] })).equal(undefined)
    expect(() => condense({ downM: [1, 2], veerM: [1] })).throw(RangeError, /as many/)
  })

  it('takes no point twice where the recording runs back', () => {
    const { marks } = condense({ downM: [0, 30, 29, 28, 60], veerM: [0, 1, 50, 50, 2] })!
    expect(marks.length).equal(3)
  })

  it('tells more of a disc than its landing, honestly', () => {
    const seeds = Array.from({ length: 5 }, (_, k) => ((k + 1) * 0.618) % 1)
    let [squares, plainSquares, held, all] = [0, 0, 0, 0]
    for (const seed of seeds) {
      const { evidence, truth } = simulateSession({ seed, throws: 24, discs: 4, recorded: true })
      const seen = outcomeOf(fit(evidence))
      const plain = outcomeOf(fit({ ...evidence, throws: evidence.throws.map(({ path: _, ...t }) => t) }))
      seen.discs.forEach((d, i) => {
        for (const key of ['turn', 'fade'] as const) {
          const t = truth.get(d.disc)![key]
          squares += (d.observed[key] - t) ** 2
          plainSquares += (plain.discs[i]!.observed[key] - t) ** 2
          if (Math.abs(d.observed[key] - t) < 1.645 * d.sd[key]) held++
          all++
        }
      })
    }
    expect(squares).lessThan(0.6 * plainSquares)
    expect(held / all).within(0.8, 0.98)
  })

  it('is as honest without times', () => {
    const z: number[] = []
    for (let k = 0; k < 6; k++) {
      const { evidence, truth } = simulateSession({
        seed: (0.11 + k * 0.618) % 1,
        throws: 24,
        discs: 4,
        recorded: true,
      })
      const untimed = evidence.throws.map(({ path, ...t }) => {
        const { timeS: _, ...rest } = path!
        return { ...t, path: rest }
      })
      for (const d of outcomeOf(fit({ ...evidence, throws: untimed })).discs)
        for (const key of ['turn', 'fade'] as const)
          z.push((d.observed[key] - truth.get(d.disc)![key]) / d.sd[key])
    }
    expect(Math.abs(mean(z)!)).lessThan(0.4)
    expect(Math.sqrt(mean(z, (v) => v * v)!)).lessThan(1.4)
  })
})
