import { POINT } from '../../core/rating/places.ts'
import { expect } from 'chai'
import { crewOfTwo } from '../../cli/crew.ts'
import { STANDARD_BODY } from '../../core/flight/disc.ts'
import { onThisThread } from '../../core/rating/crew.ts'
import type { FlightJob } from '../../core/rating/crew.ts'
import { fit } from '../../core/rating/fit.ts'
import { SEEN } from '../../core/rating/linear.ts'
import { outcomeOf } from '../../core/rating/outcome.ts'
import { simulateSession } from '../simulate/session.ts'

const jobs = (count: number): FlightJob[] =>
  Array.from({ length: count }, (_, i) => ({
    speed: 5 + (i % 8),
    body: STANDARD_BODY,
    densityKgM3: 1.2,
    spinRadps: 0,
    midX: i % 3 === 0 ? 40 : 0,
    at: Float64Array.of(5, -(i % 4), 2, 3.2, 0.18, 0.1 * ((i % 5) - 2), 0, 0, (i % 7) - 3, 0, 0.02 * (i % 3)),
    seen: new Float64Array(SEEN),
    jacobian: new Float64Array(SEEN * POINT),
  }))

describe('a crew of two threads', () => {
  it('flies every job as one alone would, a few of them and more than a board holds', async () => {
    const { crew, end } = await crewOfTwo()
    try {
      for (const count of [0, 3, 500, 20_000]) {
        const [together, one] = [jobs(count), jobs(count)]
        crew(together)
        onThisThread(one)
        together.forEach((j, i) => {
          if (i % 97 !== 0 && i < count - 3) return
          expect(j.seen).deep.equal(one[i]!.seen)
          expect(j.jacobian).deep.equal(one[i]!.jacobian)
        })
      }
    } finally {
      await end()
    }
  })

  it('comes to the same rating', async () => {
    const { crew, end } = await crewOfTwo()
    try {
      const { evidence } = simulateSession({ seed: 0.4, throws: 150, mid: true })
      expect(outcomeOf(fit(evidence, { crew }))).deep.equal(outcomeOf(fit(evidence)))
    } finally {
      await end()
    }
  })
})
