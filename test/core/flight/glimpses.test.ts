import { AT, OF_DISC, POINT } from '../../../core/rating/places.ts'
import { expect } from 'chai'
import fc from 'fast-check'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { BANKS, END_BANK, glimpsesOf, LEAST_BANK } from '../../../core/flight/glimpses.ts'
import { HANG } from '../../../core/flight/landing.ts'
import { pathFeatures, pathPoints, tracePath, veerAt } from '../../../core/flight/path.ts'
import { referenceRelease, referenceSpeed, REFERENCE_LAUNCH } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { flyPoint, linearise, SEEN, shownWith } from '../../../core/rating/linear.ts'

const within = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const anyPoint = fc
  .tuple(within(3, 6), within(-3, 0.5), within(0, 3.5), within(-12, 12), within(-3, 3), within(-2, 2))
  .map(([glide, turn, fade, hyzer, along, across]) => ({
    numbers: { speed: 9, glide, turn, fade },
    hyzer: hyzer * DEGREE,
    along,
    across,
    point: Float64Array.of(
      glide,
      turn,
      fade,
      Math.log(referenceSpeed(9)),
      REFERENCE_LAUNCH,
      hyzer * DEGREE,
      0,
      0,
      along,
      across,
      0,
    ),
  }))

const FAIRWAY = { speed: 9, body: STANDARD_BODY, densityKgM3: 1.2041, midX: 0, spinRadps: 0 }

describe('glimpses of a flight', () => {
  it('are those of the recorded path: banks, and side, height and time where it passes a mark', () => {
    fc.assert(
      fc.property(anyPoint, ({ numbers, hyzer, along, across, point }) => {
        const path = tracePath(
          numbers,
          STANDARD_BODY,
          { ...referenceRelease(9), hyzerRad: hyzer },
          { densityKgM3: 1.2041, windAlongMps: along, windTowardFadeMps: across, shearExponent: 0 },
        )
        const marks = Float64Array.of(0.2, 0.5, 0.9).map((share) => share * path.carryM)
        const seen = new Float64Array(shownWith(marks))
        flyPoint(FAIRWAY, point, seen, marks)
        const f = pathFeatures(path)
        expect(seen[SEEN + LEAST_BANK]).closeTo(f.minBankRad, 0.02)
        expect(seen[SEEN + END_BANK]).closeTo(f.endBankRad, 0.02)
        const points = pathPoints(path, 2000)
        marks.forEach((mark, m) => {
          const near = points.find((p) => p.x >= mark)!
          expect(seen[SEEN + BANKS + m]).closeTo(veerAt(path, mark), 0.03)
          expect(seen[SEEN + BANKS + 3 + m]).closeTo(near.z, 0.08)
          expect(seen[SEEN + BANKS + 6 + m]).closeTo(near.t, 0.01)
        })
      }),
      { numRuns: 60, endOnFailure: true },
    )
  })

  it('go on along the last heading where the disc came down before a mark', () => {
    const point = Float64Array.of(5, -1, 2, Math.log(15), REFERENCE_LAUNCH, 0, 0, 0, 0, 0, 0)
    const marks = Float64Array.of(400)
    const seen = new Float64Array(shownWith(marks))
    flyPoint(FAIRWAY, point, seen, marks)
    expect(seen[SEEN + BANKS + 1]).lessThan(0)
    expect(seen[SEEN + BANKS + 2]).greaterThan(seen[HANG]!)
  })

  it('have derivatives that foretell a small step', () => {
    fc.assert(
      fc.property(anyPoint, ({ point }) => {
        const marks = Float64Array.of(20, 45)
        const count = shownWith(marks)
        expect(count).equal(SEEN + glimpsesOf(2))
        const [seen, moved] = [new Float64Array(count), new Float64Array(count)]
        const jacobian = new Float64Array(count * POINT)
        linearise(FAIRWAY, point, seen, jacobian, marks)
        for (let j = 0; j < POINT; j++) {
          const by = j < OF_DISC || j > AT.azimuth ? 1e-3 : 1e-4
          const next = point.slice()
          next[j]! += by
          flyPoint(FAIRWAY, next, moved, marks)
          for (let i = SEEN; i < count; i++)
            expect(moved[i]! - seen[i]!, `${i} ${j}`).closeTo(jacobian[i * POINT + j]! * by, 4e-3)
        }
      }),
      { numRuns: 30, endOnFailure: true },
    )
  })
})
