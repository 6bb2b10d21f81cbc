import { expect } from 'chai'
import fc from 'fast-check'
import { readDistance, readSide } from '../../web/stations/plan/sheetCells.ts'

describe('a pencilled sheet', () => {
  it('is read as people write distances and sides', () => {
    expect(readDistance(' 81,5 ')).equal(81.5)
    expect(readDistance('81.5 m')).equal(undefined)
    expect(readDistance('0')).equal(undefined)
    for (const left of ['4 L', 'l4', '4l', '-4', '−4', 'L 4.0']) expect(readSide(left), left).equal(-4)
    for (const right of ['2,5 R', 'r2.5', '+2.5']) expect(readSide(right), right).equal(2.5)
    expect(readSide('0')).equal(0)
  })
  it('says nothing where the side is missing or said twice', () => {
    for (const bad of ['4', '', 'l4r', '-4 L', 'left', '4 m']) expect(readSide(bad), bad).equal(undefined)
  })
  it('reads every distance back with its side', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999 }), fc.boolean(), (tenths, left) => {
        const m = tenths / 10
        expect(readSide(`${m} ${left ? 'L' : 'R'}`)).equal(left ? -m : m)
      }),
    )
  })
})
