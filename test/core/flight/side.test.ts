import { expect } from 'chai'
import fc from 'fast-check'
import {
  labelScale,
  PER_M,
  sideOf,
  sideSlopesOf,
  sideTraced,
  stabilityAt,
  stabilityBy,
} from '../../../core/flight/side.ts'
import { numbers } from './anyDisc.ts'

/** Discs that float as those of their class do: one that hardly floats at a driver's speed hardly turns either. */
const usual = numbers.map((n) => ({ ...n, glide: Math.max(n.glide, 2.5 + n.speed / 8) }))
const check = <T extends unknown[]>(property: fc.IProperty<T>) =>
  fc.assert(property, { seed: 20261126, numRuns: 120 })

describe('where a disc flies', () => {
  it('is the mean of the recorded paths over hyzer, flat and anhyzer, and where they land', () =>
    check(
      fc.property(numbers, (n) => {
        const [fast, traced] = [sideOf(n), sideTraced(n)]
        expect(fast.side).closeTo(traced.side, 0.01)
        expect(fast.finish).closeTo(traced.finish, 0.02)
      }),
    ))

  it('has slopes that foretell a small step of any number', () =>
    check(
      fc.property(numbers, (n) => {
        const slopes = sideSlopesOf(n)
        expect(slopes).deep.include(sideOf(n))
        ;(['glide', 'turn', 'fade'] as const).forEach((key, k) => {
          const [up, down] = [sideOf({ ...n, [key]: n[key] + 0.02 }), sideOf({ ...n, [key]: n[key] - 0.02 })]
          expect(slopes.sideBy[k]).closeTo((up.side - down.side) / 0.04, 0.15)
          expect(slopes.finishBy[k]).closeTo((up.finish - down.finish) / 0.04, 0.5)
        })
      }),
    ))

  it('is further to the fade side with more turn number and with more fade, for every disc', () =>
    check(
      fc.property(usual, (n) => {
        const { side } = sideOf(n)
        expect(sideOf({ ...n, turn: n.turn + 0.3 }).side).greaterThan(side)
        expect(sideOf({ ...n, fade: n.fade + 0.3 }).side).greaterThan(side)
      }),
    ))

  it('reads as turn + fade at the label, and moves with it by about one a number', () =>
    check(
      fc.property(usual, (n) => {
        const label = labelScale(n)
        expect(stabilityAt(label, label.side)).closeTo(n.turn + n.fade, 1e-12)
        expect(stabilityBy(n, n)).closeTo(n.turn + n.fade, 1e-9)
        const step = 0.02
        const moved = stabilityBy(n, { ...n, turn: n.turn + step, fade: n.fade + step })
        expect((moved - n.turn - n.fade) / step).closeTo(2, 0.3)
      }),
    ))

  it('hardly minds less glide with less fade, which the sum of two numbers takes for less stable', () => {
    const label = { speed: 9, glide: 5, turn: -1, fade: 2 }
    const floats = { ...label, glide: 5.4, fade: 2.55 }
    expect(floats.turn + floats.fade).greaterThan(label.turn + label.fade + 0.5)
    expect(stabilityBy(label, floats)).closeTo(1, 0.1)
  })

  it('is a number for numbers no disc has', () => {
    for (const n of [
      { speed: 15, glide: 40, turn: -30, fade: -9 },
      { speed: 1, glide: -9, turn: 20, fade: 60 },
    ]) {
      const { side, finish } = sideOf(n)
      expect(Number.isFinite(side) && Number.isFinite(finish)).equal(true)
      expect(labelScale(n).perNumber).greaterThan(0)
      expect(Math.abs(side)).lessThan(10 * PER_M)
    }
  })
})
