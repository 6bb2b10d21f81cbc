import { expect } from 'chai'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { armOfCarry, armOfSpeed, fullSpeedWith } from '../../../core/flight/arm.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { landing } from '../../../core/flight/landing.ts'
import { cleanRelease } from '../../../core/flight/release.ts'

type Usual = readonly [speed: number, glide: number, turn: number, fade: number]
const numbersOf = ([speed, glide, turn, fade]: Usual) => ({ speed, glide, turn, fade })
const carry = (usual: Usual, arm: number) =>
  landing(numbersOf(usual), STANDARD_BODY, cleanRelease(fullSpeedWith(arm, usual[0])), STILL_AIR).carryM

/** Carries of the usual shapes at arms of 18, 22, 26 and 30 m/s, to the metre. */
const TABLE: readonly (readonly [usual: Usual, carries: readonly number[]])[] = [
  [
    [1, 1, 0, 2],
    [32, 51, 70, 87],
  ],
  [
    [2, 3, 0, 1],
    [38, 59, 79, 98],
  ],
  [
    [6, 5, 0, 2],
    [48, 71, 93, 112],
  ],
  [
    [7, 5, -1, 2],
    [49, 73, 97, 120],
  ],
  [
    [12, 5, -1, 3],
    [55, 82, 108, 136],
  ],
  [
    [14, 6, -2, 3],
    [56, 86, 120, 147],
  ],
]

describe('one arm with every class of disc', () => {
  it('carries what it should, the farther the faster the disc', () => {
    for (const [usual, carries] of TABLE)
      [18, 22, 26, 30].forEach((arm, i) =>
        expect(carry(usual, arm), usual.join('/')).closeTo(carries[i]!, 0.6),
      )
    for (const arm of [16, 18, 20, 22, 24, 26, 28, 30])
      TABLE.slice(1).forEach(([usual], i) => expect(carry(usual, arm)).greaterThan(carry(TABLE[i]![0], arm)))
  })

  it('leaves the hand a few per cent slower with a slow, deep disc', () => {
    expect(fullSpeedWith(25, 9)).equal(25)
    expect(fullSpeedWith(25, 2) / 25).within(0.92, 0.95)
    expect(armOfSpeed(fullSpeedWith(25, 2), 2)).closeTo(25, 1e-9)
  })

  it('is found from how far a disc goes, and none where no arm throws it so', () => {
    for (const [usual] of TABLE)
      for (const arm of [17, 21, 26])
        expect(armOfCarry(numbersOf(usual), carry(usual, arm))).closeTo(arm, 1e-3)
    expect(armOfCarry(numbersOf([5, 5, -1, 1]), 400)).equal(undefined)
    expect(armOfCarry(numbersOf([5, 5, -1, 1]), 1)).equal(undefined)
    expect(armOfCarry(numbersOf([5, 5, -1, 1]), Number.NaN)).equal(undefined)
  })
})
