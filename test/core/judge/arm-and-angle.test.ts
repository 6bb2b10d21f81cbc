import { expect } from 'chai'
import { randomLcg } from 'd3'
import fc from 'fast-check'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { pathFeatures, tracePath } from '../../../core/flight/path.ts'
import { cleanRelease, referenceSpeed } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { numbersAtSpeed } from '../../../core/judge/atArm.ts'
import { findAngle } from '../../../core/judge/findAngle.ts'
import { likeness, likest, flightSpreadOf } from '../../../core/judge/likeness.ts'
import type { FlownDisc } from '../../../core/judge/likeness.ts'

const plausible = fc.record({
  speed: fc.constantFrom(5, 7, 9, 11),
  glide: fc.double({ min: 3.5, max: 6, noNaN: true }),
  turn: fc.double({ min: -2.5, max: 0, noNaN: true }),
  fade: fc.double({ min: 0.5, max: 3, noNaN: true }),
})
const FAIRWAY = { speed: 9, glide: 5, turn: -1, fade: 2 }

describe('numbers at another arm', () => {
  it('are the disc’s own at its own reference speed', () => {
    fc.assert(
      fc.property(plausible, (numbers) => {
        const seems = numbersAtSpeed(numbers, referenceSpeed(numbers.speed))
        expect(seems.exact).equal(true)
        expect(seems.numbers.turn).closeTo(numbers.turn, 1e-3)
        expect(seems.numbers.fade).closeTo(numbers.fade, 1e-3)
      }),
      { numRuns: 30 },
    )
  })

  it('turn less for a slower arm, step by step', () => {
    fc.assert(
      fc.property(plausible, (any) => {
        const numbers = { ...any, turn: Math.min(-1, any.turn), glide: Math.max(4, any.glide) }
        const own = referenceSpeed(numbers.speed)
        const turns = [1.05, 0.95, 0.85].map((share) => numbersAtSpeed(numbers, share * own).numbers.turn)
        expect(turns[0]).lessThan(turns[1]!)
        expect(turns[1]).lessThan(turns[2]!)
      }),
      { numRuns: 40 },
    )
  })
})

const distanceBetween = (a: FlownDisc, b: FlownDisc, arm: number) => likeness(a, b, arm).distanceM

describe('likeness', () => {
  const disc = (change: Partial<typeof FAIRWAY> = {}) => ({
    numbers: { ...FAIRWAY, ...change },
    body: STANDARD_BODY,
  })

  it('is nothing between a disc and itself, the same both ways, and grows with the difference', () => {
    expect(distanceBetween(disc(), disc(), 26)).equal(0)
    const near = distanceBetween(disc(), disc({ turn: -1.3 }), 26)
    expect(near).closeTo(distanceBetween(disc({ turn: -1.3 }), disc(), 26), 1e-9)
    expect(distanceBetween(disc(), disc({ turn: -2 }), 26)).greaterThan(near)
  })

  it('calls discs closer than the thrower’s own spread overlapping', () => {
    const { spread, others } = likest(
      disc(),
      new Map([
        ['far', disc({ turn: 0.5, fade: 5 })],
        ['twin', disc({ turn: -1.1 })],
      ]),
      26,
    )
    expect(others.map((o) => o.disc)).deep.equal(['twin', 'far'])
    expect(others.map((o) => o.overlaps)).deep.equal([true, false])
    expect(spread.pathM).within(4, 14)
    const twice = flightSpreadOf(disc(), 26, 2)
    for (const key of ['pathM', 'shapeM', 'carryM'] as const)
      expect(twice[key], key).closeTo(2 * spread[key], 0.2 * spread[key])
  })

  it('does not overlap with a disc of another class that bends alike and goes elsewhere', () => {
    const midrange = { numbers: { speed: 5, glide: 5, turn: -1, fade: 1 }, body: STANDARD_BODY }
    const driver = { numbers: { speed: 12, glide: 5, turn: -1, fade: 3 }, body: STANDARD_BODY }
    const beside = likeness(midrange, driver, 24)
    expect(beside.fartherM).greaterThan(15)
    expect(beside.sameDistance).equal(false)
    expect(beside.overlaps).equal(false)
    expect(beside.distanceM).greaterThan(8)
    expect(likeness(driver, midrange, 24).fartherM).closeTo(-beside.fartherM, 1e-9)
    // a shade less glide: it goes shorter and bends the same
    const shorter = likeness(disc(), disc({ glide: 3.6, fade: 1.4 }), 26)
    expect(shorter).include({ sameShape: true, overlaps: shorter.sameDistance })
  })

  it('finds among hundreds of discs the likest and the unlikest that flying all of them finds', () => {
    const uniform = randomLcg(0.37)
    const between = (low: number, high: number) => low + (high - low) * uniform()
    const many = new Map(
      Array.from({ length: 400 }, (_, i) => [
        `d${i}`,
        {
          numbers: {
            speed: [3, 5, 7, 9, 11, 13][i % 6]!,
            glide: between(2, 6),
            turn: between(-4, 1),
            fade: between(0, 4.5),
          },
          body: { ...STANDARD_BODY, massKg: between(0.15, 0.18) },
        },
      ]),
    )
    for (const id of ['d2', 'd3', 'd10', 'd5', 'd0']) {
      const [own, others] = [many.get(id)!, new Map([...many].filter(([other]) => other !== id))]
      const all = likest(own, others, 24).others
      const few = likest(own, others, 24, { most: 4, least: 1 }).others
      expect(few.length).lessThan(120)
      expect(few.slice(0, 4)).deep.equal(all.slice(0, 4))
      expect(few.at(-1)!.distanceM).greaterThan(0.98 * all.at(-1)!.distanceM)
    }
  })
})

describe('the angle that works', () => {
  const release = cleanRelease(referenceSpeed(9))
  const bend = { ...FAIRWAY, turn: -2.5 }

  it('is the most hyzer from which an understable disc comes up just to flat', () => {
    const found = findAngle(bend, STANDARD_BODY, release, STILL_AIR, { kind: 'stand up' })
    if (!found.found) throw new Error(found.why)
    const lowest = (h: number) =>
      pathFeatures(tracePath(bend, STANDARD_BODY, { ...release, hyzerRad: h }, STILL_AIR)).minBankRad
    expect(lowest(found.hyzerRad)).closeTo(0, 1e-3)
    expect(lowest(found.hyzerRad + 3 * DEGREE)).greaterThan(0.005)
  })

  it('is more by about 4° for each turn number', () => {
    const angle = (turn: number) => {
      const found = findAngle({ ...FAIRWAY, turn }, STANDARD_BODY, release, STILL_AIR, { kind: 'stand up' })
      if (!found.found) throw new Error(found.why)
      return found.hyzerRad / DEGREE
    }
    expect(angle(-3) - angle(-2)).within(2.5, 6)
  })

  it('says when an overstable disc stands up from none', () => {
    const found = findAngle({ ...FAIRWAY, turn: 0.5, fade: 4 }, STANDARD_BODY, release, STILL_AIR, {
      kind: 'stand up',
    })
    expect(found).deep.include({ found: false })
  })

  it('finishes on the line, nearest to flat', () => {
    for (const numbers of [FAIRWAY, bend]) {
      const found = findAngle(numbers, STANDARD_BODY, release, STILL_AIR, { kind: 'finish on the line' })
      if (!found.found) throw new Error(found.why)
      expect(Math.abs(found.veerM)).lessThan(0.05)
      expect(Math.abs(found.hyzerRad)).lessThan(25 * DEGREE)
    }
  })

  it('finds the angle a target was thrown with, and says how far the nearest misses one out of reach', () => {
    const there = landing(FAIRWAY, STANDARD_BODY, { ...release, hyzerRad: 13 * DEGREE }, STILL_AIR)
    const found = findAngle(FAIRWAY, STANDARD_BODY, release, STILL_AIR, {
      kind: 'reach',
      ...there,
      withinM: 3,
    })
    if (!found.found) throw new Error(found.why)
    expect(found.hyzerRad / DEGREE).closeTo(13, 0.3)
    const none = findAngle(FAIRWAY, STANDARD_BODY, release, STILL_AIR, {
      kind: 'reach',
      carryM: 200,
      veerM: 0,
      withinM: 3,
    })
    if (none.found) throw new Error('out of reach')
    expect(none.nearest!.missM).greaterThan(60)
    expect(none.why).match(/No angle lands within 3.0 m/)
  })
})
