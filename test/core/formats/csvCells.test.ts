import { expect } from 'chai'
import fc from 'fast-check'
import {
  parseCsv,
  plainFigure,
  Problems,
  short,
  writeCsv,
  writtenNumber,
} from '../../../core/formats/csvCells.ts'

describe('cells of a file', () => {
  it('are read whole, with quotes, commas, line ends of any kind and a mark at the start', () => {
    const { header, rows, errors } = parseCsv(
      '\uFEFF code , note \r\nA,"one, two"\r\n\r\nB,"said ""so"""\r\n',
    )
    expect(header).deep.equal(['code', 'note'])
    expect(rows).deep.equal([
      ['A', 'one, two'],
      ['B', 'said "so"'],
    ])
    expect(errors).deep.equal([])
  })
  it('that a spreadsheet would run are guarded where they are written, and come back as they were', () => {
    const written = writeCsv(
      ['note', '=A1'],
      [
        ['=1+1', '@SUM(A1)'],
        ['+cmd|x', '-2+3'],
        ["'=1", '-6.5'],
      ],
    )
    expect(written).equal("note,'=A1\r\n'=1+1,'@SUM(A1)\r\n'+cmd|x,'-2+3\r\n''=1,-6.5\r\n")
    const start = fc.constantFrom('=', '+', '-', '@', "'", "'=", 'x', '')
    const cell = fc.tuple(start, fc.string({ maxLength: 8 })).map(([a, b]) => (a + b).trim())
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { maxLength: 5 }), (rows) => {
        const whole = rows.filter((r) => r.join('') !== '')
        const { rows: again } = parseCsv(writeCsv(['a', 'b'], whole))
        expect(again).deep.equal(whole)
        for (const text of again.length > 0 ? writeCsv(['a', 'b'], whole).split('\r\n') : [])
          expect(text).not.match(/^[=@]/)
      }),
    )
  })
  it('are none where there is nothing', () => {
    expect(parseCsv('').header).deep.equal([])
    expect(parseCsv('a,b\n').rows).deep.equal([])
  })
  it('are numbers as people write them, and nothing else', () => {
    for (const [text, value] of [
      ['12.5', 12.5],
      ['−3', -3],
      ['-3', -3],
      ['+.5', 0.5],
      ['1e2', 100],
    ] as const)
      expect(writtenNumber(text), text).equal(value)
    for (const text of ['', ' ', 'abc', '1,5', '1.2.3', '0x10', 'NaN', 'Infinity', '--1', '5 m'])
      expect(writtenNumber(text), text).equal(undefined)
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (v) => {
        expect(writtenNumber(String(v))).equal(v)
      }),
    )
  })
  it('have problems that are listed up to a bound and counted beyond', () => {
    fc.assert(
      fc.property(fc.nat(20), fc.integer({ min: 1, max: 10 }), (count, most) => {
        const problems = new Problems(most)
        for (let i = 0; i < count; i++) problems.report(i, 'x', `wrong ${i}`)
        const told = problems.told()
        expect(told.length).equal(count > most ? most + 1 : count)
        if (count > most) expect(told.at(-1)!.message).match(new RegExp(`and ${count - most} more`))
      }),
    )
  })
  it('are quoted short and figures plainly', () => {
    expect(short('x'.repeat(60))).length(41)
    expect(short('as it is')).equal('as it is')
    expect(plainFigure(-2.345)).equal('−2.35')
    expect(plainFigure(3)).equal('3')
  })
})
