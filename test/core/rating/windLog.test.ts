import { expect } from 'chai'
import { randomLcg, randomNormal, range } from 'd3'
import { LOGGED_WIND_SD } from '../../../core/rating/evidence.ts'
import { windOf } from '../../../core/rating/windLog.ts'

/** Two minutes of readings once a second. */
function log(gust: number) {
  const normal = randomNormal.source(randomLcg(0.4))()
  return range(-60, 60).map((atS) => ({
    atS,
    alongMps: -3 + gust * normal(),
    acrossMps: 1 + gust * normal(),
  }))
}

describe('the wind of a throw', () => {
  it('is what was read while it flew', () => {
    const readings = log(0).map((r) => (r.atS >= -2 && r.atS <= 4 ? { ...r, alongMps: -5 } : r))
    const wind = windOf(readings, 0, 4)!
    expect(wind.alongMps).equal(-5)
    expect(wind.acrossMps).equal(1)
  })

  it('is the less sure the gustier it was', () => {
    const sds = [0, 0.5, 1, 2].map((gust) => windOf(log(gust), 0)!.sdMps)
    for (let i = 1; i < sds.length; i++) expect(sds[i]!).greaterThan(sds[i - 1]!)
    expect(sds[0]!).within(0.1, LOGGED_WIND_SD)
    expect(sds[3]!).within(1, 2)
  })

  it('is as unsure as any wind that was noted where the log is too thin to tell', () => {
    expect(
      windOf(
        log(2).filter((r) => r.atS === 0),
        0,
      )!.sdMps,
    ).equal(LOGGED_WIND_SD)
  })

  it('is unknown where nothing was read', () => {
    expect(windOf(log(1), 300)).equal(undefined)
    expect(windOf([], 0)).equal(undefined)
  })
})
