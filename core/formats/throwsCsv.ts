import { FOOT, MPH } from '../flight/units.ts'
import {
  parseCsv,
  placesOf,
  plainFigure as plain,
  Problems,
  readable,
  short,
  writeCsv,
  writtenNumber,
} from './csvCells.ts'
import type { CsvProblem } from './csvCells.ts'
import { MEASURING_METHODS } from '../throw/method.ts'
import { PLASTIC_KINDS } from '../shelf/usualWear.ts'
import { WEAR_STATES } from '../shelf/wear.ts'
import { isInstant } from '../throw/day.ts'
import { brokenRules, OBSERVED_KEYS, rowOf } from '../throw/observed.ts'
import type { FigureKey, ObservedKey } from '../throw/observed.ts'
import { ABOUT, SHEET_RANGE } from '../throw/ranges.ts'
import type { SheetNumber } from '../throw/ranges.ts'
import type { SheetThrow } from '../throw/sheetThrow.ts'

/** A file of throws, read whole: either every throw, or every problem. */
export type CsvRead =
  | { readonly ok: true; readonly throws: readonly SheetThrow[]; readonly noteColumns: readonly string[] }
  | { readonly ok: false; readonly problems: readonly CsvProblem[] }

/** Larger files are refused before they are read: bytes of UTF-8, and rows. */
export const CSV_LIMIT = { bytes: 8_000_000, rows: 20_000 } as const

type Text =
  'throw' | 'thrownAt' | 'thrower' | 'disc' | 'mold' | 'maker' | 'plastic' | 'run' | 'outing' | 'whyNot'
/** A column of the file: what it is called, what it holds, and whether every row needs it. */
type Column = { readonly name: string; readonly required: boolean } & (
  | { readonly key: Text; readonly kind: 'text'; readonly longest: number }
  | { readonly key: SheetNumber; readonly kind: 'number'; readonly unit: string }
  | {
      readonly key: ObservedKey | 'wear' | 'plasticKind' | 'method'
      readonly kind: 'choice'
      readonly choices: readonly string[]
    }
  | { readonly key: ObservedKey | 'control'; readonly kind: 'truth' }
)

/** Labels, names and codes are at most this long, wherever they are written. */
export const LONGEST = { label: 200, name: 120, code: 40, note: 2000 } as const
const text = (name: string, key: Text, longest: number, required = false): Column => ({
  name,
  key,
  kind: 'text',
  required,
  longest,
})
const about = (key: keyof typeof ABOUT, required = false): Column => ({
  name: ABOUT[key].column,
  key,
  kind: 'number',
  required,
  unit: ABOUT[key].unit,
})
/** The column of something observed: every row needs it where every throw has it and nothing is usual. */
function observed(key: ObservedKey): Column {
  const row = rowOf(key)
  const required = row.need === 'always' && !('usual' in row)
  const base = { name: row.column, required }
  switch (row.kind) {
    case 'figure':
      return { ...base, key: key as FigureKey, kind: 'number', unit: row.unit }
    case 'choice':
      return { ...base, key, kind: 'choice', choices: row.choices }
    case 'truth':
      return { ...base, key, kind: 'truth' }
    case 'text':
      return { ...base, key: key as Text, kind: 'text', longest: row.longest }
  }
}

/** Every column this product knows, in the order it writes them: whose throw it was, of what, in which air, then what was observed. */
const COLUMNS: readonly Column[] = [
  text('throw', 'throw', LONGEST.label),
  text('thrown_at', 'thrownAt', LONGEST.label),
  text('thrower', 'thrower', LONGEST.name, true),
  text('disc', 'disc', LONGEST.code, true),
  ...(['mold', 'maker', 'plastic', 'run'] as const).map((key) => text(key, key, LONGEST.name)),
  ...(['speed', 'glide', 'turn', 'fade'] as const).map((key) => about(key, true)),
  ...(
    [
      'weightG',
      'fullSpeedMps',
      'temperatureC',
      'altitudeM',
      'watcherSdDeg',
      'discThrows',
      'discHits',
    ] as const
  ).map((key) => about(key)),
  { name: 'wear_state', key: 'wear', kind: 'choice', choices: WEAR_STATES, required: false },
  { name: 'plastic_kind', key: 'plasticKind', kind: 'choice', choices: PLASTIC_KINDS, required: false },
  { name: 'control_disc', key: 'control', kind: 'truth', required: false },
  text('outing_id', 'outing', LONGEST.label),
  { name: 'measured_by', key: 'method', kind: 'choice', choices: MEASURING_METHODS, required: false },
  ...OBSERVED_KEYS.map(observed),
]
const COLUMN_NAMED = new Map(COLUMNS.map((c) => [c.name, c]))
const columnOf = (key: Column['key']) => COLUMNS.find((c) => c.key === key)!

/** What one of a foreign unit is in metres or metres a second. */
const TWINS = [
  { of: 'm', metric: '_m', foreign: '_ft', factor: FOOT, unit: 'ft' },
  { of: 'm/s', metric: '_mps', foreign: '_mph', factor: MPH, unit: 'mph' },
] as const

/** A column of the file at hand: what it means here, and how its numbers become metric. */
interface Found {
  readonly at: number
  readonly name: string
  readonly column: Column
  readonly factor: number
  readonly unit: string
}

type Report = Problems['report']

const bytesOf = (s: string) => new TextEncoder().encode(s).length

/**
 * Reads throws from CSV (UTF-8, comma, header, RFC 4180).
 *
 * Column order is free and unknown columns are kept as notes. Every bad cell is reported, all at once; nothing
 * is guessed and nothing of a file with problems is returned.
 */
export function readThrowsCsv(csv: string): CsvRead {
  const problems = new Problems()
  const { report } = problems
  const fail = (): CsvRead => ({ ok: false, problems: problems.told() })

  const size = csv.length > CSV_LIMIT.bytes ? csv.length : bytesOf(csv)
  if (size > CSV_LIMIT.bytes) {
    report(null, null, tooLarge(size))
    return fail()
  }
  const parsed = parseCsv(csv)
  const { header, rows: cells, errors } = parsed
  if (header.every((h) => h === '')) {
    report(
      null,
      null,
      'The file is empty. The first row must name the columns, and each further row is one throw.',
    )
    return fail()
  }
  if (!readable(csv, parsed, report)) return fail()
  for (const e of errors) report(e.row, null, e.message)
  if (cells.length > CSV_LIMIT.rows) {
    report(
      null,
      null,
      `The file has ${cells.length} throws; at most ${CSV_LIMIT.rows} are read at once. Split it by session.`,
    )
    return fail()
  }
  const { found, notes } = columnsOf(header, report)
  if (cells.length === 0) report(null, null, 'The file names its columns but holds no throw.')
  if (problems.list.length > 0) return fail()

  const rows = cells.map((row, i) => readRow(row, i + 2, header, found, notes, report))
  const throws = agree(rows, report)
  return problems.list.length > 0 ? fail() : { ok: true, throws, noteColumns: notes.map((n) => header[n]!) }
}

/** The sentence for a file too large to read. */
export const tooLarge = (bytes: number): string =>
  `The file is ${(bytes / 1e6).toFixed(1)} MB; at most ${CSV_LIMIT.bytes / 1e6} MB are read at once, some ${CSV_LIMIT.rows.toLocaleString('en')} throws. Split it by session.`

function columnsOf(header: readonly string[], report: Report): { found: Found[]; notes: number[] } {
  const found: Found[] = []
  const notes: number[] = []
  const { twice } = placesOf(header)
  header.forEach((name, at) => {
    const match = matchColumn(name)
    if (!match) {
      if (name === '') report(1, null, `Column ${at + 1} has no name.`)
      else if (name.length > LONGEST.label)
        report(
          1,
          short(name),
          `The name of column ${at + 1} is ${name.length} characters long; at most ${LONGEST.label} are kept.`,
        )
      else if (twice.has(at)) report(1, name, `Column ${name} stands twice.`)
      else notes.push(at)
      return
    }
    const twin = found.find((f) => f.column === match.column)
    if (twin) report(1, name, `Columns ${twin.name} and ${name} say the same; keep one of them.`)
    else found.push({ at, name, ...match })
  })
  for (const c of COLUMNS)
    if (c.required && !found.some((f) => f.column === c))
      report(1, c.name, `Column ${c.name} is missing; every throw needs it.`)
  for (const [a, b] of [
    ['midDownM', 'midRightM'],
    ['midRightM', 'midDownM'],
  ] as const) {
    const has = found.find((f) => f.column.key === a)
    if (has && !found.some((f) => f.column.key === b))
      report(1, has.name, `Column ${has.name} needs ${columnOf(b).name} beside it.`)
  }
  return { found, notes }
}

function matchColumn(name: string): Pick<Found, 'column' | 'factor' | 'unit'> | undefined {
  const column = COLUMN_NAMED.get(name)
  if (column) return { column, factor: 1, unit: column.kind === 'number' ? column.unit : '' }
  for (const { of, metric, foreign, factor, unit } of TWINS) {
    if (!name.endsWith(foreign)) continue
    const twin = COLUMN_NAMED.get(name.slice(0, -foreign.length) + metric)
    if (twin?.kind === 'number' && twin.unit === of) return { column: twin, factor, unit }
  }
  return undefined
}

/** What a throw has where its row does not say. */
const USUAL = Object.fromEntries(
  OBSERVED_KEYS.flatMap((key) => {
    const row = rowOf(key)
    return 'usual' in row ? [[key, row.usual]] : []
  }),
)

function readRow(
  cells: readonly string[],
  row: number,
  header: readonly string[],
  found: readonly Found[],
  notes: readonly number[],
  report: Report,
): SheetThrow {
  const t: Record<string, unknown> = { throw: `row-${row}`, ...USUAL }
  if (cells.length > header.length)
    report(
      row,
      null,
      `The row has ${cells.length} cells under ${header.length} columns; is a comma unquoted?`,
    )
  for (const f of found) {
    const cell = cells[f.at] ?? ''
    if (cell === '') {
      if (f.column.required) report(row, f.name, `${f.name} is empty; every throw needs it.`)
      continue
    }
    const value = readCell(cell, row, f, report)
    if (value !== undefined) t[f.column.key] = value
  }
  const kept = notes.map((n) => [header[n]!, cells[n] ?? ''] as const).filter(([, v]) => v !== '')
  for (const [name, note] of kept)
    if (note.length > LONGEST.note)
      report(row, name, `${name} is ${note.length} characters long; at most ${LONGEST.note} are kept.`)
  if (kept.length > 0) t['notes'] = Object.fromEntries(kept)
  return t as unknown as SheetThrow
}

function readCell(
  cell: string,
  row: number,
  f: Found,
  report: Report,
): string | number | boolean | undefined {
  const { column, name } = f
  if (column.kind === 'number') {
    const written = writtenNumber(cell)
    if (written === undefined) {
      report(row, name, `${name} is “${short(cell)}”; write a number, with a point for decimals.`)
      return undefined
    }
    const value = written * f.factor
    const [low, high] = SHEET_RANGE[column.key]
    if (!(value >= low && value <= high)) {
      const unit = f.unit === '' ? '' : ` ${f.unit}`
      const hint = column.key === 'carryM' && value < low ? ' A landing lies in front of the thrower.' : ''
      report(
        row,
        name,
        `${name} is ${cell}; it must lie between ${plain(low / f.factor)} and ${plain(high / f.factor)}${unit}.${hint}`,
      )
      return undefined
    }
    return value
  }
  if (column.kind === 'choice') {
    const value = cell.toLowerCase()
    if (column.choices.includes(value)) return value
    report(row, name, `${name} is “${short(cell)}”; write ${column.choices.join(' or ')}.`)
    return undefined
  }
  if (column.kind === 'truth') {
    const value = cell.toLowerCase()
    if (['true', 'yes', '1'].includes(value)) return true
    if (['false', 'no', '0'].includes(value)) return false
    report(row, name, `${name} is “${short(cell)}”; write true or false.`)
    return undefined
  }
  if (column.key === 'thrownAt' && !isInstant(cell)) {
    report(row, name, `${name} is “${short(cell)}”; write an ISO 8601 time such as 2026-05-09T10:24:00Z.`)
    return undefined
  }
  if (cell.length > column.longest) {
    report(row, name, `${name} is ${cell.length} characters long; at most ${column.longest} are kept.`)
    return undefined
  }
  return cell
}

const OF_A_DISC = [
  'speed',
  'glide',
  'turn',
  'fade',
  'weightG',
  'mold',
  'maker',
  'plastic',
  'run',
  'wear',
  'plasticKind',
  'control',
] as const
const OF_AN_ARM = ['fullSpeedMps'] as const

/**
 * Checks what must agree between rows (ids apart, a disc's identity and numbers, an arm's full speed) and lets
 * rows that leave a disc's or an arm's cell empty take it from the row that gives it.
 */
function agree(throws: readonly SheetThrow[], report: Report): SheetThrow[] {
  const ids = new Map<string, number>()
  const given = new Map<string, { value: unknown; row: number }>()
  const told = (
    keys: readonly (keyof SheetThrow)[],
    whose: string,
    name: string,
    t: SheetThrow,
    row: number,
  ) => {
    for (const key of keys) {
      const value = t[key]
      const first = given.get(`${whose} ${key}`)
      if (value === undefined) continue
      if (!first) given.set(`${whose} ${key}`, { value, row })
      else if (first.value !== value) {
        const column = columnOf(key as Column['key']).name
        report(
          row,
          column,
          `${column} of ${name} is ${String(value)} here and ${String(first.value)} in row ${first.row}.`,
        )
      }
    }
  }
  const discOf = (t: SheetThrow) => `disc ${t.disc}`
  const armOf = (t: SheetThrow) => `arm ${t.thrower}|${t.hand}|${t.stroke}`
  throws.forEach((t, i) => {
    const row = i + 2
    const before = ids.get(t.throw)
    if (before === undefined) ids.set(t.throw, row)
    else report(row, 'throw', `Throw ${short(t.throw)} stands in row ${before} already; ids must differ.`)
    if (t.disc) told(OF_A_DISC, discOf(t), `disc ${short(t.disc)}`, t, row)
    if (t.thrower) told(OF_AN_ARM, armOf(t), `${short(t.thrower)}’s ${t.stroke}`, t, row)
    for (const { key, message } of brokenRules(t)) {
      const { name } = columnOf(key)
      report(row, name, `${name} ${message}.`)
    }
  })
  return throws.map((t) => {
    const full: Record<string, unknown> = { ...t }
    for (const key of OF_A_DISC) full[key] ??= given.get(`${discOf(t)} ${key}`)?.value
    for (const key of OF_AN_ARM) full[key] ??= given.get(`${armOf(t)} ${key}`)?.value
    for (const key of Object.keys(full)) if (full[key] === undefined) delete full[key]
    return full as unknown as SheetThrow
  })
}

/** What only a rating asks of a file: how worn discs are, which is the control disc, outings, how landings were measured. */
const FOR_RATING = ['wear', 'plasticKind', 'discThrows', 'discHits', 'control', 'outing', 'method'] as const
/** Throws as a sheet of paper would have them, without what only a rating asks for. */
export const plainThrows = (throws: readonly SheetThrow[]): SheetThrow[] =>
  throws.map((t) => {
    const line: Partial<Record<keyof SheetThrow, unknown>> = { ...t }
    for (const key of FOR_RATING) delete line[key]
    return line as unknown as SheetThrow
  })

/** Writes throws as CSV: the columns that hold anything, then the notes; {@link readThrowsCsv} reads it back the same. */
export function writeThrowsCsv(throws: readonly SheetThrow[]): string {
  const used = COLUMNS.filter(
    (c) => c.required || c.key === 'throw' || throws.some((t) => t[c.key] !== undefined),
  )
  const notes = [...new Set(throws.flatMap((t) => Object.keys(t.notes ?? {})))]
  return writeCsv(
    [...used.map((c) => c.name), ...notes],
    throws.map((t) => [
      ...used.map((c) => (t[c.key] === undefined ? '' : String(t[c.key]))),
      ...notes.map((n) => t.notes?.[n] ?? ''),
    ]),
  )
}
