import { expect } from 'chai'
import { line as sheetLine } from '../core/throw/line.ts'
import { Heard, numberOf, Told } from '../../web/workers/lines.ts'

const line = (id: string, carryM = 90) => sheetLine({ throw: id, carryM })

describe('lines of the sheet on their way to a worker', () => {
  it('have the same number where they say the same, and another where anything differs', () => {
    expect(numberOf(line('a'))).equal(numberOf(line('a')))
    expect(numberOf(line('a'))).not.equal(numberOf(line('a', 91)))
    expect(numberOf(line('a'))).not.equal(numberOf(line('b')))
  })

  it('travel once, and arrive whole and in their order', () => {
    const [told, heard] = [new Told(), new Heard()]
    const sheet = [line('1'), line('2'), line('3')]
    const first = told.lines(sheet)
    expect(first.fresh).length(3)
    expect(heard.sheet(structuredClone(first))).deep.equal(sheet)
    // one more throw, one changed, one gone
    const next = [line('4'), line('1', 80), line('2')]
    const second = told.lines(next)
    expect(second.fresh.map(([, l]) => l.throw)).deep.equal(['4', '1'])
    expect(heard.sheet(structuredClone(second))).deep.equal(next)
    expect(told.lines(next).fresh).deep.equal([])
  })

  it('are told anew to another worker; one that was never told says so', () => {
    const sheet = [line('1')]
    new Told().lines(sheet)
    const again = new Told().lines(sheet)
    expect(again.fresh).length(1)
    expect(() => new Heard().sheet({ ...again, fresh: [] })).throw(RangeError, /never told/)
  })
})
