import { expect } from 'chai'
import fc from 'fast-check'
import { CLOCK_OFF_MS, offWords, clockPutRight } from '../../../core/throw/clock.ts'

const YEAR = 365 * 86_400_000
const TRUE = Date.parse('2026-05-09T17:24:00Z')

describe('a clock that is off', () => {
  it('has the times and the day of what it made put right, and nothing else', () => {
    const at = TRUE + YEAR
    const row = {
      ...{
        id: 'x',
        day: '2027-05-09',
        timeZone: 'Europe/Berlin',
        startedAt: new Date(at - 60_000).toISOString(),
      },
      ...{ thrownAt: new Date(at).toISOString(), note: '2027-05-09', takenBackAt: null, carryM: 81 },
    }
    expect(clockPutRight(row, at, -YEAR, true, 'UTC')).to.deep.equal({
      ...row,
      day: '2026-05-09',
      thrownAt: '2026-05-09T17:24:00.000Z',
      startedAt: '2026-05-09T17:23:00.000Z',
    })
  })
  it('has the day be that of the place, around midnight too', () => {
    const night = Date.parse('2026-05-09T23:30:00Z')
    const row = { day: '2027-05-10', timeZone: 'Europe/Berlin' }
    expect(clockPutRight(row, night + YEAR, -YEAR, true, 'UTC').day).to.equal('2026-05-10')
  })
  it('leaves what somebody typed, and what another clock gave', () => {
    const at = TRUE + YEAR
    const row = { day: '2026-05-01', thrownAt: '2026-05-01T10:00:00Z', timeZone: null }
    expect(clockPutRight(row, at, -YEAR, true, 'UTC')).to.equal(row)
  })
  it('of a row that was changed, says right when that was, and leaves when it was thrown', () => {
    const at = TRUE + 300_000
    const row = { thrownAt: new Date(TRUE).toISOString(), takenBackAt: new Date(at).toISOString() }
    expect(clockPutRight(row, at, -300_000, false, 'UTC')).to.deep.equal({
      ...row,
      takenBackAt: new Date(TRUE).toISOString(),
    })
  })
  it('puts right whatever it is off by, and what is right stays as it is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -3 * YEAR, max: 3 * YEAR }),
        fc.date({ min: new Date('2020-01-01'), max: new Date('2029-01-01'), noInvalidDate: true }),
        (off, date) => {
          const row = { thrownAt: new Date(date.getTime() - off).toISOString() }
          const came = clockPutRight(row, date.getTime() - off, off, true, 'UTC')
          if (Math.abs(off) < CLOCK_OFF_MS) expect(came).to.equal(row)
          else expect(Date.parse(came.thrownAt)).to.equal(date.getTime())
        },
      ),
    )
  })
  it('is said in words', () => {
    expect([-YEAR, 3_600_000, -120_000, 90_000].map(offWords)).to.deep.equal([
      '365 days ahead',
      '1 hour behind',
      '2 minutes ahead',
      '2 minutes behind',
    ])
  })
})
