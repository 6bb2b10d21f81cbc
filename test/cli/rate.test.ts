import { spawnSync } from 'node:child_process'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect } from 'chai'
import { parseCsv } from '../../core/formats/csvCells.ts'
import type { AnswerReport } from '../../core/formats/answerReport.ts'
import type { DoubtsReport } from '../../core/formats/doubtsReport.ts'
import type { ArmReport } from '../../core/formats/armReport.ts'
import type { RateReport } from '../../core/formats/rateReport.ts'
import { bundleProgram } from '../../scripts/bundles.mjs'

const ROOT = fileURLToPath(new URL('../..', import.meta.url))
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-rate-'))
let program: string

function rate(csv: string, ...flags: string[]) {
  const file = path.join(folder, 'throws.csv')
  fs.writeFileSync(file, csv)
  return spawnSync(process.execPath, [program, file, ...flags], {
    cwd: ROOT,
    encoding: 'utf8',
  })
}
const HEADER =
  'thrower,hand,stroke,disc,speed,glide,turn,fade,full_speed_mps,hyzer_deg,carry_m,right_m,counts,why_not'
const ROWS = [10, 10, 0, 0, -8, -8].flatMap((deg) => [
  `Ann,right,backhand,A,9,5,-1,2,26,${deg},92,${-14 - deg},true,`,
  `Ann,right,backhand,B,9,5,-1,2,26,${deg},99,${9 - deg},true,`,
])

describe('rate', () => {
  before(async () => void (program = await bundleProgram('cli/rate.ts')))
  after(() => fs.rmSync(folder, { recursive: true, force: true }))

  it('prints JSON of discs, pairs and throwers', () => {
    const done = rate(
      [HEADER, ...ROWS, 'Ann,right,backhand,A,9,5,-1,2,26,0,40,9,false,hit a branch'].join('\n'),
      '--json',
    )
    expect(done.stderr).equal('')
    expect(done.status).equal(0)
    const report = JSON.parse(done.stdout) as RateReport
    expect(report.discs.map((d) => d.disc)).deep.equal(['A', 'B'])
    expect(report.discs[0]).deep.include({
      throws: 6,
      left_out: 1,
      published: { speed: 9, glide: 5, turn: -1, fade: 2 },
    })
    expect(report.pairs).length(1)
    expect(report.pairs[0]!.p_a_more_stable).greaterThan(0.9)
    expect(report.throwers[0]!.habit).have.keys('speed_pct', 'launch_deg', 'hyzer_deg', 'nose_deg')
  })

  it('prints a table without --json', () => {
    const done = rate([HEADER, ...ROWS].join('\n'))
    expect(done.status).equal(0)
    expect(done.stdout).match(/A is more stable than B, \d\d %/)
    // whichever row comes first; and no number of throws makes anything certain
    expect(rate([HEADER, ...ROWS.toReversed()].join('\n')).stdout).equal(done.stdout)
    const many = Array.from({ length: 12 }, () => ROWS).flat()
    expect(rate([HEADER, ...many].join('\n')).stdout).match(/A is more stable than B, 9\d %/)
  })

  it('prints a table for spreadsheets with --csv, the same figures as the JSON, the most stable first', () => {
    const csv = [HEADER, ...ROWS].join('\n')
    const { discs } = JSON.parse(rate(csv, '--json').stdout) as RateReport
    const done = rate(csv, '--csv')
    expect(done.status).equal(0)
    const { header, rows, errors } = parseCsv(done.stdout)
    expect(errors).deep.equal([])
    const [first, second] = rows
    const a = discs.find((d) => d.disc === 'A')!
    const cell = (name: string) => Number(first![header.indexOf(name)])
    expect([first![0], second![0]]).deep.equal(['A', 'B'])
    expect(cell('turn')).equal(a.observed.turn)
    expect(cell('published_turn')).equal(-1)
    expect([cell('stability'), cell('stability_sd')]).deep.equal([a.stability.value, a.stability.sd])
    expect([cell('side_m_per_100m'), cell('side_m_per_100m_sd')]).deep.equal([
      a.side_m_per_100m.value,
      a.side_m_per_100m.sd,
    ])
    expect(rate(csv, '--csv', '--json').status).equal(2)
  })

  it('says what reads as if it was logged wrong, where that is asked', () => {
    const csv = [HEADER, ...ROWS, ...ROWS, ...ROWS]
    expect(rate(csv.join('\n')).stdout).not.contain('logged wrong')
    expect(rate(csv.join('\n'), '--doubts').stdout).contain('Nothing reads as if it was logged wrong.')
    // one throw of A on the other side
    const slipped = [csv[0]!, csv[1]!.replace(',92,-24,', ',92,24,'), ...csv.slice(2)]
    expect(slipped[1]).not.equal(csv[1])
    const { doubts } = JSON.parse(rate(slipped.join('\n'), '--json', '--doubts').stdout) as {
      doubts: DoubtsReport
    }
    expect(doubts.winds).deep.equal([])
    expect(doubts.throws.map((t) => t.slip)).deep.equal(['side'])
    expect(doubts.throws[0]!.p).greaterThan(0.8)
    expect(rate(slipped.join('\n'), '--doubts').stdout).match(
      /Throw .* reads like one that landed on the other side, \d\d %/,
    )
  })

  it('says what each disc is for an arm of some speed, and refuses a speed nobody has', () => {
    const csv = [HEADER, ...ROWS].join('\n')
    const done = rate(csv, '--json', '--arm', '20')
    const { at_speed: at } = JSON.parse(done.stdout) as { at_speed: ArmReport }
    expect(at.speed_mps).equal(20)
    const [a, b] = at.discs as [ArmReport['discs'][number], ArmReport['discs'][number]]
    expect([a.disc, b.disc]).deep.equal(['A', 'B'])
    // a slower arm sees less turn and relatively more fade than the disc’s own numbers
    const { discs } = JSON.parse(rate(csv, '--json').stdout) as RateReport
    expect(b.seems.turn).greaterThan(discs[1]!.observed.turn)
    expect(a.likest).deep.equal([{ ...a.likest[0]!, disc: 'B', distance_m: b.likest[0]!.distance_m }])
    const [like] = a.likest
    expect(like!.overlaps).equal(like!.same_shape && like!.same_distance)
    expect(like!.farther_m).closeTo(-b.likest[0]!.farther_m, 0.02)
    expect(rate(csv, '--arm', '20').stdout).match(
      /Thrown by an arm of 20 m\/s with a disc of speed 9:[^]*A seems .*stands up to flat: .*flies most like B/,
    )
    const refused = rate(csv, '--arm', '300')
    expect(refused.status).equal(2)
    expect(refused.stderr).match(/between 8 and 45 m\/s/)
  })

  it('compares plastics and says where the spread lies when the file names molds', () => {
    const named = ROWS.map((r) => `${r},Eskwright,Tarnwick,${r.includes(',A,') ? 'Slate' : 'Tallow'}`)
    const csv = [`${HEADER},maker,mold,plastic`, ...named].join('\n')
    const report = JSON.parse(rate(csv, '--json').stdout) as RateReport
    expect(report.plastics).length(1)
    const [pair] = report.plastics!
    expect(pair).include({ mold: 'Eskwright Tarnwick', a: 'Slate', b: 'Tallow' })
    expect(pair!.p_a_more_stable).greaterThan(0.7)
    expect(Object.values(report.shares!).reduce((s, v) => s + v, 0)).closeTo(1, 0.01)
    expect(rate(csv).stdout).match(/Slate flies \d\.\d more stable than Tallow, \d\d %/)
  })

  it('answers the question it is asked, with the same object for programs', () => {
    const named = ROWS.map((r) => `${r},Eskwright,Tarnwick,${r.includes(',A,') ? 'Slate' : 'Tallow'}`)
    const csv = [`${HEADER},maker,mold,plastic`, ...named].join('\n')
    const { answer } = JSON.parse(rate(csv, '--json', '--question', 'plastics').stdout) as {
      answer: AnswerReport
    }
    expect(Object.keys(answer)).deep.equal(['question', 'sentence', 'probability', 'settled', 'figures'])
    expect(answer.question).equal('plastics')
    expect(answer.settled).equal(true)
    expect(answer.probability).greaterThan(0.9)
    expect(answer.sentence).match(/^Slate flies more stable than Tallow: it finishes [\d.]+ m/)
    const gap = answer.figures['Tallow finish against Slate']!
    expect(gap.value).lessThan(0)
    expect(gap.low!).lessThan(gap.value)
    expect(gap.unit).equal('m per 100 m')
    // to be read, the same sentence comes first
    expect(rate(csv, '--question', 'plastics').stdout.startsWith(`${answer.sentence}, `)).equal(true)
    const wear = JSON.parse(rate(csv, '--json', '--question', 'wear').stdout) as { answer: AnswerReport }
    expect(wear.answer).deep.include({ probability: null, settled: false })
    const wrong = rate(csv, '--question', 'weather')
    expect(wrong.status).equal(2)
    expect(wrong.stderr).match(/--question must be one of numbers, plastics, runs/)
  })

  it('takes the paths recorded of throws from a folder, and says what is wrong with them', () => {
    const paths = path.join(folder, 'paths')
    fs.mkdirSync(paths)
    const csv = [`throw,${HEADER}`, ...ROWS.map((r, i) => `${i},${r}`)].join('\n')
    const sdOf = (...flags: string[]) =>
      (JSON.parse(rate(csv, '--json', ...flags).stdout) as RateReport).discs[0]!.sd.turn
    const without = sdOf()
    expect(sdOf('--paths', paths)).equal(without)
    // A at 10, 0 and −8 degrees: out to where the sheet says it landed
    for (const [t, right] of [
      [0, -24],
      [4, -14],
      [8, -6],
    ] as const) {
      const points = [5, 20, 40, 60, 80, 91].map((x) => `${x},${right * (x / 92) ** 2}`)
      fs.writeFileSync(path.join(paths, `${t}.csv`), ['down_m,right_m', ...points].join('\n'))
    }
    expect(sdOf('--paths', paths)).lessThan(without)
    fs.writeFileSync(path.join(paths, '2.csv'), 'down_m,right_m\n1,x\n2,0\n')
    const track = { type: 'LineString', coordinates: [0, 5e-5, 2e-4, 5e-4, 8e-4].map((v) => [9, 50 + v]) }
    fs.writeFileSync(path.join(paths, '6.geojson'), JSON.stringify(track))
    const bad = rate(csv, '--paths', paths)
    expect(bad.stderr).match(/6\.geojson, file: A track on the earth needs the bearing/)
    expect(bad.status).equal(2)
    expect(bad.stderr).match(/2\.csv, row 2, column right_m/)
    fs.rmSync(path.join(paths, '2.csv'))
    expect(sdOf('--paths', paths, '--bearing', '0')).lessThan(without)
    expect(rate(csv, '--paths', paths, '--bearing', '400').stderr).match(/between 0 and 360/)
    expect(rate(csv, '--paths', path.join(folder, 'nowhere')).stderr).match(/is not there/)
    expect(rate(csv, '--nonsense').stderr).match(/usage:/)
  })

  it('ends with 2 and every error on standard error', () => {
    const done = rate(
      [HEADER, ROWS[0]!.replace(',10,', ',ten,'), ROWS[1]!.replace('right', 'wrong')].join('\n'),
      '--json',
    )
    expect(done.status).equal(2)
    expect(done.stdout).equal('')
    expect(done.stderr)
      .match(/row 2, column hyzer_deg/)
      .match(/row 3, column hand/)
    const missing = spawnSync(process.execPath, [program, '/nowhere.csv'], {
      cwd: ROOT,
      encoding: 'utf8',
    })
    expect(missing.status).equal(2)
    expect(missing.stderr).match(/cannot be read/)
  })
})
