import { expect } from 'chai'
import { demoDiscs } from '../../demo/shed.ts'
import { dashesOf, hueOf, lookOf, looksById, looksOf, patternOf } from '../../web/strip/hues.ts'

describe('how discs are drawn', () => {
  it('gives a disc one hue wherever and beside whatever it is shown', () => {
    const codes = demoDiscs.map((d) => d.code)
    for (const code of codes)
      for (const beside of codes)
        expect(hueOf(looksOf([beside, code])(code)), `${code} beside ${beside}`).to.equal(hueOf(lookOf(code)))
  })
  it('tells discs of one hue by their pattern, in the order of their codes whichever was first', () => {
    const looks = looksOf(['T-16', 'T-9', 'T-3'])
    expect(hueOf(looks('T-9'))).to.equal(hueOf(looks('T-16')))
    expect([patternOf(looks('T-16')), patternOf(looks('T-9')), patternOf(looks('T-3'))]).to.deep.equal([
      0, 1, 0,
    ])
    expect(looksOf(['T-9', 'T-3', 'T-16'])('T-9')).to.equal(looks('T-9'))
    expect(dashesOf(looks('T-16'))).to.equal(undefined)
    expect(dashesOf(looks('T-9'))).to.be.a('string')
  })
  it('gives eight codes in a row from a multiple of eight eight hues', () => {
    for (const from of [0, 8, 16, 72, 800])
      expect(new Set(Array.from({ length: 8 }, (_, i) => lookOf(`HS-${from + i}`)))).to.have.property(
        'size',
        8,
      )
  })
  it('draws codes without a number, and what is not known, by their letters', () => {
    expect(lookOf('loaner')).to.equal(lookOf('loaner'))
    expect(lookOf('')).to.be.within(0, 7)
    expect(looksById([{ disc: { id: 'a', code: 'T-3' } }])('a')).to.equal(lookOf('T-3'))
    expect(looksById([])('gone')).to.equal(lookOf(''))
  })
})
