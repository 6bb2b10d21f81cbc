import { expect } from 'chai'
import fc from 'fast-check'
import { ratedFromShelf, sheetOf, shelvedDiscs } from '../../../contract/sheet.ts'
import { harrowmere } from '../../../demo/harrowmere.ts'
import { CSV_LIMIT, plainThrows, readThrowsCsv, writeThrowsCsv } from '../../../core/formats/throwsCsv.ts'
import type { CsvProblem } from '../../../core/formats/csvCells.ts'
import type { SheetThrow } from '../../../core/throw/sheetThrow.ts'
import { rateReport, rateTable } from '../../../core/formats/rateReport.ts'
import { fit } from '../../../core/rating/fit.ts'
import { evidenceOf } from '../../../core/rating/fromSheet.ts'
import { outcomeOf } from '../../../core/rating/outcome.ts'

const HEADER = 'throw,thrower,hand,stroke,disc,speed,glide,turn,fade,hyzer_deg,carry_m,right_m'
const ROW = 't1,Odile Fenn,right,backhand,HS-017,9,5,-1,2,0,98.5,-6'
const csv = (...rows: string[]) => [HEADER, ...rows].join('\n')

const demo = harrowmere()

function throwsOf(file: string): readonly SheetThrow[] {
  const read = readThrowsCsv(file)
  if (!read.ok) throw new Error(JSON.stringify(read.problems))
  return read.throws
}
function problemsOf(file: string): readonly CsvProblem[] {
  const read = readThrowsCsv(file)
  expect(read.ok, 'read without a problem').equal(false)
  return read.ok ? [] : read.problems
}

describe('throws as CSV', () => {
  it('reads the least a file can hold', () => {
    expect(throwsOf(csv(ROW))).deep.equal([
      {
        throw: 't1', thrower: 'Odile Fenn', hand: 'right', stroke: 'backhand', disc: 'HS-017',
        speed: 9, glide: 5, turn: -1, fade: 2, hyzerDeg: 0, carryM: 98.5, rightM: -6, power: 1, counts: true,
      },
    ]) // prettier-ignore
  })

  it('carries what a rating asks for besides, so that the file comes to the numbers of the app, and leaves it away on a plain sheet', () => {
    const trial = demo.trials.find(
      (t) => t.controlDiscId !== null && demo.throws.some((x) => x.trialId === t.id),
    )!
    const shelf = shelvedDiscs(demo)
    const file = { trial, sessions: demo.sessions, throws: demo.throws.filter((t) => t.trialId === trial.id) }
    const sheet = sheetOf(file, shelf, demo.throwers)
    const own = evidenceOf(
      sheet,
      trial.discIds.map((id) =>
        ratedFromShelf(
          shelf.find((d) => d.disc.id === id)!,
          trial.controlDiscId,
        ),
      ),
    )
    const read = evidenceOf(throwsOf(writeThrowsCsv(sheet)))
    const byId = <T extends { id: string }>(list: readonly T[]) =>
      [...list].sort((a, b) => (a.id < b.id ? -1 : 1))
    expect(byId(read.discs)).deep.equal(byId(own.discs))
    expect(read.throws).deep.equal(own.throws)
    const plain = writeThrowsCsv(plainThrows(sheet)).split('\r\n')[0]!
    for (const name of ['wear_state', 'control_disc', 'outing_id', 'measured_by'])
      expect(plain.split(',')).not.include(name)
    expect(
      problemsOf(csv(ROW).replace('right_m', 'right_m,wear_state').replace('-6', '-6,chewed'))[0]!.message,
    ).equal('wear_state is “chewed”; write new or seasoned or worn or beaten.')
  })

  it('takes columns in any order, keeps unknown ones as notes, gives ids where there are none', () => {
    const [t] = throwsOf(
      'right_m,carry_m,sky,hyzer_deg,fade,turn,glide,speed,disc,stroke,hand,thrower\n3,80,overcast,10,2,-1,5,9,HS-1,forehand,left,Tobit',
    )
    expect(t).include({ throw: 'row-2', rightM: 3, carryM: 80, hand: 'left', stroke: 'forehand' })
    expect(t!.notes).deep.equal({ sky: 'overcast' })
  })

  it('reads feet and miles an hour', () => {
    const [t] = throwsOf(
      'thrower,hand,stroke,disc,speed,glide,turn,fade,hyzer_deg,carry_ft,right_ft,wind_along_mph\nO,right,backhand,D,9,5,-1,2,0,300,-20,-10',
    )
    expect(t!.carryM).closeTo(91.44, 1e-9)
    expect(t!.rightM).closeTo(-6.096, 1e-9)
    expect(t!.windAlongMps).closeTo(-4.4704, 1e-9)
  })

  it('reports every bad cell at once, by row, column and reason', () => {
    const problems = problemsOf(
      csv(
        't1,Odile,right,backhand,HS-017,9,5,-1,2,200,98.5,-6',
        't1,Odile,rihgt,backhand,HS-017,9,5,-1,2,0,-4,-6',
        't3,Odile,right,backhand,,9,5,-1,two,0,"98,5",-6',
      ),
    )
    const at = (row: number, column: string) =>
      problems.find((p) => p.row === row && p.column === column)?.message
    expect(at(2, 'hyzer_deg')).equal('hyzer_deg is 200; it must lie between −80 and 80 °.')
    expect(at(3, 'throw')).match(/row 2 already/)
    expect(at(3, 'hand')).equal('hand is “rihgt”; write right or left.')
    expect(at(3, 'carry_m')).match(/in front of the thrower/)
    expect(at(4, 'disc')).match(/empty/)
    expect(at(4, 'fade')).match(/“two”; write a number/)
    expect(at(4, 'carry_m')).match(/“98,5”; write a number, with a point/)
    expect(problems).length(7)
  })

  it('names every missing column, and columns that say the same', () => {
    const missing = problemsOf(
      'thrower,hand,stroke,disc,speed,glide,turn,fade,carry_m\nO,right,backhand,D,9,5,-1,2,90',
    )
    expect(missing.map((p) => p.column)).deep.equal(['hyzer_deg', 'right_m'])
    expect(problemsOf(`${HEADER},carry_ft\n${ROW},300`)[0]!.message).match(
      /carry_m and carry_ft say the same/,
    )
    expect(problemsOf(`${HEADER},mid_down_m\n${ROW},30`)[0]!.message).match(/needs mid_right_m/)
  })

  it('wants rows to agree on a disc and fills what one row leaves empty', () => {
    const problems = problemsOf(csv(ROW, 't2,Odile Fenn,right,backhand,HS-017,9,5,-2,2,0,90,-3'))
    expect(problems).deep.equal([
      { row: 3, column: 'turn', message: 'turn of disc HS-017 is -2 here and -1 in row 2.' },
    ])
    const filled = throwsOf(
      `${HEADER},mold,full_speed_mps\n${ROW},,\n${ROW.replace('t1', 't2')},Tarnwick,26.5`,
    )
    expect(filled[0]).include({ mold: 'Tarnwick', fullSpeedMps: 26.5 })
  })

  it('refuses what is too large, empty or without throws', () => {
    expect(problemsOf('x'.repeat(CSV_LIMIT.bytes + 1))[0]!.message).match(/8\.0 MB; at most 8 MB/)
    expect(problemsOf('')[0]!.message).match(/empty/)
    expect(problemsOf(HEADER)[0]!.message).match(/no throw/)
    expect(problemsOf(`${HEADER}\n${ROW},surplus`)[0]!.message).match(/13 cells under 12 columns/)
    expect(problemsOf(csv('"t1,Odile')).length).greaterThan(0)
  })

  it('writes what it reads, byte for number', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true }).map((v) => v + 0)
    const maybe = <T>(a: fc.Arbitrary<T>) => fc.option(a, { nil: undefined })
    const word = fc.string({ minLength: 1, maxLength: 12 }).filter((s) => s.trim() === s && s.length > 0)
    const line = fc.record({
      thrower: fc.constantFrom('Odile "Od" Fenn', 'Tobit, Marl'),
      hand: fc.constantFrom('right' as const, 'left' as const),
      stroke: fc.constantFrom('backhand' as const, 'forehand' as const),
      power: number(0.1, 1.2),
      hyzerDeg: number(-80, 80),
      hyzerCalledDeg: maybe(number(-80, 80)),
      windAlongMps: maybe(number(-25, 25)),
      carryM: number(60, 300),
      rightM: number(-150, 150),
      hangS: maybe(number(0.2, 20)),
      counts: fc.boolean(),
      whyNot: maybe(word),
    })
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 8 }), (lines) => {
        const throws = lines.map((l, i) => {
          const t = { throw: `t${i}`, disc: 'HS-017', speed: 9, glide: 5, turn: -1, fade: 2, ...l }
          return Object.fromEntries(
            Object.entries(t).filter(([, v]) => v !== undefined),
          ) as unknown as SheetThrow
        })
        expect(throwsOf(writeThrowsCsv(throws))).deep.equal(throws)
      }),
      { seed: 7 },
    )
  })
})

describe('a file of throws, rated', () => {
  const lines = (sign: 1 | -1, hand: string) =>
    [10, 0, -8].flatMap((deg, i) =>
      [0, 1, 2, 3].flatMap((k) => [
        `a${i}${k},Ann,${hand},backhand,A,9,5,-1,2,${deg},${92 + k},${sign * (-16 + deg / 2 + k)},${-sign * 0.5}`,
        `b${i}${k},Ann,${hand},backhand,B,9,5,-1,2,${deg},${96 + k},${sign * (2 - deg / 2 + k)},${-sign * 0.5}`,
      ]),
    )
  const report = (rows: string[]) => {
    const state = fit(evidenceOf(throwsOf([`${HEADER},wind_across_mps`, ...rows].join('\n'))))
    return rateReport(state, outcomeOf(state))
  }

  it('says which disc is more stable, and a left-hander’s mirrored sheet says the same', () => {
    const right = report(lines(1, 'right'))
    expect(right.pairs[0]!.a).equal('A')
    expect(right.pairs[0]!.p_a_more_stable).greaterThan(0.9)
    const left = report(lines(-1, 'left'))
    expect(left.discs).deep.equal(right.discs)
    expect(left.pairs).deep.equal(right.pairs)
    expect(left.throwers[0]!.habit).deep.equal(right.throwers[0]!.habit)
  })

  it('prints a table most stable first', () => {
    const table = rateTable(report(lines(1, 'right')))
    expect(table.indexOf('A ')).lessThan(table.indexOf('B '))
    expect(table).match(/A is more stable than B, \d+ %/)
  })
})
