import Papa from 'papaparse'

/** What is wrong with a file, by row as a spreadsheet counts them (the header is row 1) and column. */
export interface CsvProblem {
  readonly row: number | null
  readonly column: string | null
  readonly message: string
}

/** Collects what is wrong with a file: lists the first ones, counts the others. */
export class Problems {
  readonly list: CsvProblem[] = []
  #unlisted = 0
  constructor(private readonly most = 200) {}

  readonly report = (row: number | null, column: string | null, message: string): void => {
    if (this.list.length < this.most) this.list.push({ row, column, message })
    else this.#unlisted++
  }
  /** All of it, with how many more there are. */
  told(): CsvProblem[] {
    if (this.#unlisted === 0) return this.list
    const more = `… and ${this.#unlisted} more problems like these.`
    return [...this.list, { row: null, column: null, message: more }]
  }
}

/** A file with more columns than that is none of throws or discs. */
export const MOST_COLUMNS = 500

/** Lines that are read of a file, blank ones among them: several times what may stand in one. */
const MOST_LINES = 100_000

/** What no file or database holds as text: NUL, and halves of characters. */
const UNSTORABLE = /[\0\p{Surrogate}]/u
/** Whether a text can be stored as it is. */
export const storable = (text: string): boolean => !UNSTORABLE.test(text)

/**
 * What is wrong with a file before its columns are looked at: far too many of them, or a cell that no text can be.
 *
 * @returns whether it can be read on
 */
export function readable(
  csv: string,
  { header, rows }: ReturnType<typeof parseCsv>,
  report: Problems['report'],
): boolean {
  if (header.length > MOST_COLUMNS) {
    report(1, null, `The file has ${header.length} columns; at most ${MOST_COLUMNS} are read.`)
    return false
  }
  if (storable(csv)) return true
  for (const [i, cells] of [header, ...rows].entries())
    for (const [at, cell] of cells.entries())
      if (!storable(cell))
        report(
          i + 1,
          header[at] === undefined || !storable(header[at]) ? null : header[at],
          'holds a character that is none (NUL, or half of one); take it out.',
        )
  return false
}

/** Where each column stands by its name; of a name that stands twice the first place, and the others apart. */
export function placesOf(header: readonly string[]): {
  readonly at: ReadonlyMap<string, number>
  readonly twice: ReadonlySet<number>
} {
  const at = new Map<string, number>()
  const twice = new Set<number>()
  header.forEach((name, i) => {
    if (name !== '' && at.has(name)) twice.add(i)
    else at.set(name, i)
  })
  return { at, twice }
}

/** Cells of a CSV file (UTF-8, comma, RFC 4180), the header's names trimmed, cells too. */
export function parseCsv(csv: string): {
  readonly header: readonly string[]
  readonly rows: readonly (readonly string[])[]
  readonly errors: readonly { readonly row: number | null; readonly message: string }[]
} {
  const parsed = Papa.parse<string[]>(csv.replace(/^\uFEFF/, ''), {
    delimiter: ',',
    skipEmptyLines: 'greedy',
    preview: MOST_LINES,
  })
  const more = parsed.meta.truncated
    ? [
        {
          row: null,
          message: `The file has more than ${MOST_LINES.toLocaleString('en')} lines, blank ones among them.`,
        },
      ]
    : []
  const [header = [], ...rows] = parsed.data
  return {
    header: header.map(bare),
    rows: rows.map((r) => r.map(bare)),
    errors: [
      ...more,
      ...parsed.errors.map((e) => ({
        row: e.row === undefined ? null : e.row + 1,
        message: `${e.message}.`,
      })),
    ],
  }
}

/**
 * A file of cells (UTF-8, comma, RFC 4180). A text that a spreadsheet would run as a formula is guarded by an apostrophe;
 * {@link parseCsv} takes it off again.
 */
export const writeCsv = (header: readonly string[], rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse({ fields: header.map(guarded), data: rows.map((r) => r.map(guarded)) })}\r\n`

/** Begins as a formula does, guarded already or not. */
const FORMULA = /^'*[=+\-@\t\r]/
const guarded = (cell: string): string =>
  FORMULA.test(cell) && writtenNumber(cell) === undefined ? `'${cell}` : cell
const bare = (cell: string): string => {
  const text = cell.trim()
  return text.startsWith("'") && FORMULA.test(text) ? text.slice(1) : text
}

/** A number as people write it in a file, with a point for decimals; undefined where it is none. */
export function writtenNumber(cell: string): number | undefined {
  const written = cell.replace('\u2212', '-')
  return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(written) ? Number(written) : undefined
}

/**
 * The numbers of a column, row by row; undefined where there is no such column. A cell that holds no number within the range
 * is reported, by row and column.
 */
export function numberColumn(
  { header, rows }: Pick<ReturnType<typeof parseCsv>, 'header' | 'rows'>,
  name: string,
  [low, high]: readonly [number, number],
  report: Problems['report'],
): number[] | undefined {
  const at = header.indexOf(name)
  if (at < 0) return undefined
  return rows.map((cells, i) => {
    const cell = cells[at] ?? ''
    const value = writtenNumber(cell) ?? Number.NaN
    if (!(value >= low && value <= high))
      report(i + 2, name, `${name} is “${short(cell)}”; it must be a number from ${low} to ${high}.`)
    return value
  })
}

/** A cell as a sentence quotes it. */
export const short = (s: string): string => (s.length > 40 ? `${s.slice(0, 40)}…` : s)
/** A figure as a sentence says it. */
export const plainFigure = (v: number): string => String(Math.round(v * 100) / 100).replace('-', '−')
