import type { RecordedPath } from '../rating/recorded.ts'
import { parseCsv, Problems, short, writtenNumber } from './csvCells.ts'
import type { CsvProblem } from './csvCells.ts'

export type PathRead =
  | { readonly ok: true; readonly path: RecordedPath }
  | { readonly ok: false; readonly problems: readonly CsvProblem[] }

const COLUMNS = ['t_s', 'down_m', 'right_m', 'up_m'] as const
type Column = (typeof COLUMNS)[number]
const NEEDED: readonly Column[] = ['down_m', 'right_m']
/** A flight is not further away, nor longer in the air. */
const RANGE: Record<Column, readonly [number, number]> = {
  t_s: [-1, 30],
  down_m: [-20, 320],
  right_m: [-160, 160],
  up_m: [-20, 80],
}
const MOST_POINTS = 10_000
const MOST_PROBLEMS = 50

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
  const column = (name: Column): number[] | undefined => {
    const at = header.indexOf(name)
    if (at < 0) return undefined
    const [low, high] = RANGE[name]
    return rows.map((cells, i) => {
      const cell = cells[at] ?? ''
      const value = writtenNumber(cell) ?? Number.NaN
      if (!(value >= low && value <= high))
        report(i + 2, name, `${name} is “${short(cell)}”; it must be a number from ${low} to ${high}.`)
      return value
    })
  }
  const [timeS, downM, veerM, upM] = COLUMNS.map(column)
  if (problems.list.length > 0) return { ok: false, problems: problems.told() }
  return {
    ok: true,
    path: { downM: downM!, veerM: veerM!, ...(upM && { upM }), ...(timeS && { timeS }) },
  }
}
