import { existsSync, readFileSync, statSync } from 'node:fs'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { readPathFile } from '../core/formats/pathFile.ts'
import { PATH_FILES } from '../core/formats/pathFiles.ts'
import { SHEET_RANGE } from '../core/throw/ranges.ts'
import type { SheetThrow } from '../core/throw/sheetThrow.ts'
import { CSV_LIMIT, readThrowsCsv, tooLarge } from '../core/formats/throwsCsv.ts'
import type { CsvProblem } from '../core/formats/csvCells.ts'
import { answerReport, answerText } from '../core/formats/answerReport.ts'
import { armReport, armText } from '../core/formats/armReport.ts'
import { doubtsReport, doubtsText } from '../core/formats/doubtsReport.ts'
import { rateReport, rateTable, ratingsCsv } from '../core/formats/rateReport.ts'
import { ANSWERED, answerOf, isAnswered } from '../core/judge/answers/answerOf.ts'
import { fit } from '../core/rating/fit.ts'
import { crewOfTwo } from './crew.ts'
import { evidenceOf } from '../core/rating/fromSheet.ts'
import { outcomeOf } from '../core/rating/outcome.ts'

const USAGE =
  'usage: npm run --silent rate -- FILE [--json | --csv] [--question NAME] [--paths FOLDER [--bearing DEG]] [--arm MPS] [--doubts]'

/** Ends with status 2 and the reasons on standard error. */
function refuse(lines: readonly string[]): never {
  process.stderr.write(`${lines.join('\n')}\n`)
  process.exit(2)
}

/** Files are named from where the command was typed. */
const from = (file: string) => path.resolve(process.env['VEER_FROM'] ?? '.', file)

function read(file: string): string {
  try {
    const { size } = statSync(from(file))
    if (size > CSV_LIMIT.bytes) refuse([tooLarge(size)])
    return readFileSync(from(file), 'utf8')
  } catch (e) {
    return refuse([`${file} cannot be read: ${(e as Error).message}`])
  }
}

const where = ({ row, column, message }: CsvProblem) =>
  `${[row && `row ${row}`, column && `column ${column}`].filter(Boolean).join(', ') || 'file'}: ${message}`

/**
 * Throws with the paths recorded of them: FOLDER holds a file named after the throw, `17.csv`, `17.gpx` or `17.geojson`, where
 * there is one.
 */
function withPaths(
  throws: readonly SheetThrow[],
  folder: string,
  bearingDeg: number | undefined,
): SheetThrow[] {
  if (!existsSync(from(folder))) refuse([`${folder} is not there; --paths names a folder of recorded paths.`])
  const problems: string[] = []
  const joined = throws.map((t) => {
    const file = PATH_FILES.map((ending) => path.join(folder, path.basename(t.throw) + ending)).find((f) =>
      existsSync(from(f)),
    )
    if (file === undefined) return t
    const recorded = readPathFile(file, read(file), bearingDeg)
    if (recorded.ok) return { ...t, path: recorded.path }
    problems.push(...recorded.problems.map((p) => `${file}, ${where(p)}`))
    return t
  })
  if (problems.length > 0) refuse(problems)
  return joined
}

/** Release speeds that somebody could have, m/s. */
const [SLOWEST, FASTEST] = SHEET_RANGE.fullSpeedMps

interface Asked {
  readonly file: string
  readonly json: boolean
  readonly csv: boolean
  readonly paths: string | undefined
  readonly arm: number | undefined
  readonly question: string | undefined
  readonly bearing: number | undefined
  /** Whether it is asked what reads as if it was logged wrong, which takes fits of its own. */
  readonly doubts: boolean
}

function asked(): Asked {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: {
        json: { type: 'boolean', default: false },
        csv: { type: 'boolean', default: false },
        paths: { type: 'string' },
        arm: { type: 'string' },
        question: { type: 'string' },
        bearing: { type: 'string' },
        doubts: { type: 'boolean', default: false },
      },
    })
    const number = (v: string | undefined) => (v === undefined ? undefined : Number(v))
    if (positionals.length === 1 && !(values.json && values.csv))
      return {
        file: positionals[0]!,
        json: values.json,
        csv: values.csv,
        paths: values.paths,
        arm: number(values.arm),
        question: values.question,
        bearing: number(values.bearing),
        doubts: values.doubts,
      }
  } catch {
    // the usage says it all
  }
  return refuse([USAGE])
}

const { file, json, csv: asCsv, paths, arm, bearing, question, doubts: doubted } = asked()
if (arm !== undefined && !(arm >= SLOWEST && arm <= FASTEST))
  refuse([`--arm must be a full-power speed with a disc of speed 9, between ${SLOWEST} and ${FASTEST} m/s.`])
if (question !== undefined && !isAnswered(question))
  refuse([`--question must be one of ${ANSWERED.join(', ')}.`])
if (bearing !== undefined && !(bearing >= 0 && bearing <= 360))
  refuse(['--bearing must be a compass bearing between 0 and 360°.'])
const csv = readThrowsCsv(read(file))
if (!csv.ok) refuse(csv.problems.map(where))
const evidence = evidenceOf(paths === undefined ? csv.throws : withPaths(csv.throws, paths, bearing))
/** From here on a second thread is worth its start. */
const MANY = 1500
const two = evidence.throws.length >= MANY ? await crewOfTwo() : undefined
const state = fit(evidence, two ? { crew: two.crew } : {})
await two?.end()
const outcome = outcomeOf(state)
const report = rateReport(state, outcome)
const doubts = doubted ? doubtsReport(state) : undefined
const forArm = arm === undefined ? undefined : armReport(state, outcome, arm)
const answer =
  question === undefined
    ? undefined
    : answerOf(question, {
        state,
        outcome,
        discs: evidence.discs.flatMap((d) => (d.control ? [] : [d.id])),
        convention: 'fresh',
        pair: null,
        arms: [],
        words: { name: (d) => d },
        short: [],
      })
const forPrograms = {
  ...report,
  ...(doubts && { doubts }),
  ...(forArm && { at_speed: forArm }),
  ...(answer && { answer: answerReport(answer) }),
}
const told = asCsv
  ? ratingsCsv(report)
  : json
    ? `${JSON.stringify(forPrograms)}\n`
    : `${[...(answer ? [answerText(answer)] : []), rateTable(report), doubts ? doubtsText(doubts) : '', ...(forArm ? [armText(forArm)] : [])].filter(Boolean).join('\n\n')}\n`
process.stdout.write(told)
