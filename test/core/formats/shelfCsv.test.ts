import { expect } from 'chai'
import fc from 'fast-check'
import { sessionIcs } from '../../../core/formats/ics.ts'
import { readShelfCsv, writeShelfCsv } from '../../../core/formats/shelfCsv.ts'
import type { ShelfLine } from '../../../core/formats/shelfCsv.ts'

const read = readShelfCsv
const problemsOf = (csv: string) => {
  const r = read(csv)
  if (r.ok) throw new Error('read without a problem')
  return r.problems.map((p) => `${p.row} ${p.column}`)
}
const HEAD = 'code,maker,mold,plastic'

const word = fc
  .string({ minLength: 1, maxLength: 20 })
  .map((s) => s.trim())
  .filter((s) => s !== '')
const numbers = fc.record({
  speed: fc.integer({ min: 1, max: 15 }),
  glide: fc.constantFrom(0, 4.5, 7),
  turn: fc.constantFrom(-3, -0.5, 1),
  fade: fc.constantFrom(0, 2.5, 5),
})
const line: fc.Arbitrary<Omit<ShelfLine, 'row'>> = fc.record(
  {
    code: word,
    maker: word,
    mold: word,
    plastic: word,
    numbers: fc.record({ mold: numbers, plastic: numbers, stamped: numbers }, { requiredKeys: [] }),
    class: fc.constantFrom('putter', 'fairway-driver'),
    run: word,
    markedG: fc.integer({ min: 150, max: 180 }),
    weighedG: fc.constantFrom(171.3, 175),
    wear: fc.constantFrom('new', 'worn'),
    source: fc.constantFrom('bought', 'lent'),
    provenance: word,
    acquiredOn: fc.constantFrom('2026-05-09', '2024-01-31'),
    note: word,
  },
  { requiredKeys: ['code', 'maker', 'mold', 'plastic', 'numbers'] },
)

describe('a file of discs', () => {
  it('comes back as it was written', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(line, { minLength: 1, maxLength: 8, selector: (l) => l.code.toLowerCase() }),
        (lines) => {
          const back = read(writeShelfCsv(lines))
          expect(back.ok && back.lines.map(({ row: _, ...l }) => l)).deep.equal(lines)
        },
      ),
    )
  })

  it('is refused cell by cell, everything at once', () => {
    expect(problemsOf('code,maker,mold\nA,B,C')).deep.equal(['1 plastic'])
    expect(
      problemsOf(
        `${HEAD},speed,glide,turn,fade,wear,marked_g,acquired_on\n` +
          'A,B,C,D,9,5,,2,new,175,\n' +
          'A,B,,D,9,5,-9,2,shiny,heavy,soon\n',
      ),
    ).members(['2 turn', '3 mold', '3 turn', '3 wear', '3 marked_g', '3 acquired_on', '3 code'])
    expect(problemsOf(`${HEAD}\n`)).deep.equal(['null null'])
    expect(problemsOf(`${HEAD},code\nA,B,C,D,E`)).deep.equal(['1 code'])
  })

  it('takes columns in any order, passes over others, and reads words in any case', () => {
    const r = read('plastic,colour,code,wear,maker,mold\nLoam,red,HS-1,NEW,Eskwright,Tarnwick\n')
    expect(r.ok && r.lines).deep.equal([
      {
        row: 2,
        numbers: {},
        code: 'HS-1',
        maker: 'Eskwright',
        mold: 'Tarnwick',
        plastic: 'Loam',
        wear: 'new',
      },
    ])
  })
})

describe('a session for the calendar', () => {
  const session = {
    id: '0197c2d4-7e5a-7c31-9a3f-2b6f6f6f0001',
    title: 'Tarnwick; in four, plastics',
    startsAt: '2026-11-26T09:40:00.000Z',
    minutes: 58.4,
    place: 'Millpond meadow',
  }
  it('says when, how long and where, and keeps its id', () => {
    const ics = sessionIcs(session).replace(/\r\n /g, '')
    expect(ics).match(/^BEGIN:VCALENDAR\r\n/)
    expect(ics).include('DTSTART:20261126T094000Z').include('DURATION:PT58M')
    expect(ics).include(`UID:${session.id}@veer-line`)
    expect(ics).include('LOCATION:Millpond meadow').include('SUMMARY:Tarnwick\\; in four\\, plastics')
  })
  it('is refused without a point in time', () => {
    expect(() => sessionIcs({ ...session, startsAt: 'tomorrow' })).throw(RangeError, /ISO 8601/)
  })
})
