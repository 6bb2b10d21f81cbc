import { expect } from 'chai'
import {
  chebyshevPolynomial,
  POLYNOMIAL_UP_TO,
  RECIPROCAL_COS,
  reciprocalCos,
  STALL_RATIO,
  stallRatio,
} from '../../../core/flight/polynomials.ts'

const at = (c: readonly number[], y: number) => c.reduceRight((s, v) => s * y + v, 0)

describe('the polynomials of the inner loop', () => {
  for (const [name, exact, coefficients, worst] of [
    ['1/cos α', reciprocalCos, RECIPROCAL_COS, 8e-8],
    ['the soft stall', stallRatio, STALL_RATIO, 1e-7],
  ] as const) {
    it(`are made by their generator: ${name}`, () => {
      const made = chebyshevPolynomial(exact)
      made.forEach((c, i) => expect(c, `power ${i}`).closeTo(coefficients[i]!, 1e-8))
    })

    it(`are as near as they are said to be: ${name}`, () => {
      let most = 0
      for (let i = 0; i <= 1000; i++) {
        const y = (POLYNOMIAL_UP_TO * i) / 1000
        most = Math.max(most, Math.abs(at(coefficients, y) - exact(y)))
      }
      expect(most).within(worst / 10, worst)
    })
  }

  it('follow another function and another interval as well', () => {
    const made = chebyshevPolynomial(Math.exp, [1, 2], 9)
    for (const y of [1, 1.3, 1.77, 2]) expect(at(made, y)).closeTo(Math.exp(y), 1e-9)
    // a polynomial is its own series
    const [c, b, a] = chebyshevPolynomial((y) => 3 * y * y - 2 * y + 0.5, [-1, 4], 2) as [
      number,
      number,
      number,
    ]
    expect(a).closeTo(3, 1e-12)
    expect(b).closeTo(-2, 1e-12)
    expect(c).closeTo(0.5, 1e-12)
  })
})
