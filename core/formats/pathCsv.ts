import type { RecordedPath } from '../rating/recorded.ts'
import { parseCsv, Problems, short, writtenNumber } from './csvCells.ts'
import type { CsvProblem } from './csvCells.ts'

export type PathRead =
  | { readonly ok: true; readonly path: RecordedPath }
  | { readonly ok: false; readonly problems: readonly CsvProblem[] }

const COLUMNS = ['t_s', 'down_m', 'right_m', 'up_m'] as const
export type PathColumn = (typeof COLUMNS)[number]
const NEEDED: readonly PathColumn[] = ['down_m', 'right_m']
/** A flight is not further away, nor longer in the air. */
const RANGE: Record<PathColumn, readonly [number, number]> = {
  t_s: [-1, 30],
  down_m: [-20, 320],
  right_m: [-160, 160],
  up_m: [-20, 80],
}
export const MOST_POINTS = 10_000
export const MOST_PROBLEMS = 50

/**
 * Reads a recorded path from CSV: a point a row under `t_s, down_m, right_m, up_m`, seconds since release and metres from
 * the tee along, right of and above the aim line. Times and heights may be missing as columns, not in single rows; other
 * columns are passed over.
 *
 * @returns the path with sides to the thrower's right, or every problem
 */
export function readPathCsv(csv: string): PathRead {
  const problems = new Problems(MOST_PROBLEMS)
  const { report } = problems
  const { header, rows } = parseCsv(csv)
  for (const c of NEEDED)
    if (!header.includes(c)) report(1, c, `Column ${c} is missing; a path needs ${NEEDED.join(' and ')}.`)
  if (rows.length < 2) report(null, null, 'A path needs at least two points.')
  if (rows.length > MOST_POINTS)
    report(null, null, `The path has ${rows.length} points; at most ${MOST_POINTS} are read.`)
  if (problems.list.length > 0) return { ok: false, problems: problems.told() }
  const column = (name: PathColumn): readonly number[] | undefined => {
    const at = header.indexOf(name)
    return at < 0 ? undefined : rows.map((cells) => writtenNumber(cells[at] ?? '') ?? Number.NaN)
  }
  const written = (name: PathColumn, i: number) => short(rows[i]![header.indexOf(name)] ?? '')
  const [timeS, downM, rightM, upM] = COLUMNS.map(column)
  const columns = { t_s: timeS, down_m: downM!, right_m: rightM!, up_m: upM }
  return checkedPath(columns, problems, (name, i, range) =>
    report(i + 2, name, `${name} is “${written(name, i)}”; it must be a number ${range}.`),
  )
}

/**
 * A path out of columns that were read, if every value lies where a flight can be.
 *
 * @param outside says what is wrong with the value of a column in a row
 */
export function checkedPath(
  columns: Readonly<Record<PathColumn, readonly number[] | undefined>> & {
    readonly down_m: readonly number[]
    readonly right_m: readonly number[]
  },
  problems: Problems,
  outside: (column: PathColumn, row: number, range: string) => void,
): PathRead {
  for (const name of COLUMNS) {
    const [low, high] = RANGE[name]
    columns[name]?.forEach((value, i) => {
      if (!(value >= low && value <= high)) outside(name, i, `from ${low} to ${high}`)
    })
  }
  if (problems.list.length > 0) return { ok: false, problems: problems.told() }
  const { t_s: timeS, down_m: downM, right_m: veerM, up_m: upM } = columns
  return { ok: true, path: { downM, veerM, ...(upM && { upM }), ...(timeS && { timeS }) } }
}
