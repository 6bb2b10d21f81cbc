import { randomLcg, randomNormal, range, shuffler } from 'd3'
import { expect } from 'chai'
import fc from 'fast-check'
import {
  discBorderCovariance,
  discCovariance,
  emptyArrow,
  solveArrow,
  weightedCovariance,
} from '../../../core/rating/arrow.ts'
import type { Arrow } from '../../../core/rating/arrow.ts'
import { factorise, inverse, solve } from '../../../core/rating/cholesky.ts'
import { normalCdf } from '../../../core/rating/normal.ts'
import {
  factoriseSkyline,
  inverseSkyline,
  inverseWithin,
  skylineOf,
  solveSkyline,
} from '../../../core/rating/skyline.ts'

/** A random symmetric positive definite matrix, row by row. */
function positive(n: number, normal: () => number): Float64Array {
  const root = Float64Array.from({ length: n * n }, normal)
  const a = new Float64Array(n * n)
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      for (let k = 0; k < n; k++) a[i * n + j]! += root[i * n + k]! * root[j * n + k]!
      if (i === j) a[i * n + j]! += 0.5
    }
  return a
}
const normalOf = (seed: number) => randomNormal.source(randomLcg(seed))()
const seeds = fc.double({ min: 0.001, max: 0.999, noNaN: true })

describe('Cholesky', () => {
  it('solves and inverts any positive definite system', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), seeds, (n, seed) => {
        const normal = normalOf(seed)
        const a = positive(n, normal)
        const factor = a.slice()
        factorise(factor, n)
        const want = Float64Array.from({ length: n }, normal)
        const b = new Float64Array(n)
        for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) b[i]! += a[i * n + j]! * want[j]!
        solve(factor, n, b)
        b.forEach((v, i) => expect(v).closeTo(want[i]!, 1e-6))
        const inv = inverse(factor, n)
        for (let i = 0; i < n; i++)
          for (let j = 0; j < n; j++) {
            let s = 0
            for (let k = 0; k < n; k++) s += a[i * n + k]! * inv[k * n + j]!
            expect(s).closeTo(i === j ? 1 : 0, 1e-7)
          }
      }),
    )
  })

  it('refuses a matrix that is not positive definite', () => {
    expect(() => factorise(Float64Array.of(1, 2, 2, 1), 2)).throws(RangeError, /not positive definite at 1/)
    expect(() => factorise(Float64Array.of(Number.NaN), 1)).throws(RangeError)
  })
})

describe('Cholesky along the skyline', () => {
  /** A positive definite matrix whose rows begin anywhere. */
  const ragged = (n: number, seed: number) => {
    const uniform = randomLcg(seed)
    const a = new Float64Array(n * n)
    for (let i = 0; i < n; i++) {
      for (let j = Math.floor(uniform() * (i + 1)); j < i; j++)
        a[i * n + j] = a[j * n + i] = uniform() < 0.3 ? 0 : uniform() - 0.5
      a[i * n + i] = n
    }
    return a
  }

  it('factorises, solves and inverts as the dense one does, and fills nothing before a row begins', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30 }), seeds, (n, seed) => {
        const a = ragged(n, seed)
        const [dense, along] = [a.slice(), a.slice()]
        const first = skylineOf(a, n)
        factorise(dense, n)
        factoriseSkyline(along, n, first)
        for (let i = 0; i < n; i++)
          for (let j = 0; j <= i; j++) {
            expect(along[i * n + j]).closeTo(dense[i * n + j]!, 1e-9)
            if (j < first[i]!) expect(along[i * n + j]).equal(0)
          }
        const [x, y] = [Float64Array.from({ length: n }, (_, i) => Math.cos(i)), new Float64Array(n)]
        y.set(x)
        solve(dense, n, x)
        solveSkyline(along, n, first, y)
        y.forEach((v, i) => expect(v).closeTo(x[i]!, 1e-9))
        const [want, got] = [inverse(dense, n), inverseSkyline(along, n, first)]
        got.forEach((v, i) => expect(v).closeTo(want[i]!, 1e-9))
        const near = inverseWithin(along, n, first)
        for (let i = 0; i < n; i++)
          for (let j = 0; j <= i; j++) {
            const within = j >= first[i]!
            expect(near[i * n + j]).closeTo(within ? want[i * n + j]! : 0, 1e-9)
            expect(near[j * n + i]).equal(near[i * n + j])
          }
      }),
    )
  })

  it('refuses a matrix that is not positive definite', () => {
    const a = Float64Array.of(1, 0, 0, -1)
    expect(() => factoriseSkyline(a, 2, skylineOf(a, 2))).throws(RangeError, /not positive definite at 1/)
  })
})

/** An arrow and the same system as one dense matrix: discs first, then the border. */
function system(discs: number, border: number, seed: number) {
  const normal = normalOf(seed)
  const uniform = randomLcg(seed)
  const columns = Array.from({ length: discs }, () =>
    Int32Array.from(Array.from({ length: border }, (_, b) => b).filter(() => uniform() < 0.5)),
  )
  // the order of elimination is anybody's choice
  const order = shuffler(randomLcg(seed))(range(border))
  const arrow: Arrow = emptyArrow(columns, border, order)
  const n = 3 * discs + border
  const dense = new Float64Array(n * n)
  const side = Float64Array.from({ length: n }, normal)
  const own = () => positive(3, normal)
  for (let d = 0; d < discs; d++) {
    arrow.own.set(own(), 9 * d)
    columns[d]!.forEach((c, k) => {
      for (let i = 0; i < 3; i++) {
        const v = 0.2 * normal()
        arrow.coupling[d]![i * columns[d]!.length + k] = v
        dense[(3 * d + i) * n + 3 * discs + c] = dense[(3 * discs + c) * n + 3 * d + i] = v
      }
    })
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) dense[(3 * d + i) * n + 3 * d + j] = arrow.own[9 * d + 3 * i + j]!
  }
  // enough of its own that the whole is positive definite
  const shared = positive(border, normal)
  for (let i = 0; i < border; i++)
    for (let j = 0; j < border; j++) {
      const v = shared[i * border + j]! + (i === j ? 3 * discs : 0)
      arrow.shared[i * border + j] = v
      dense[(3 * discs + i) * n + 3 * discs + j] = v
    }
  arrow.ownSide.set(side.subarray(0, 3 * discs))
  arrow.sharedSide.set(side.subarray(3 * discs))
  factorise(dense, n)
  const solution = side.slice()
  solve(dense, n, solution)
  return { arrow, n, solution, covariance: inverse(dense, n) }
}

describe('the arrow of the fit', () => {
  it('solves like the dense system and has its covariances, whatever each disc touches', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 7 }),
        seeds,
        (discs, border, seed) => {
          const { arrow, n, solution, covariance } = system(discs, border, seed)
          const solved = solveArrow(arrow)
          solved.ownStep.forEach((v, i) => expect(v).closeTo(solution[i]!, 1e-7))
          solved.sharedStep.forEach((v, i) => expect(v).closeTo(solution[3 * discs + i]!, 1e-7))
          const at = (i: number, j: number) => covariance[i * n + j]!
          const stabilities = weightedCovariance(
            solved,
            Array.from({ length: discs }, () => [0, 1, 1] as const),
          )
          for (let a = 0; a < discs; a++) {
            const toBorder = discBorderCovariance(solved, a)
            for (let i = 0; i < 3; i++)
              for (let q = 0; q < border; q++)
                expect(toBorder[i * border + q]).closeTo(at(3 * a + i, 3 * discs + q), 1e-7)
            for (let b = 0; b < discs; b++) {
              const c = discCovariance(solved, a, b)
              for (let i = 0; i < 3; i++)
                for (let j = 0; j < 3; j++) expect(c[3 * i + j]).closeTo(at(3 * a + i, 3 * b + j), 1e-7)
              const [ta, tb] = [3 * a + 1, 3 * b + 1]
              expect(stabilities[a * discs + b]).closeTo(
                at(ta, tb) + at(ta, tb + 1) + at(ta + 1, tb) + at(ta + 1, tb + 1),
                1e-7,
              )
            }
          }
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('the normal distribution', () => {
  it('is symmetric, rises, and has the quantiles everybody knows', () => {
    for (const [z, p] of [
      [0, 0.5],
      [1, 0.841345],
      [1.2815515655446004, 0.9],
      [1.6448536269514722, 0.95],
      [-2, 0.02275],
    ] as const) {
      expect(normalCdf(z)).closeTo(p, 1e-5)
      expect(normalCdf(z) + normalCdf(-z)).closeTo(1, 1e-9)
    }
  })
})
