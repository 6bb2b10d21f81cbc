// Reads files of throws and discs, away from the thread that answers requests.
import type { CsvProblem } from '../../core/formats/csvCells.ts'
import { readShelfCsv } from '../../core/formats/shelfCsv.ts'
import type { ShelfLine } from '../../core/formats/shelfCsv.ts'
import { readThrowsCsv } from '../../core/formats/throwsCsv.ts'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import { answers } from './answering.ts'

/** What a file came to: how many lines it holds, or what is wrong with it. */
type Came =
  | { readonly ok: true; readonly lines: number }
  | { readonly ok: false; readonly problems: readonly CsvProblem[] }

let next = 1
/** Files read whose lines have not been fetched yet. */
const read = new Map<number, readonly (SheetThrow | ShelfLine)[]>()
const held = (lines: readonly (SheetThrow | ShelfLine)[]): Came & { readonly file: number } => {
  read.set(next, lines)
  return { ok: true, lines: lines.length, file: next++ }
}
const none = (problems: readonly CsvProblem[]): Came & { readonly file: number } => ({
  ok: false,
  problems,
  file: 0,
})

const work = {
  throws(csv: string) {
    const came = readThrowsCsv(csv)
    return came.ok ? held(came.throws) : none(came.problems)
  },
  discs(csv: string) {
    const came = readShelfCsv(csv)
    return came.ok ? held(came.lines) : none(came.problems)
  },
  /** Some lines of a file that was read; with the last of them it is let go. */
  lines(file: number, from: number, to: number): readonly (SheetThrow | ShelfLine)[] {
    const all = read.get(file)!
    if (to >= all.length) read.delete(file)
    return all.slice(from, to)
  },
}

export type FileWork = typeof work
answers(work)
