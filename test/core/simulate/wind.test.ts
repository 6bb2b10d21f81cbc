import { expect } from 'chai'
import { deviation, mean, range } from 'd3'
import { windyDay } from '../../../core/simulate/wind.ts'

describe('a made-up day of wind', () => {
  const day = windyDay(0.61)
  it('is the same day for the same seed, and another for another', () => {
    const at = range(0, 86_400, 997)
    expect(at.map(windyDay(0.61))).deep.equal(at.map(day))
    expect(at.map(windyDay(0.62))).not.deep.equal(at.map(day))
  })
  it('is wind: never negative, from somewhere, gusty about its mean, stronger in the afternoon than at night', () => {
    const speeds = (from: number, to: number) => range(from, to).map((s) => day(s).speedMps)
    for (const s of range(0, 86_400, 61)) {
      expect(day(s).speedMps).least(0)
      expect(day(s).fromDeg).within(0, 360)
    }
    const noon = speeds(12 * 3600, 13 * 3600)
    expect(mean(noon)!).greaterThan(mean(speeds(2 * 3600, 3 * 3600))!)
    expect(deviation(noon)! / mean(noon)!).within(0.1, 0.6)
  })
  it('changes little from one second to the next, and more over a minute', () => {
    const step = (by: number) =>
      mean(range(0, 3600), (s) => Math.abs(day(36_000 + s + by).speedMps - day(36_000 + s).speedMps))!
    expect(step(1)).lessThan(step(10))
    expect(step(10)).lessThan(2 * step(60))
    expect(step(1)).lessThan(0.6)
  })
})
