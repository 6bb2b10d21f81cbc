// Keeps the ratings of the shelf, away from the thread that answers requests: a few more throws follow what all the others say;
// whatever else has changed has everything weighed again.
import type { Evidence } from '../../core/rating/evidence.ts'
import { follow, ratingAfter } from '../../core/rating/follow.ts'
import { evidenceOf } from '../../core/rating/fromSheet.ts'
import { shelved } from '../../contract/sheet.ts'
import { connect } from '../store/database.ts'
import type { Database, Queryable } from '../store/database.ts'
import {
  ratingRow,
  readControls,
  readRatedSessions,
  readThrows,
  readUnweighed,
  storeRatings,
} from '../store/ratings.ts'
import type { RatingRow } from '../store/ratings.ts'
import { readShelfRows } from '../store/shelfPage.ts'
import { readThrowers } from '../store/trials.ts'
import { shelfSheet } from './shelfSheet.ts'
import type { ShelfFitWork, ShelfWeighed } from './shelfFit.worker.ts'
import { Thread } from './thread.ts'
import { answers } from './answering.ts'

/** So many throws follow what all the others say; with more, everything is weighed again. */
const FOLLOWING = 120
/** A rating that has moved less is left as it is, in standard deviations. */
const MOVED = 2e-3

const fitting = new Thread<ShelfFitWork>(new URL('./shelfFit.worker.mjs', import.meta.url), 0)
/** What everything says, and the throws written since. */
let last: ShelfWeighed | undefined
const since = new Set<string>()
/** Discs whose stored ratings are not those of `last`. */
let moved = new Set<string>()

let connected: { readonly url: string; readonly db: Database } | undefined
const databaseAt = (url: string): Database =>
  (connected?.url === url ? connected : (connected = { url, db: connect(url, 1).db })).db

/** One after the other: each stores what it has found. */
let queue: Promise<unknown> = Promise.resolve()
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const turn = queue.then(work, work)
  queue = turn.catch(() => {})
  return turn
}

/** Throws written since everything was weighed; undefined where what was weighed is no longer so. */
async function newThrows(db: Queryable, { versions }: ShelfWeighed) {
  const fresh = []
  for (const row of await readThrows(db, [...since])) {
    const before = versions.get(row.id)
    if (before === row.version) since.delete(row.id)
    else if (before !== undefined) return undefined
    else if (row.takenBackAt === null) fresh.push(row)
  }
  return fresh
}

type Thrown = NonNullable<Awaited<ReturnType<typeof newThrows>>>

/** Some throws with what they touch, as evidence. */
async function evidenceFor(
  db: Queryable,
  thrown: Thrown,
): Promise<{ more: Evidence; idOf: Map<string, string> }> {
  const ids = <K extends 'discId' | 'sessionId'>(key: K) => [...new Set(thrown.map((t) => t[key]))]
  const [rows, held, people, tried] = await Promise.all([
    readShelfRows(db, ids('discId')),
    readRatedSessions(db, ids('sessionId')),
    readThrowers(db),
    readControls(db, ids('discId')),
  ])
  const { sheet, discs: known, idOf } = shelfSheet(rows.map(shelved), thrown, held, people, tried)
  return {
    more: evidenceOf(
      sheet.filter((t) => t.counts),
      known,
    ),
    idOf,
  }
}

/** Ratings of everything by disc, as rows. */
const rowsOf = ({ ratings: all, idOf }: ShelfWeighed): Map<string, RatingRow> =>
  new Map(all.map((d) => [idOf.get(d.disc)!, ratingRow(idOf.get(d.disc)!, d)]))

/** What the throws written since change of it; undefined where they cannot follow it. */
async function changesOf(db: Queryable, weighed: ShelfWeighed) {
  const thrown = since.size === 0 ? [] : await newThrows(db, weighed)
  if (!thrown || thrown.length > FOLLOWING) return undefined
  if (thrown.length === 0) return { rows: new Map<string, RatingRow>(), notWeighed: [] }
  const { more, idOf } = await evidenceFor(db, thrown)
  const { discs: followed, leftOut } = follow(weighed.base, more)
  const rows = followed
    .filter((d) => d.moved > MOVED)
    .map((d) => {
      const id = weighed.idOf.get(d.disc.id) ?? idOf.get(d.disc.id)!
      return [id, ratingRow(id, ratingAfter(weighed.base, d))] as const
    })
  const thrownById = new Map(thrown.map((t) => [t.id, t]))
  const codeOf = new Map([...idOf].map(([code, id]) => [id, code]))
  return {
    rows: new Map(rows),
    notWeighed: leftOut.map(({ throw: throwId, why }) => {
      const { trialId, discId } = thrownById.get(throwId)!
      return { throwId, trialId, discId, code: codeOf.get(discId)!, why }
    }),
  }
}

/** What came of a rating. */
export interface ShelfRated {
  /** Whether the ratings show all that was written; if not, everything has to be weighed again. */
  readonly all: boolean
}

/** What the database has noted that the ratings do not show; throws among it are remembered. */
async function noted(db: Database, which: 'throws' | 'all'): Promise<number[]> {
  const rows = await readUnweighed(db, which)
  for (const { throwId } of rows) if (throwId !== null) since.add(throwId)
  return rows.map((r) => r.id)
}

const work = {
  /**
   * Weighs everything, as it is by now.
   *
   * @param url address of the database
   * @param keeper who keeps the shelf
   */
  async weigh(url: string, keeper: string): Promise<ShelfRated> {
    const db = databaseAt(url)
    // before anything is read: of what is written meanwhile nobody says that it is shown
    const before = await noted(db, 'all')
    const came = await fitting.asked((fit) => fit.weigh(url, last?.digest))
    return inTurn(async () => {
      last = came ?? last!
      const changes = await changesOf(db, last)
      await storeRatings(db, {
        keeper,
        gone: 'all',
        rows: [...new Map([...rowsOf(last), ...(changes?.rows ?? [])]).values()],
        notWeighed: [...last.notWeighed, ...(changes?.notWeighed ?? [])],
        ...(came && { besides: came }),
        shown: changes ? before : [],
      })
      moved = new Set(changes?.rows.keys())
      return { all: changes !== undefined }
    })
  },

  /**
   * Lets throws that were written follow what everything else says.
   *
   * @param url address of the database
   * @param keeper who keeps the shelf
   */
  async follow(url: string, keeper: string): Promise<ShelfRated> {
    const db = databaseAt(url)
    return inTurn(async () => {
      const shown = await noted(db, 'throws')
      const changes = last && (await changesOf(db, last))
      if (!last || !changes) return { all: false }
      const back = [...moved].filter((id) => !changes.rows.has(id))
      const before = back.length > 0 ? rowsOf(last) : new Map<string, RatingRow>()
      await storeRatings(db, {
        keeper,
        gone: [...changes.rows.keys(), ...back],
        rows: [...changes.rows.values(), ...back.flatMap((id) => before.get(id) ?? [])],
        notWeighed: [...last.notWeighed, ...changes.notWeighed],
        shown,
      })
      moved = new Set(changes.rows.keys())
      return { all: true }
    })
  },
}

export type ShelfWork = typeof work
answers(work)
