import { DISC_CLASS_WORDS } from '../../core/shelf/kinds.ts'
import { millisecondsInDay } from 'date-fns/constants'
import { boundsOf } from '../../core/judge/words.ts'
import { WEAR_STATES } from '../../contract/shelf.ts'
import { PAGE_SIZE, sideOfRow, stabilityOf } from '../../contract/shelfPage.ts'
import type { DiscRecord, ShelfPage, ShelfQuery, ShelfRow } from '../../contract/shelfPage.ts'
import type { z } from 'zod'
import { gramsOf, shelved } from '../../contract/sheet.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'

/**
 * The shelf as this device knows it, found, filtered and sorted as the server does it: for when the server is away, and for
 * what waits to be sent to it.
 */

type Query = z.infer<typeof ShelfQuery>

/** What is remembered of a disc besides what it is: its rating and throws as the server last said. */
type Remembered = Pick<ShelfRow, 'rating' | 'throws' | 'lastThrownAt'>
const NEVER_SEEN: Remembered = { rating: null, throws: 0, lastThrownAt: null }

export const rowHere = (d: ShelvedDisc, remembered: Remembered | undefined): ShelfRow => ({
  disc: d.disc,
  maker: d.maker,
  mold: d.mold,
  plastic: d.plastic,
  run: d.run,
  ...(remembered ?? NEVER_SEEN),
})

const stabilityHere = (row: ShelfRow): number => {
  const { turn, fade } = shelved(row).inForce.numbers
  return row.rating ? stabilityOf(row.rating).value : turn + fade
}

/** Whether a disc is among those asked for. */
export function matches(row: ShelfRow, q: Query, now: number): boolean {
  const { disc, maker, mold, plastic, run } = row
  if ((disc.removedAt !== null) !== (q.removed !== undefined)) return false
  const text = [
    ...[disc.code, maker.name, mold.name, plastic.name, run?.name ?? ''],
    ...[disc.wear, DISC_CLASS_WORDS[mold.discClass], disc.provenance],
  ]
    .join(' ')
    .toLowerCase()
  if (
    !q.find
      .toLowerCase()
      .split(/\s+/)
      .every((word) => text.includes(word))
  )
    return false
  if (q.class !== undefined && mold.discClass !== q.class) return false
  if (q.plastic !== undefined && plastic.name !== q.plastic) return false
  if (q.wear !== undefined && disc.wear !== q.wear) return false
  if (q.word !== undefined) {
    const { low, high } = boundsOf(q.word)
    const s = stabilityHere(row)
    if (!(s >= low && s < high)) return false
  }
  if (q.tested !== undefined && row.throws > 0 !== (q.tested === 'yes')) return false
  if (q.age === undefined) return true
  return row.lastThrownAt !== null && now - Date.parse(row.lastThrownAt) > q.age * millisecondsInDay
}

type Key = string | number | null
/** What a line is sorted by, the first first. */
function keysOf(row: ShelfRow, sort: Query['sort']): readonly Key[] {
  const { disc, maker, mold, plastic, run } = row
  switch (sort) {
    case 'code':
      return [disc.code]
    case 'numbers': {
      const { speed, turn, fade } = shelved(row).inForce.numbers
      return [speed, turn + fade]
    }
    case 'weight':
      return [gramsOf(disc)]
    case 'wear':
      return [WEAR_STATES.indexOf(disc.wear)]
    case 'stability':
      return [sideOfRow(row, shelved(row).inForce.numbers)]
    case 'throws':
      return [row.throws]
    case 'last':
      return [row.lastThrownAt]
    case 'kin':
      return [maker.name, mold.name, plastic.name, run?.name ?? '']
  }
}

const people = new Intl.Collator('en', { sensitivity: 'base', numeric: false })
const compared = (a: Key, b: Key): number =>
  typeof a === 'string' && typeof b === 'string' ? people.compare(a, b) : Number(a) - Number(b)

/** Lines in the order asked for; what has nothing to be sorted by comes last. */
export function sorted(rows: readonly ShelfRow[], { sort, down }: Query): ShelfRow[] {
  const way = down === undefined ? 1 : -1
  return [...rows].sort((a, b) => {
    const [x, y] = [keysOf(a, sort), keysOf(b, sort)]
    for (let i = 0; i < x.length; i++) {
      const [p, q] = [x[i]!, y[i]!]
      if (p === null || q === null) {
        if (p !== q) return p === null ? 1 : -1
        continue
      }
      const by = way * compared(p, q)
      if (by !== 0) return by
    }
    return people.compare(a.disc.code, b.disc.code)
  })
}

/** A page of the shelf made on this device. */
export function pageHere(
  discs: readonly ShelvedDisc[],
  remembered: ReadonlyMap<string, Remembered>,
  q: Query,
  now: number,
): ShelfPage {
  const rows = discs.map((d) => rowHere(d, remembered.get(d.disc.id)))
  const found = sorted(
    rows.filter((row) => matches(row, q, now)),
    q,
  )
  return {
    rows: found.slice(q.page * PAGE_SIZE, (q.page + 1) * PAGE_SIZE),
    total: found.length,
    ids: found.map((r) => r.disc.id),
    removed: rows.filter((r) => r.disc.removedAt !== null).length,
    plastics: [...new Set(rows.map((r) => r.plastic.name))].sort(people.compare),
    behind: false,
    notWeighed: [],
  }
}

/** What this device knows of a disc without its server: what it is, and nothing of its tests. */
export const recordHere = (row: ShelfRow): DiscRecord => ({
  row,
  behind: false,
  weighing: false,
  photo: false,
  inspections: [],
  wearNotes: [],
  trials: [],
  tests: [],
  throws: [],
  likeness: null,
  wear: { throws: 0, hardHits: 0, kind: 'unknown', foretold: null },
  disagreements: [],
})
