import { expect } from 'chai'
import fc from 'fast-check'
import { readPathCsv } from '../../../core/formats/pathCsv.ts'

const problems = (csv: string) => {
  const read = readPathCsv(csv)
  return read.ok ? [] : read.problems.map((p) => p.message)
}

describe('a recorded path as CSV', () => {
  it('is read with times and heights, in any order of columns', () => {
    const read = readPathCsv('up_m,t_s,frame,down_m,right_m\r\n1.2,0,1,0,0\r\n4,0.5,2,12.5,-0.4\r\n')
    expect(read).deep.equal({
      ok: true,
      path: { downM: [0, 12.5], veerM: [0, -0.4], upM: [1.2, 4], timeS: [0, 0.5] },
    })
  })

  it('does without times and heights', () => {
    const read = readPathCsv('down_m,right_m\n1,0\n2,−1\n')
    expect(read.ok && read.path).deep.equal({ downM: [1, 2], veerM: [0, -1] })
  })

  it('reports every bad cell by row and column, all at once', () => {
    const read = readPathCsv('down_m,right_m,up_m\n1,x,2\n,3,900\n5,1,1\n')
    expect(read.ok).equal(false)
    expect(!read.ok && read.problems.map((p) => [p.row, p.column])).deep.equal([
      [3, 'down_m'],
      [2, 'right_m'],
      [3, 'up_m'],
    ])
  })

  it('says what is missing', () => {
    expect(problems('')).deep.equal([
      'Column down_m is missing; a path needs down_m and right_m.',
      'Column right_m is missing; a path needs down_m and right_m.',
      'A path needs at least two points.',
    ])
    expect(problems('down_m,right_m\n1,2\n')).deep.equal(['A path needs at least two points.'])
    expect(problems(`down_m,right_m\n${'1,2\n'.repeat(10_001)}`)[0]).contain('at most 10000')
  })

  it('never throws, whatever it is given', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (s) => {
        expect(readPathCsv(s)).property('ok')
        expect(readPathCsv(`down_m,right_m\n${s}`)).property('ok')
      }),
    )
  })
})
