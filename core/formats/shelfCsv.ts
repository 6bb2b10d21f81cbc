import { DISC_CLASS_WORDS, SOURCE_WORDS } from '../shelf/kinds.ts'
import type { DiscClass, DiscSource } from '../shelf/kinds.ts'
import { WEAR_STATES } from '../shelf/wear.ts'
import type { WearState } from '../shelf/wear.ts'
import { NUMBER_RANGE } from '../flight/disc.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import {
  parseCsv,
  placesOf,
  plainFigure,
  Problems,
  readable,
  short,
  writeCsv,
  writtenNumber,
} from './csvCells.ts'
import { isDay } from '../throw/day.ts'
import type { CsvProblem } from './csvCells.ts'
import { SHEET_RANGE } from '../throw/ranges.ts'

/** What a column takes: what is stored, and the word for it that stands in a file. Both are read. */
const WORDS: Readonly<Partial<Record<string, Readonly<Record<string, string>>>>> = {
  class: DISC_CLASS_WORDS,
  wear: Object.fromEntries(WEAR_STATES.map((wear) => [wear, wear])),
  source: SOURCE_WORDS,
}

/** One disc of a shelf file; what a file says nothing of is absent. */
export interface ShelfLine {
  readonly row: number
  readonly code: string
  readonly maker: string
  readonly mold: string
  readonly class?: DiscClass
  readonly plastic: string
  readonly run?: string
  /** Published numbers by level. */
  readonly numbers: { readonly [L in NumberLevel]?: FlightNumbers }
  readonly markedG?: number
  readonly weighedG?: number
  readonly wear?: WearState
  readonly source?: DiscSource
  readonly provenance?: string
  readonly acquiredOn?: string
  readonly note?: string
}

export const NUMBER_LEVELS = ['mold', 'plastic', 'run', 'stamped'] as const
export type NumberLevel = (typeof NUMBER_LEVELS)[number]
const NUMBERS = ['speed', 'glide', 'turn', 'fade'] as const

const TEXTS = {
  code: 'code',
  maker: 'maker',
  mold: 'mold',
  class: 'class',
  plastic: 'plastic',
  run: 'run',
  wear: 'wear',
  source: 'source',
  provenance: 'provenance',
  acquired_on: 'acquiredOn',
  note: 'note',
} as const
const NEEDED = ['code', 'maker', 'mold', 'plastic'] as const
const GRAMS = { marked_g: 'markedG', weighed_g: 'weighedG' } as const
/** Column of a number: the mold’s own are plain, the others carry their level. */
const numberColumn = (level: NumberLevel, key: string) => (level === 'mold' ? key : `${level}_${key}`)
const COLUMNS = [
  'code',
  'maker',
  'mold',
  'class',
  'plastic',
  'run',
  ...NUMBER_LEVELS.flatMap((level) => NUMBERS.map((key) => numberColumn(level, key))),
  'marked_g',
  'weighed_g',
  'wear',
  'source',
  'provenance',
  'acquired_on',
  'note',
]
export const SHELF_CSV_LIMIT = { bytes: 4_000_000, rows: 5000 } as const

/**
 * Reads discs from CSV (UTF-8, comma, header, RFC 4180): `code`, `maker`, `mold`, `plastic`, and what else is known.
 * Column order is free, unknown columns are passed over. Every bad cell is reported, all at once; nothing is guessed.
 */
export function readShelfCsv(
  csv: string,
):
  | { readonly ok: true; readonly lines: readonly ShelfLine[] }
  | { readonly ok: false; readonly problems: readonly CsvProblem[] } {
  const problems = new Problems()
  const { report } = problems
  const parsed = parseCsv(csv)
  const { header, rows, errors } = parsed
  if (!readable(csv, parsed, report)) return { ok: false, problems: problems.told() }
  const { at: places, twice } = placesOf(header)
  for (const e of errors) report(e.row, null, e.message)
  for (const c of NEEDED) if (!places.has(c)) report(1, c, `Column ${c} is missing; every disc needs it.`)
  for (const at of twice) report(1, header[at]!, `Column ${header[at]!} stands twice.`)
  if (rows.length === 0) report(null, null, 'The file holds no disc.')
  if (rows.length > SHELF_CSV_LIMIT.rows)
    report(null, null, `The file has ${rows.length} discs; at most ${SHELF_CSV_LIMIT.rows} are read at once.`)
  if (problems.list.length > 0) return { ok: false, problems: problems.told() }

  const seen = new Map<string, number>()
  const lines = rows.map((cells, i): ShelfLine => {
    const row = i + 2
    const cell = (column: string) => {
      const at = places.get(column)
      return at === undefined ? '' : (cells[at] ?? '')
    }
    const line: Record<string, unknown> = { row, numbers: {} }
    for (const [column, key] of Object.entries(TEXTS)) {
      const value = cell(column)
      if (value === '') {
        if ((NEEDED as readonly string[]).includes(column))
          report(row, column, `${column} is empty; every disc needs it.`)
        continue
      }
      const words = WORDS[column]
      const meant = words && Object.keys(words).find((id) => [id, words[id]].includes(value.toLowerCase()))
      if (words && meant === undefined)
        report(
          row,
          column,
          `${column} is “${short(value)}”; write one of ${Object.values(words).join(', ')}.`,
        )
      else if (value.length > (key === 'note' ? 4000 : key === 'code' ? 40 : 120))
        report(row, column, `${column} is ${value.length} characters long, which is too long.`)
      else if (key === 'acquiredOn' && !isDay(value))
        report(row, column, `${column} is “${short(value)}”; write a day such as 2026-05-09.`)
      else line[key] = meant ?? value
    }
    const figure = (column: string, [low, high]: readonly [number, number]) => {
      const value = cell(column)
      if (value === '') return undefined
      const read = writtenNumber(value)
      if (read === undefined) report(row, column, `${column} is “${short(value)}”; write a number.`)
      else if (read < low || read > high)
        report(
          row,
          column,
          `${column} is ${value}; it must lie between ${plainFigure(low)} and ${plainFigure(high)}.`,
        )
      else return read
      return Number.NaN
    }
    for (const [column, key] of Object.entries(GRAMS)) {
      const value = figure(column, SHEET_RANGE.weightG)
      if (value !== undefined) line[key] = value
    }
    for (const level of NUMBER_LEVELS) {
      const read = NUMBERS.map((key) => figure(numberColumn(level, key), NUMBER_RANGE[key]))
      const given = read.filter((v) => v !== undefined).length
      if (given === 0) continue
      if (given < NUMBERS.length) {
        const missing = NUMBERS.filter((_, k) => read[k] === undefined).map((k) => numberColumn(level, k))
        report(row, missing[0]!, `${missing.join(', ')} is empty beside its like; give all four or none.`)
      } else
        (line['numbers'] as Record<string, unknown>)[level] = Object.fromEntries(
          NUMBERS.map((key, k) => [key, read[k]]),
        )
    }
    const code = String(line['code'] ?? '').toLowerCase()
    const before = seen.get(code)
    if (code !== '' && before !== undefined)
      report(row, 'code', `Code ${short(code)} stands in row ${before} already; every disc has its own.`)
    else seen.set(code, row)
    return line as unknown as ShelfLine
  })
  return problems.list.length > 0 ? { ok: false, problems: problems.told() } : { ok: true, lines }
}

/** Writes discs as CSV; {@link readShelfCsv} reads it back the same. */
export function writeShelfCsv(lines: readonly Omit<ShelfLine, 'row'>[]): string {
  const rows = lines.map((l) => {
    const cells: Record<string, unknown> = {}
    for (const [column, key] of [...Object.entries(TEXTS), ...Object.entries(GRAMS)]) {
      const value = l[key]
      cells[column] = (typeof value === 'string' && WORDS[column]?.[value]) || value
    }
    for (const level of NUMBER_LEVELS)
      for (const key of NUMBERS) cells[numberColumn(level, key)] = l.numbers[level]?.[key]
    return COLUMNS.map((c) => String(cells[c] ?? ''))
  })
  return writeCsv(COLUMNS, rows)
}
