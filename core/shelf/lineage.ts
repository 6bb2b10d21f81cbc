/** What stands above a disc, and what each stands under. */
const ABOVE = { makers: null, molds: 'makerId', plastics: 'moldId', runs: 'plasticId' } as const
export type LineageLevel = keyof typeof ABOVE

interface Named {
  readonly id: string
  readonly name: string
}
/** Makers, their molds, the plastics of those and the runs of those. */
export interface LineageTables {
  makers: Named[]
  molds: (Named & { readonly makerId: string })[]
  plastics: (Named & { readonly moldId: string })[]
  runs: (Named & { readonly plasticId: string })[]
}

/** Whether two names are the same to people: case, accents and spaces around it aside. */
export const sameName = (a: string, b: string): boolean =>
  a.trim().localeCompare(b.trim(), 'en', { sensitivity: 'base' }) === 0

/**
 * Finds or makes makers, molds, plastics and runs by their names. What was made or changed comes before what is on the shelf;
 * the shelf itself stays as it is.
 */
export class Lineage<T extends LineageTables> {
  /** Rows that are new or changed, the first first. */
  readonly made: { readonly [K in LineageLevel]: T[K][number][] } = {
    makers: [],
    molds: [],
    plastics: [],
    runs: [],
  }
  constructor(private readonly shelf: Pick<T, LineageLevel>) {}

  /** @param above id of what it stands under; null for a maker */
  find<K extends LineageLevel>(of: K, above: string | null, name: string): T[K][number] | undefined {
    const key = ABOVE[of]
    const own = (row: Named) =>
      sameName(row.name, name) && (key === null || (row as unknown as Record<string, unknown>)[key] === above)
    return this.made[of].find(own) ?? (this.shelf[of] as T[K][number][]).find(own)
  }

  /** Puts a row down as new or changed. */
  put<K extends LineageLevel>(of: K, row: T[K][number]): void {
    const at = this.made[of].findIndex((r) => r.id === row.id)
    if (at >= 0) this.made[of][at] = row
    else this.made[of].push(row)
  }

  findOrMake<K extends LineageLevel>(
    of: K,
    above: string | null,
    name: string,
    make: () => T[K][number],
  ): T[K][number] {
    const known = this.find(of, above, name)
    if (known) return known
    const row = make()
    this.put(of, row)
    return row
  }

  /** Whether the shelf had a row of this id before, whatever became of it. */
  holds<K extends LineageLevel>(of: K, id: string): boolean {
    return this.shelf[of].some((r) => r.id === id)
  }
}
