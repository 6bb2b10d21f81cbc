import type { SheetThrow } from '../../core/throw/sheetThrow.ts'

/** Lines of the sheet as a worker is told of them: by number, and in full only those it has not heard before. */
export interface Lines {
  readonly numbers: readonly number[]
  readonly fresh: readonly (readonly [number: number, line: SheetThrow])[]
}

const ofLine = new WeakMap<SheetThrow, number>()
const ofContent = new Map<string, number>()

/** The number of a line: lines that say the same have the same, so that a long trial is compared by its numbers. */
export function numberOf(line: SheetThrow): number {
  const known = ofLine.get(line)
  if (known !== undefined) return known
  const content = JSON.stringify(line)
  const number = ofContent.get(content) ?? ofContent.size
  ofContent.set(content, number)
  ofLine.set(line, number)
  return number
}

/** What one worker has been told. */
export class Told {
  readonly #told = new Set<number>()

  /** Lines for the worker; to be sent in the order in which they are asked for. */
  lines(sheet: readonly SheetThrow[]): Lines {
    const fresh: (readonly [number, SheetThrow])[] = []
    const numbers = sheet.map((line) => {
      const number = numberOf(line)
      if (!this.#told.has(number)) {
        this.#told.add(number)
        fresh.push([number, line])
      }
      return number
    })
    return { numbers, fresh }
  }
}

/** What a worker has heard: the other end of {@link Told}. */
export class Heard {
  readonly #lines = new Map<number, SheetThrow>()

  /** @throws RangeError when a line was never told */
  sheet({ numbers, fresh }: Lines): SheetThrow[] {
    for (const [number, line] of fresh) this.#lines.set(number, line)
    return numbers.map((number) => {
      const line = this.#lines.get(number)
      if (!line) throw new RangeError(`line ${number} of the sheet was never told`)
      return line
    })
  }
}
