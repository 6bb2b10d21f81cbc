import { expect } from 'chai'
import fc from 'fast-check'
import { BadJson, boundedJson, JSON_LIMIT, unstorableAt } from '../../../core/formats/boundedJson.ts'
import { plainXml } from '../../../core/formats/plainXml.ts'

describe('JSON that is bounded', () => {
  it('is read as JSON is, whatever stands in it', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 20 }), fc.constantFrom(0, 2), (value, space) => {
        const text = JSON.stringify(value, null, space)
        expect(boundedJson(text)).to.deep.equal(JSON.parse(text))
      }),
    )
  })
  it('is refused where JSON is, with a sentence', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), (text) => {
        let valid = true
        try {
          JSON.parse(text)
        } catch {
          valid = false
        }
        if (valid) boundedJson(text)
        else expect(() => boundedJson(text)).to.throw(BadJson)
      }),
    )
  })
  it('is refused one level and one value too many, and not before', () => {
    const deep = (n: number) => '['.repeat(n) + ']'.repeat(n)
    boundedJson(deep(JSON_LIMIT.depth))
    expect(() => boundedJson(deep(JSON_LIMIT.depth + 1))).to.throw(BadJson, 'more than 128 deep')
    const limits = { depth: 64, values: 10 }
    boundedJson('[1,2,3,4,5,6,7,8,9]', limits)
    expect(() => boundedJson('[1,2,3,4,5,6,7,8,9,10]', limits)).to.throw(BadJson, 'more than 10 values')
    // what stands in a text is counted as a text
    expect(boundedJson(JSON.stringify(['[{,'.repeat(500), '\\"[[']), limits)).to.have.length(2)
  })
  it('finds a text that no database holds, however deep', () => {
    let value: unknown = 'low\0cloud'
    for (let i = 0; i < 100_000; i++) value = [value]
    expect(unstorableAt(value)).to.have.length(100_000)
    expect(unstorableAt({ a: [{ b: 'x\ud800' }] })).to.deep.equal(['a', '0', 'b'])
    expect(unstorableAt({ a: 'fine', b: [1, null] })).to.equal(undefined)
  })
})

describe('a text in XML', () => {
  it('holds nothing that no XML holds, and everything else', () => {
    expect(plainXml('a\u0000b\u0008c\tline\nend\u001f\ufffe\ud800 🥏 <é>')).to.equal('abc\tline\nend 🥏 <é>')
  })
})
