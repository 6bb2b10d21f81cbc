import { expect } from 'chai'
import { range, rollup } from 'd3'
import fc from 'fast-check'
import { armLeft, USUAL_LIMITS } from '../../../core/plan/armLoad.ts'
import { deal } from '../../../core/plan/deal.ts'
import { orderThrows, remainingThrows } from '../../../core/plan/order.ts'
import { LEGS } from '../../../core/throw/leg.ts'
import { alongAim, bestWindow } from '../../../core/plan/window.ts'
import type { ForecastHour } from '../../../core/plan/window.ts'

const ordered = (discs: number, angles: readonly number[], throws: number, seed = 3) =>
  orderThrows(
    range(discs).flatMap((d) =>
      angles.flatMap((hyzerDeg) => LEGS.map((leg) => ({ disc: `d${d}`, hyzerDeg, leg, throws }))),
    ),
    { kind: 'shuffled', seed },
  )

describe('dealing a plan', () => {
  it('gives every disc and angle each stroke and power as evenly as its throws allow', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 4 }),
        fc.nat(999),
        (discs, n, seed) => {
          const dealt = deal(ordered(discs, [8, 0], n, seed), {
            strokes: ['backhand', 'forehand'],
            powers: [1, 0.7],
            throwers: [],
          })
          const cells = rollup(
            dealt,
            (list) =>
              rollup(
                list,
                (v) => v.length,
                (t) => `${t.stroke} ${t.power}`,
              ),
            (t) => `${t.disc} ${t.hyzerDeg}`,
          )
          for (const kinds of cells.values()) {
            const counts = ['backhand 1', 'backhand 0.7', 'forehand 1', 'forehand 0.7'].map(
              (k) => kinds.get(k) ?? 0,
            )
            expect(Math.max(...counts) - Math.min(...counts)).lessThan(2)
          }
          expect(dealt.every((t) => t.thrower === null)).equal(true)
        },
      ),
    )
  })

  it('lets throwers walk by turns, whoever went first last in the next turn', () => {
    const dealt = deal(ordered(3, [0], 6), { strokes: ['backhand'], powers: [1], throwers: ['A', 'B'] })
    const byRound = [
      ...rollup(
        dealt,
        (v) => [...new Set(v.map((t) => t.thrower))].join(),
        (t) => t.round,
      ),
    ]
      .sort(([a], [b]) => a - b)
      .map(([, who]) => who)
    expect(byRound).deep.equal(['A', 'A', 'B', 'B', 'B', 'B', 'A', 'A', 'A', 'A', 'B', 'B'])
    const shares = rollup(
      dealt,
      (v) => v.length,
      (t) => `${t.thrower} ${t.leg}`,
    )
    expect(new Set(shares.values()).size).equal(1)
  })

  it('takes off what is thrown by its like only: same stroke, near power', () => {
    const planned = [
      { disc: 'a', hyzerDeg: 0, stroke: 'backhand', power: 1 },
      { disc: 'a', hyzerDeg: 0, stroke: 'forehand', power: 1 },
      { disc: 'a', hyzerDeg: 0, stroke: 'backhand', power: 0.7 },
    ]
    const thrown = { disc: 'a', hyzerDeg: 0, stroke: 'backhand', power: 0.75 }
    expect(remainingThrows(planned, [thrown])).deep.equal(planned.slice(0, 2))
    expect(remainingThrows(planned, [thrown, thrown])).deep.equal(planned.slice(0, 2))
    expect(remainingThrows(planned, [{ disc: 'a', hyzerDeg: 0 }])).deep.equal(planned.slice(1))
  })
})

describe('the load of an arm', () => {
  const day = (d: string, throws: number, fullPower = throws) => ({ day: d, throws, fullPower })
  it('is what is left of the day and of the seven days that end with it', () => {
    const limits = { throwsADay: 100, fullPowerADay: 60, throwsAWeek: 150, fullPowerAWeek: 140 }
    expect(armLeft(limits, [], '2026-11-20')).deep.equal({
      throws: 100,
      throwsBy: 'day',
      fullPower: 60,
      fullPowerBy: 'day',
    })
    const left = armLeft(
      limits,
      [day('2026-11-13', 500), day('2026-11-14', 70, 20), day('2026-11-20', 30, 30), day('2026-11-21', 90)],
      '2026-11-20',
    )
    expect(left).deep.equal({ throws: 50, throwsBy: 'week', fullPower: 30, fullPowerBy: 'day' })
  })
  it('never falls below nothing', () => {
    expect(armLeft(USUAL_LIMITS, [day('2026-11-20', 1000)], '2026-11-20')).include({
      throws: 0,
      fullPower: 0,
    })
  })
})

describe('the wind a question wants', () => {
  const hour = (i: number, windMps: number, gustMps: number, fromDeg: number, rainMm = 0): ForecastHour => ({
    at: `2026-11-26T${String(i).padStart(2, '0')}:00:00`,
    daylight: i >= 8 && i < 17,
    windMps,
    gustMps,
    fromDeg,
    temperatureC: 8,
    rainMm,
  })
  it('is split along and across the aim line', () => {
    // aim to the west: a west wind is in the face, a south wind comes from the left and goes to the right
    expect(alongAim(3, 270, 270).alongMps).closeTo(-3, 1e-9)
    expect(alongAim(3, 90, 270).alongMps).closeTo(3, 1e-9)
    expect(alongAim(3, 180, 270).acrossMps).closeTo(3, 1e-9)
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 20, noNaN: true }),
        fc.integer({ min: 0, max: 359 }),
        fc.integer({ min: 0, max: 359 }),
        (w, from, to) => {
          const { alongMps, acrossMps } = alongAim(w, from, to)
          expect(Math.hypot(alongMps, acrossMps)).closeTo(w, 1e-9)
        },
      ),
    )
  })
  it('is calm for one question and steady along the line for another, dry and by daylight for both', () => {
    const hours = range(6, 20).map((i) =>
      i < 8
        ? hour(i, 0.2, 0.3, 0)
        : i < 11
          ? hour(i, 1, 1.5, 0)
          : i < 14
            ? hour(i, 4, 4.6, 270)
            : hour(i, 4, 9, 200 + 30 * i),
    )
    const calm = bestWindow(hours, 270, 2, 'calmest')!
    expect(hours[calm.from]!.at).match(/T08/)
    const steady = bestWindow(hours, 270, 2, 'steadiest')!
    expect(hours[steady.from]!.at).match(/T1[12]/)
    expect(steady.alongMps).closeTo(-4, 1e-9)
    const wet = hours.map((h) => (h.at.includes('T08') ? { ...h, rainMm: 2 } : h))
    expect(hours[bestWindow(wet, 270, 2, 'calmest')!.from]!.at).match(/T09/)
    expect(bestWindow(hours, 270, 12, 'calmest')).equal(undefined)
  })
})
