import { PATH_RANGE } from '../throw/ranges.ts'
import type { RecordedPath } from '../throw/recordedPath.ts'
import { numberColumn, parseCsv, Problems } from './csvCells.ts'
import type { CsvProblem } from './csvCells.ts'

export type PathRead =
  | { readonly ok: true; readonly path: RecordedPath }
  | { readonly ok: false; readonly problems: readonly CsvProblem[] }

export const PATH_COLUMNS = ['t_s', 'down_m', 'right_m', 'up_m'] as const
type PathColumn = (typeof PATH_COLUMNS)[number]
const NEEDED: readonly PathColumn[] = ['down_m', 'right_m']
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
  const cells = parseCsv(csv)
  const { header, rows } = cells
  for (const c of NEEDED)
    if (!header.includes(c)) report(1, c, `Column ${c} is missing; a path needs ${NEEDED.join(' and ')}.`)
  if (rows.length < 2) report(null, null, 'A path needs at least two points.')
  if (rows.length > MOST_POINTS)
    report(null, null, `The path has ${rows.length} points; at most ${MOST_POINTS} are read.`)
  if (problems.list.length > 0) return { ok: false, problems: problems.told() }
  const [timeS, downM, rightM, upM] = PATH_COLUMNS.map((name) =>
    numberColumn(cells, name, PATH_RANGE[name], report),
  )
  return pathOf({ t_s: timeS, down_m: downM!, right_m: rightM!, up_m: upM }, problems)
}

/** Columns of a path by their names in a file. */
export type PathColumns = Readonly<Record<PathColumn, readonly number[] | undefined>> & {
  readonly down_m: readonly number[]
  readonly right_m: readonly number[]
}

/** A path out of its columns, or what was found wrong with them. */
export function pathOf(columns: PathColumns, problems: Problems): PathRead {
  if (problems.list.length > 0) return { ok: false, problems: problems.told() }
  const { t_s: timeS, down_m: downM, right_m: veerM, up_m: upM } = columns
  return { ok: true, path: { downM, veerM, ...(upM && { upM }), ...(timeS && { timeS }) } }
}
