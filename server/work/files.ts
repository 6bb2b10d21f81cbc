import type { Remote } from 'comlink'
import type { CsvProblem } from '../../core/formats/csvCells.ts'
import type { ShelfLine } from '../../core/formats/shelfCsv.ts'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import type { FileWork } from './files.worker.ts'
import { Thread } from './thread.ts'

/** Lines handed over at a time, so that nobody waits behind a long file. */
const AT_ONCE = 500

type Read<T> =
  | { readonly ok: true; readonly lines: readonly T[] }
  | { readonly ok: false; readonly problems: readonly CsvProblem[] }

/** Reads files in a thread of its own, so that nobody waits behind it. */
export class Files {
  readonly #thread = new Thread<FileWork>(new URL('./files.worker.mjs', import.meta.url))

  throws(csv: string): Promise<Read<SheetThrow>> {
    return this.#read((work) => work.throws(csv))
  }
  discs(csv: string): Promise<Read<ShelfLine>> {
    return this.#read((work) => work.discs(csv))
  }

  stop(): Promise<void> {
    return this.#thread.stop()
  }

  async #read<T>(ask: (work: Remote<FileWork>) => ReturnType<Remote<FileWork>['throws']>): Promise<Read<T>> {
    return await this.#thread.asked(async (work): Promise<Read<T>> => {
      const came = await ask(work)
      if (!came.ok) return came
      const lines: T[] = []
      while (lines.length < came.lines)
        lines.push(...((await work.lines(came.file, lines.length, lines.length + AT_ONCE)) as T[]))
      return { ok: true, lines }
    })
  }
}
