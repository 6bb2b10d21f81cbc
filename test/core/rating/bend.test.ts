import { AT, BEARS_ON, HABIT, OF_DISC, OF_HABIT, POINT } from '../../../core/rating/places.ts'
import { expect } from 'chai'
import { mean, randomLcg, randomNormal, range } from 'd3'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { REFERENCE_LAUNCH, referenceSpeed } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { THROW_SD } from '../../../core/rating/evidence.ts'
import { flyPoint, SEEN } from '../../../core/rating/linear.ts'
import { factorise } from '../../../core/rating/cholesky.ts'
import { pullOf } from '../../../core/rating/bend.ts'
import { eliminate, updateLatents } from '../../../core/rating/eliminate.ts'
import { makeTerm, placeTerm } from '../../../core/rating/throwTerm.ts'
import type { ThrowTerm } from '../../../core/rating/throwTerm.ts'

const numbers = Float64Array.of(5, -1, 2)
const disc = {
  id: 'a',
  published: { speed: 9, glide: 5, turn: -1, fade: 2 },
  body: STANDARD_BODY,
}
const FLOWN = { speed: 9, body: STANDARD_BODY, densityKgM3: 1.2041, midX: 0, spinRadps: 0 }
const full = Math.log(referenceSpeed(9))
const base = new Float64Array(SEEN)
{
  const p = Float64Array.of(...numbers, full, REFERENCE_LAUNCH, 0, 0, 0, 0, 0, 0)
  flyPoint(FLOWN, p, base)
}
const thrown = {
  id: 't',
  disc: 'a',
  arm: 'arm',
  power: 1,
  hyzerRad: 0,
  air: STILL_AIR,
  carryM: base[0]!,
  veerM: base[1]!,
  counts: true,
}

/** The throw with its errors at their best for a habit. */
function settled(habit: Float64Array): ThrowTerm {
  const term = makeTerm(thrown, disc, 0, 0, 0, 'key')
  for (let i = 0; i < 60; i++) {
    placeTerm(term, numbers, full, habit, 0)
    eliminate(term, 0.01, 0.01)
    updateLatents(term, new Float64Array(BEARS_ON))
  }
  return term
}

/** −ln of the likelihood, by the approximation the fit climbs: joint misfit and ½·ln|S|. */
function approximate(term: ThrowTerm): { all: number; bend: number } {
  const bend = Math.log(term.factor[0]!) + Math.log(term.factor[3]!)
  return { all: term.distance / 2 + bend + Math.log(2 * Math.PI), bend }
}

describe('the bend of flights in the likelihood', () => {
  const habits = [
    [0, 0, 0, 0],
    [-0.05, 0, 0, 0],
    [0, -0.03, 0, 0],
    [0, 0.03, 0, 0],
    [0, 0, 2 * DEGREE, 0],
    [0, 0, 0, 1.5 * DEGREE],
  ].map((h) => Float64Array.from({ length: OF_HABIT }, (_, k) => h[k] ?? 0))

  it('is what a throw with every error it can have shows, drawn twenty thousand times', () => {
    const normal = randomNormal.source(randomLcg(0.3))()
    const draws = Array.from({ length: 20_000 }, () => THROW_SD.map((sd) => sd * normal()))
    const seen = new Float64Array(SEEN)
    const p = new Float64Array(POINT)
    for (const habit of habits) {
      let sum = 0
      for (const e of draws) {
        p.set(numbers)
        p[AT.lnSpeed] = full
        p[AT.launch] = REFERENCE_LAUNCH
        p[AT.hyzer] = p[AT.nose] = 0
        for (let j = 0; j < e.length; j++)
          p[OF_DISC + j] = (j <= HABIT.nose ? p[OF_DISC + j]! + habit[j]! : 0) + e[j]!
        flyPoint(FLOWN, p, seen)
        sum += Math.exp(-0.5 * ((seen[0]! - thrown.carryM) ** 2 + (seen[1]! - thrown.veerM) ** 2))
      }
      const exact = -Math.log(sum / draws.length / (2 * Math.PI))
      expect(approximate(settled(habit)).all, habit.join()).closeTo(exact, 0.55)
    }
  })

  it('pulls by its own slope, the throw’s errors giving way', () => {
    const h = 0.01
    let [off, size] = [0, 0]
    for (const habit of habits) {
      const pulls = range(8).map((index) => {
        const term = { ...settled(habit), seed: index, many: true }
        pullOf(term)
        return term.pull
      })
      for (let k = 0; k < 4; k++) {
        const bendAt = (by: number) => {
          const moved = habit.slice()
          moved[k]! += by
          return approximate(settled(moved)).bend
        }
        const slope = (bendAt(h) - bendAt(-h)) / (2 * h)
        off += Math.abs(mean(pulls, (p) => p[3 + k]!)! - slope)
        size += Math.abs(slope)
      }
    }
    expect(size).greaterThan(20)
    expect(off).lessThan(0.25 * size)
  })

  it('leans what is seen by what a throw’s errors may still be, as drawn twenty thousand times', () => {
    const normal = randomNormal.source(randomLcg(0.8))()
    let [off, size] = [0, 0]
    for (const habit of habits) {
      const leans = range(64).map((index) => {
        const term = { ...settled(habit), seed: index, many: true }
        pullOf(term)
        return term
      })
      const [term] = leans as [ThrowTerm]
      // what is not known of the errors once the throw is seen: Q − Q·Bᵀ·S⁻¹·B·Q, two rows seen
      const [a, b, c] = [term.factor[0]!, term.factor[2]!, term.factor[3]!]
      const slope = (r: number, j: number) => term.slope[r * POINT + 3 + j]!
      const white = range(7).map((j) => {
        const first = slope(0, j) / a
        return [first, (slope(1, j) - b * first) / c] as const
      })
      const q = THROW_SD.map((sd) => sd * sd)
      const left = Float64Array.from({ length: 49 }, (_, i) => {
        const [j, k] = [Math.floor(i / 7), i % 7]
        const told = white[j]![0] * white[k]![0] + white[j]![1] * white[k]![1]
        return (j === k ? q[j]! * (1 + 1e-9) : 0) - q[j]! * told * q[k]!
      })
      factorise(left, 7)
      const seen = new Float64Array(SEEN)
      const [carry, veer] = [[] as number[], [] as number[]]
      for (let n = 0; n < 20_000; n++) {
        const z = range(7).map(() => normal())
        const p = term.flownAt.slice()
        for (let j = 0; j < 7; j++) for (let k = 0; k <= j; k++) p[3 + j]! += left[j * 7 + k]! * z[k]!
        flyPoint(FLOWN, p, seen)
        carry.push(seen[0]! - term.seen[0]!)
        veer.push(seen[1]! - term.seen[1]!)
      }
      ;[carry, veer].forEach((drawn, r) => {
        off += Math.abs(mean(leans, (t) => t.lean[r]!)! - mean(drawn)!)
        size += Math.abs(mean(drawn)!)
      })
    }
    expect(size).greaterThan(2)
    expect(off).lessThan(0.3 * size)
  })
})
