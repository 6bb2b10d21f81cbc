import { expect } from 'chai'
import fc from 'fast-check'
import { between, numbers } from './anyDisc.ts'
import { airDensity, STILL_AIR } from '../../../core/flight/air.ts'
import type { Air } from '../../../core/flight/air.ts'
import { coefficientsOf, numbersOf, STANDARD_BODY } from '../../../core/flight/disc.ts'
import type { FlightNumbers } from '../../../core/flight/disc.ts'
import { fadeSide, fadeSign, mirrored } from '../../../core/flight/hand.ts'
import { landing } from '../../../core/flight/landing.ts'
import { pathFeatures, pathPoints, tracePath, veerAt } from '../../../core/flight/path.ts'
import { cleanRelease, referenceRelease, referenceSpeed } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import type { Release } from '../../../core/flight/release.ts'

/** A share of full power and an angle somebody might throw it with. */
const throwing = fc.record({
  power: between(0.75, 1.05),
  hyzerDeg: between(-15, 20),
  launchDeg: between(7, 13),
})

const releaseOf = (n: FlightNumbers, t: { power: number; hyzerDeg: number; launchDeg: number }): Release => ({
  ...cleanRelease(referenceSpeed(n.speed) * t.power, t.hyzerDeg * DEGREE),
  launchRad: t.launchDeg * DEGREE,
})
const features = (n: FlightNumbers, r: Release, air: Air = STILL_AIR, body = STANDARD_BODY) =>
  pathFeatures(tracePath(n, body, r, air))
/** Bank half-way in time: less than at release when the disc turns. */
const bankAfter = (
  n: FlightNumbers,
  r: Release,
  seconds: number,
  air: Air = STILL_AIR,
  body = STANDARD_BODY,
) => pathPoints(tracePath(n, body, r, air), 200).find((p) => p.t >= seconds)?.bankRad ?? Number.NaN

const check = <T extends unknown[]>(property: fc.IProperty<T>, numRuns = 150) =>
  fc.assert(property, { seed: 20261, numRuns })

describe('flight of every plausible disc', () => {
  it('maps numbers to coefficients and back', () =>
    check(
      fc.property(numbers, (n) => {
        const back = numbersOf(coefficientsOf(n))
        for (const key of ['speed', 'glide', 'turn', 'fade'] as const) expect(back[key]).closeTo(n[key], 1e-9)
      }),
    ))

  it('flies the same down the fast loop and the recorded path', () =>
    check(
      fc.property(
        numbers,
        throwing,
        between(-5, 5),
        between(-3, 3),
        (n, t, windAlongMps, windTowardFadeMps) => {
          const air = { ...STILL_AIR, windAlongMps, windTowardFadeMps }
          const fast = landing(n, STANDARD_BODY, releaseOf(n, t), air)
          const path = tracePath(n, STANDARD_BODY, releaseOf(n, t), air)
          expect(fast.carryM).closeTo(path.carryM, 0.006)
          expect(fast.veerM).closeTo(path.veerM, 0.006)
          expect(fast.hangS).closeTo(path.hangS, 0.001)
          expect(fast.apexM).closeTo(path.apexM, 0.005)
        },
      ),
    ))

  it('stands an understable disc up from hyzer and lets an overstable one hold it', () =>
    check(
      fc.property(between(7, 12), between(4, 10), (speed, hyzerDeg) => {
        const r = cleanRelease(referenceSpeed(speed), hyzerDeg * DEGREE)
        expect(features({ speed, glide: 5, turn: -3.5, fade: 1 }, r).stoodUp).equal(true)
        const held = features({ speed, glide: 4, turn: 0, fade: 3 }, r)
        expect(held.stoodUp).equal(false)
        expect(held.minBankRad).greaterThan(hyzerDeg * DEGREE - 0.035)
      }),
    ))

  it('lets an overstable disc fight back past flat from anhyzer and turns an understable one over', () =>
    check(
      fc.property(between(7, 12), between(-10, -4), (speed, hyzerDeg) => {
        const r = cleanRelease(referenceSpeed(speed), hyzerDeg * DEGREE)
        expect(features({ speed, glide: 4.5, turn: 0.3, fade: 4 }, r).endBankRad).greaterThan(0)
        const over = features({ speed, glide: 5, turn: -3, fade: 1 }, r)
        expect(over.minBankRad).lessThan((hyzerDeg - 3) * DEGREE)
        expect(over.veerM).lessThan(-5)
      }),
    ))

  it('turns more and climbs higher into the wind, less and lower with it', () =>
    check(
      fc.property(numbers, between(0.85, 1.05), between(1, 4), (n, power, wind) => {
        const r = cleanRelease(referenceSpeed(n.speed) * power)
        const seconds = 1.2
        const [head, still, tail] = [-wind, 0, wind].map((windAlongMps) => {
          const air = { ...STILL_AIR, windAlongMps }
          return { bank: bankAfter(n, r, seconds, air), apex: landing(n, STANDARD_BODY, r, air).apexM }
        }) as [{ bank: number; apex: number }, { bank: number; apex: number }, { bank: number; apex: number }]
        expect(head.apex).greaterThan(still.apex)
        expect(tail.apex).lessThan(still.apex)
        if (n.turn < -0.25) {
          expect(head.bank).lessThan(still.bank)
          expect(tail.bank).greaterThan(still.bank)
        }
      }),
    ))

  it('turns less and fades relatively more when thrown slower', () =>
    check(
      fc.property(
        between(6, 13),
        between(-3, -1.25),
        between(0.5, 2),
        between(0.75, 0.92),
        (speed, turn, fade, power) => {
          const n = { speed, glide: 5, turn, fade }
          const full = features(n, cleanRelease(referenceSpeed(speed)))
          const eased = features(n, cleanRelease(referenceSpeed(speed) * power))
          expect(eased.minBankRad).greaterThan(full.minBankRad)
          const finish = (f: typeof full) => (f.veerM - f.widestTurnM) / f.carryM
          expect(finish(eased)).greaterThan(finish(full))
        },
      ),
    ))

  it('turns more when lighter or in dense cold air, less in thin hot air', () =>
    check(
      fc.property(between(6, 12), between(-3, -0.5), between(0.15, 0.168), (speed, turn, massKg) => {
        const n = { speed, glide: 5, turn, fade: 1.5 }
        const r = referenceRelease(speed)
        const usual = bankAfter(n, r, 1.5)
        expect(bankAfter(n, r, 1.5, STILL_AIR, { ...STANDARD_BODY, massKg })).lessThan(usual)
        expect(bankAfter(n, r, 1.5, { ...STILL_AIR, densityKgM3: airDensity(-10) })).lessThan(usual)
        expect(bankAfter(n, r, 1.5, { ...STILL_AIR, densityKgM3: airDensity(35, 1800) })).greaterThan(usual)
      }),
    ))

  it('goes higher, shorter and fades more with the nose up', () =>
    check(
      fc.property(
        between(6, 12),
        between(-1.5, 0),
        between(1, 4),
        between(2, 4),
        (speed, turn, fade, noseDeg) => {
          const n = { speed, glide: 4.5, turn, fade }
          const r = referenceRelease(speed)
          const level = landing(n, STANDARD_BODY, r, STILL_AIR)
          const up = landing(n, STANDARD_BODY, { ...r, noseRad: noseDeg * DEGREE }, STILL_AIR)
          expect(up.apexM).greaterThan(level.apexM)
          expect(up.carryM).lessThan(level.carryM)
          expect(up.veerM).greaterThan(level.veerM)
        },
      ),
    ))

  it('goes shorter and turns more with wobble', () =>
    check(
      fc.property(numbers, between(0.2, 1), (n, wobble) => {
        const r = referenceRelease(n.speed)
        const clean = landing(n, STANDARD_BODY, r, STILL_AIR)
        const flutter = landing(n, STANDARD_BODY, { ...r, wobble }, STILL_AIR)
        expect(bankAfter(n, { ...r, wobble }, 0.7)).lessThan(bankAfter(n, r, 0.7))
        if (n.turn > -1 && n.fade < 2) expect(flutter.carryM).lessThan(clean.carryM)
      }),
    ))

  it('mirrors the other hand exactly', () =>
    check(
      fc.property(numbers, throwing, between(-4, 4), (n, t, acrossRightMps) => {
        const seenBy = (hand: 'right' | 'left', windRight: number) => {
          const sign = fadeSign(hand, 'backhand')
          const air = { ...STILL_AIR, windTowardFadeMps: mirrored(windRight, sign) }
          const l = landing(n, STANDARD_BODY, releaseOf(n, t), air)
          return { carry: l.carryM, right: mirrored(l.veerM, sign) }
        }
        const right = seenBy('right', acrossRightMps)
        const left = seenBy('left', -acrossRightMps)
        expect(left.carry).equal(right.carry)
        expect(left.right).equal(mirrored(right.right, -1))
      }),
    ))

  it('lands as a smooth function of every input', () =>
    check(
      fc.property(numbers, throwing, between(-4, 4), (n, t, windAlongMps) => {
        const r = releaseOf(n, t)
        const at = (change: Partial<Release>) =>
          landing(n, STANDARD_BODY, { ...r, ...change }, { ...STILL_AIR, windAlongMps })
        for (const [key, h] of [
          ['hyzerRad', 0.002],
          ['launchRad', 0.002],
          ['noseRad', 0.002],
          ['speedMps', 0.05],
        ] as const) {
          const [a, b, c] = [-h, 0, h].map((d) => at({ [key]: r[key] + d }).veerM) as [number, number, number]
          // the second difference of a smooth function is of second order; a jump would not be
          expect(Math.abs(a - 2 * b + c)).lessThan(0.05)
        }
      }),
    ))

  it('names the fade side', () => {
    expect(fadeSide('right', 'backhand')).equal('left')
    expect(fadeSide('left', 'forehand')).equal('left')
    expect(fadeSide('right', 'forehand')).equal('right')
    expect(fadeSide('left', 'backhand')).equal('right')
  })

  it('carries about what the scale says at the reference release', () => {
    const carry = (speed: number, glide: number, turn: number, fade: number) =>
      landing({ speed, glide, turn, fade }, STANDARD_BODY, referenceRelease(speed), STILL_AIR).carryM
    expect(carry(9, 5, -1, 2)).closeTo(103, 1)
    expect(carry(5, 5, -1, 1)).closeTo(72, 1)
    expect(carry(3, 3, 0, 2)).closeTo(53, 1)
    expect(carry(13, 5, -1, 3)).closeTo(134, 1)
  })

  it('reads the side of a path anywhere along it', () => {
    const path = tracePath(
      { speed: 9, glide: 5, turn: -1, fade: 2 },
      STANDARD_BODY,
      referenceRelease(9),
      STILL_AIR,
    )
    expect(veerAt(path, 0)).closeTo(0, 1e-6)
    expect(veerAt(path, path.carryM)).closeTo(path.veerM, 1e-6)
    expect(veerAt(path, 74.773)).closeTo(-1.899, 0.01)
  })

  it('makes cold air denser and high air thinner', () => {
    expect(airDensity(20, 0, 0)).closeTo(1.2041, 2e-4)
    expect(airDensity(-10, 0, 0.5)).closeTo(1.34, 0.01)
    expect(airDensity(20, 1500, 0.5)).lessThan(airDensity(20, 0, 0.5))
    expect(airDensity(30, 0, 1)).lessThan(airDensity(30, 0, 0))
  })

  it('says so when a disc cannot come down', () => {
    const absurd = { ...referenceRelease(9), speedMps: Number.NaN }
    expect(() => landing({ speed: 9, glide: 5, turn: -1, fade: 2 }, STANDARD_BODY, absurd, STILL_AIR)).throw(
      RangeError,
    )
  })
})
