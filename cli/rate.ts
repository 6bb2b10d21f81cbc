import { readFileSync, statSync } from 'node:fs'
import path from 'node:path'
import { CSV_LIMIT, readThrowsCsv, tooLarge } from '../core/formats/throwsCsv.ts'
import type { CsvProblem } from '../core/formats/throwsCsv.ts'
import { rateReport, rateTable } from '../core/formats/rateReport.ts'
import { fit } from '../core/rating/fit.ts'
import { evidenceOf } from '../core/rating/fromSheet.ts'
import { outcomeOf } from '../core/rating/outcome.ts'

const USAGE = 'usage: npm run --silent rate -- FILE [--json]'

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

const flags = process.argv.slice(2).filter((a) => a.startsWith('-'))
const files = process.argv.slice(2).filter((a) => !a.startsWith('-'))
if (files.length !== 1 || flags.some((f) => f !== '--json')) refuse([USAGE])
const csv = readThrowsCsv(read(files[0]!))
if (!csv.ok) refuse(csv.problems.map(where))
const evidence = evidenceOf(csv.throws)
const state = fit(evidence)
const report = rateReport(state, outcomeOf(state))
process.stdout.write(`${flags.includes('--json') ? JSON.stringify(report) : rateTable(report)}\n`)
