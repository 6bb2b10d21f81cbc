import { expect } from 'chai'
import { Doing } from '../../../core/rotation/doing.ts'
import { flownBy, flownSlopes, FLOWN } from '../../../core/rotation/job.ts'
import type { Job } from '../../../core/rotation/job.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { tracePath, veerAt } from '../../../core/flight/path.ts'
import { cleanRelease } from '../../../core/flight/release.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { fullSpeedWith } from '../../../core/flight/arm.ts'
import { carried, does, lives } from '../../simulate/lives.ts'

const throwing = { armMps: 26, hyzerDeg: 0, power: 1, windAlongMps: 0 }
const numbers = { speed: 9, glide: 5, turn: -1, fade: 1.6 }
const job: Job = {
  throwing,
  wanted: flownBy(numbers, throwing)!,
  within: { at60M: 3, finishM: 6, carryM: Infinity },
}

describe('a job', () => {
  it('flies a disc as the recorded path does, by any arm, angle and wind', () => {
    for (const [hyzerDeg, windAlongMps, power] of [
      [0, 0, 1],
      [12, -5, 0.8],
      [-9, 3, 1],
    ] as const) {
      const flown = flownBy(numbers, { armMps: 24, hyzerDeg, power, windAlongMps })!
      const path = tracePath(
        numbers,
        STANDARD_BODY,
        cleanRelease(fullSpeedWith(24, 9) * power, hyzerDeg * DEGREE),
        { ...STILL_AIR, windAlongMps },
      )
      expect(flown.carryM).closeTo(path.carryM, 0.03)
      expect(flown.finishM).closeTo(path.veerM, 0.03)
      expect(flown.at60M).closeTo(veerAt(path, 0.6 * path.carryM), 0.05)
    }
  })

  it('knows how a flight follows each number', () => {
    const { flown, by } = flownSlopes(numbers, throwing)!
    const moved = flownBy({ ...numbers, turn: numbers.turn + 0.05 }, throwing)!
    for (const [i, part] of FLOWN.entries()) expect(flown[part] + 0.05 * by[i]![1]).closeTo(moved[part], 0.05)
    expect(by[1]![2]).greaterThan(0)
  })

  it('is done by a disc that flies it, less surely the less is known, and not by one that flies elsewhere', () => {
    const surely = { id: 'a', published: numbers, kind: 'premium' as const, use: { throws: 0, hardHits: 0 } }
    const of = (sd: number, off = 0) =>
      new Doing(
        {
          ...surely,
          numbers,
          covariance: Array.from({ length: 9 }, (_, i) => (i % 4 === 0 ? (sd / 2) ** 2 : 0)),
          ways: [{ pace: 1, hitThrows: 12, share: 1, start: { value: 0.6 + off, sd } }],
        },
        job,
      ).after(0)
    expect(of(0.05)).greaterThan(0.98)
    expect(of(0.5)).within(0.6, 0.97)
    expect(of(1)).lessThan(of(0.5))
    expect(of(0.05, 2)).lessThan(0.01)
    expect(of(0.05, -2)).lessThan(0.01)
  })

  it('has an end even where a disc does it the better the further it wears than anybody looks', () => {
    const range = new Doing(
      {
        id: 'a',
        published: numbers,
        numbers,
        covariance: Array.from({ length: 9 }, (_, i) => (i % 4 === 0 ? 0.04 : 0)),
        kind: 'premium',
        use: { throws: 300, hardHits: 0 },
        ways: [{ pace: 1, hitThrows: 12, share: 1, start: { value: 0.6, sd: 0.1 } }],
      },
      {
        throwing,
        wanted: flownBy({ ...numbers, turn: -4, fade: -0.4 }, throwing)!,
        within: { at60M: 3, finishM: 6, carryM: Infinity },
      },
    ).range()!
    expect(range.low).within(0.6 - 14 * 0.25 - 0.25, 0.6)
    expect(range.high).greaterThan(range.low)
  })

  it('is entered as a disc wears into it, done best, and left; a surer rate of wear tells when more closely', () => {
    const worn = (spread: number) => {
      const ways = [1 / spread, 1, spread].map((pace) => ({
        pace,
        hitThrows: 20,
        share: 1 / 3,
        start: { value: 1.9, sd: 0.05 },
      }))
      return new Doing(
        {
          id: 'a',
          published: numbers,
          numbers: { ...numbers, turn: -0.2, fade: 2.1 },
          covariance: [0.01, 0, 0, 0, 0.002, 0, 0, 0, 0.002],
          kind: 'base',
          use: { throws: 0, hardHits: 0 },
          ways,
        },
        job,
      ).prospect()
    }
    const [close, wide] = [worn(1.1), worn(2)]
    expect(close.now).lessThan(0.3)
    expect(close.enters).greaterThan(0)
    expect(close.best.throws).greaterThan(close.enters! - 1)
    expect(close.best.probability).greaterThan(0.9)
    const { earliest, likely, latest } = close.leaves
    expect(earliest).greaterThan(close.best.throws / 2)
    expect(likely).within(earliest!, latest!)
    expect(wide.leaves.latest! - wide.leaves.earliest!).greaterThan(2 * (latest! - earliest!))
  })

  it('is said to be done, and left, as often as it is, over 320 lives and plastics that wear twice as fast', () => {
    for (const faster of [1, 2]) {
      const said = Array.from({ length: 5 }, () => ({ count: 0, sum: 0, really: 0 }))
      let [count, within80, early] = [0, 0, 0]
      for (let seed = 1; seed <= 10; seed++) {
        const all = lives(seed / 100, 8, 4, () => faster)
        const discs = carried(all)
        for (const [i, life] of all.entries()) {
          const p = new Doing(discs[i]!, job).prospect()
          const bin = said[Math.min(4, Math.floor(5 * p.now))]!
          bin.count++
          bin.sum += p.now
          bin.really += Number(does(life, life.use, job))
          // one that never does it leaves it never
          if (p.best.probability < 0.3) continue
          const hits = life.use.hardHits / life.use.throws
          let left = 0
          for (let k = 0; k <= 3000; k += 25)
            if (does(life, { throws: life.use.throws + k, hardHits: life.use.hardHits + hits * k }, job))
              left = k + 25
          if (left > 3000) left = Infinity
          const [from, to] = [p.leaves.earliest ?? Infinity, p.leaves.latest ?? Infinity]
          count++
          if (left < from) early++
          if (left >= from && left <= to + 25) within80++
        }
      }
      expect(count).greaterThan(250)
      for (const { count: n, sum, really } of said)
        if (n >= 20) expect(really / n, `${n} said ${sum / n}`).closeTo(sum / n, 0.16)
      // ten of a hundred leave before the earliest; where everything wears twice as fast as believed, some more
      expect(early / count).within(0.03, faster === 1 ? 0.16 : 0.25)
      expect(within80 / count).within(faster === 1 ? 0.72 : 0.68, 0.92)
    }
  })
})
