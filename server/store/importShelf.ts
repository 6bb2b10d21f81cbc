import { isDeepStrictEqual } from 'node:util'
import { v7 as newId } from 'uuid'
import type { ShelfLine } from '../../core/formats/shelfCsv.ts'
import { numbersWords } from '../../core/flight/disc.ts'
import { Lineage } from '../../core/shelf/lineage.ts'
import type { CsvProblem } from '../../core/formats/csvCells.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import type { ShelfImport } from '../../contract/imports.ts'
import type { Disc, Mold, PublishedNumbers, Shelf } from '../../contract/shelf.ts'
import type { Database } from './database.ts'
import { overwriteShelf, readShelf } from './shelf.ts'

type Level = 'molds' | 'plastics' | 'runs'

/** What a file of discs would write: only rows that are new or differ from what is stored. */
class ShelfPlan {
  readonly problems: CsvProblem[] = []
  readonly lineage: Lineage<Shelf>
  readonly discs: Disc[] = []
  readonly added: string[] = []
  readonly changed: string[] = []
  #told = new Map<string, { row: number; numbers: PublishedNumbers }>()

  constructor(shelf: Shelf) {
    this.lineage = new Lineage(shelf)
  }

  line(line: ShelfLine, old: ShelvedDisc | undefined): void {
    const { lineage } = this
    const maker = lineage.findOrMake('makers', null, line.maker, () => ({ id: newId(), name: line.maker }))
    const known = lineage.find('molds', maker.id, line.mold)
    const numbers = line.numbers.mold ?? known?.numbers
    const discClass = (line.class as Mold['discClass'] | undefined) ?? known?.discClass
    if (!numbers || !discClass) {
      const lacks = [!discClass && 'class', !numbers && 'speed'].filter(Boolean) as string[]
      this.problems.push({
        row: line.row,
        column: lacks[0]!,
        message: `Mold ${line.mold} is not on the shelf; a new one needs its class and its speed, glide, turn and fade.`,
      })
      return
    }
    const mold = this.#level('molds', line, known, {
      id: newId(),
      makerId: maker.id,
      name: line.mold,
      discClass,
      numbers,
    })
    const plastic = this.#level('plastics', line, lineage.find('plastics', mold.id, line.plastic), {
      id: newId(),
      moldId: mold.id,
      name: line.plastic,
      numbers: line.numbers.plastic ?? null,
      claims: [],
    })
    const run =
      line.run === undefined
        ? undefined
        : this.#level('runs', line, lineage.find('runs', plastic.id, line.run), {
            id: newId(),
            plasticId: plastic.id,
            name: line.run,
            numbers: line.numbers.run ?? null,
          })
    const was = old?.disc
    const disc: Disc = {
      id: was?.id ?? newId(),
      code: was?.code ?? line.code,
      plasticId: plastic.id,
      runId: run?.id ?? (was?.plasticId === plastic.id ? was.runId : null),
      stamped: line.numbers.stamped ?? was?.stamped ?? null,
      markedG: line.markedG ?? was?.markedG ?? null,
      weighedG: line.weighedG ?? was?.weighedG ?? null,
      source: (line.source as Disc['source'] | undefined) ?? was?.source ?? 'unknown',
      provenance: line.provenance ?? was?.provenance ?? '',
      acquiredOn: line.acquiredOn ?? was?.acquiredOn ?? null,
      wear: (line.wear as Disc['wear'] | undefined) ?? was?.wear ?? 'seasoned',
      note: line.note ?? was?.note ?? '',
      removedAt: was?.removedAt ?? null,
    }
    if (was && isDeepStrictEqual(was, { ...disc, version: was.version })) return
    this.discs.push(disc)
    ;(was ? this.changed : this.added).push(disc.code)
  }

  /** A mold, plastic or run as the file leaves it; two rows of a file must not say different numbers of one. */
  #level<T extends Mold | Shelf['plastics'][number] | Shelf['runs'][number]>(
    of: Level,
    line: ShelfLine,
    known: T | undefined,
    fresh: T,
  ): T {
    const level = { molds: 'mold', plastics: 'plastic', runs: 'run' }[of] as 'mold' | 'plastic' | 'run'
    const numbers = line.numbers[level]
    const row = known
      ? { ...known, ...(numbers && { numbers }), ...('discClass' in fresh && { discClass: fresh.discClass }) }
      : fresh
    if (numbers) {
      const first = this.#told.get(row.id)
      if (!first) this.#told.set(row.id, { row: line.row, numbers })
      else if (numbersWords(first.numbers) !== numbersWords(numbers))
        this.problems.push({
          row: line.row,
          column: level === 'mold' ? 'speed' : `${level}_speed`,
          message: `${row.name} is ${numbersWords(numbers)} here and ${numbersWords(first.numbers)} in row ${first.row}.`,
        })
    }
    if (!known || !isDeepStrictEqual(known, row)) this.lineage.put(of, row)
    return row
  }
}

/**
 * Imports a file of discs, or shows what that would do. A disc that is on the shelf by its code takes what the file
 * says and keeps what it does not say.
 *
 * @returns the problems that keep it out, or the preview; nothing is stored unless `store` is set and there is no problem
 */
export function importShelf(
  db: Database,
  lines: readonly ShelfLine[],
  store: boolean,
): Promise<CsvProblem[] | ShelfImport> {
  return db.transaction(async (tx) => {
    const shelf = await readShelf(tx)
    const byCode = new Map(shelvedDiscs(shelf).map((d) => [d.disc.code.toLowerCase(), d]))
    const plan = new ShelfPlan(shelf)
    for (const line of lines) plan.line(line, byCode.get(line.code.toLowerCase()))
    if (plan.problems.length > 0) return plan.problems
    if (store) await overwriteShelf(tx, { ...plan.lineage.made, discs: plan.discs })
    const names = (level: Level) =>
      plan.lineage.made[level].filter((x) => plan.lineage.holds(level, x.id)).map((x) => x.name)
    return {
      discs: lines.length,
      added: plan.added,
      changed: plan.changed,
      unchanged: lines.length - plan.added.length - plan.changed.length,
      renumbered: [...names('molds'), ...names('plastics'), ...names('runs')],
      stored: store,
    }
  })
}
