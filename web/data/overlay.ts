import type { DiscEntry, Shelf } from '../../contract/shelf.ts'
import type { DiscRecord } from '../../contract/shelfPage.ts'
import type { TrialFile, TrialSummary } from '../../contract/trials.ts'
import type { WriteKind, Written } from '../../contract/writes.ts'
import { isOf } from './queueStore.ts'
import type { Waiting } from './queueStore.ts'

/**
 * What waits on this device laid over what the server answered, kind by kind, in the order it was put down: a screen shows
 * what is kept, sent or not.
 */

/** Rows of a kind with those that still wait laid over them. */
export function rowsOver<K extends WriteKind>(
  kind: K,
  rows: readonly Written<K>[],
  waiting: readonly Waiting[],
  belongs: (row: Written<K>) => boolean = () => true,
): Written<K>[] {
  const byId = new Map(rows.map((r) => [r.id, r]))
  for (const w of waiting) if (isOf(w, kind) && belongs(w.body)) byId.set(w.body.id, w.body)
  return [...byId.values()]
}

/** A row with its latest waiting version laid over it; undefined where there is neither. */
export const rowOver = <K extends WriteKind>(
  kind: K,
  id: string,
  row: Written<K> | undefined,
  waiting: readonly Waiting[],
): Written<K> | undefined => rowsOver(kind, row ? [row] : [], waiting, (r) => r.id === id)[0]

/** Trials and how far they are, with trials and throws that wait. */
export function summariesOver(
  summaries: readonly TrialSummary[],
  waiting: readonly Waiting[],
): TrialSummary[] {
  const byId = new Map(summaries.map((s) => [s.trial.id, s]))
  for (const w of waiting) {
    if (isOf(w, 'trials')) {
      const before = byId.get(w.body.id)
      const rest = before ?? { counted: 0, leftOut: 0, lastThrownAt: null }
      byId.set(w.body.id, { ...rest, trial: w.body })
    }
    // a throw that was stored before is counted already
    if (!isOf(w, 'throws') || w.body.version !== 0) continue
    const of = byId.get(w.body.trialId)
    if (!of) continue
    const { counts, thrownAt } = w.body
    byId.set(w.body.trialId, {
      ...of,
      counted: of.counted + (counts ? 1 : 0),
      leftOut: of.leftOut + (counts ? 0 : 1),
      lastThrownAt: of.lastThrownAt !== null && of.lastThrownAt > thrownAt ? of.lastThrownAt : thrownAt,
    })
  }
  const isNew = (s: TrialSummary) => !summaries.some((x) => x.trial.id === s.trial.id)
  const all = [...byId.values()]
  return [...all.filter(isNew).reverse(), ...all.filter((s) => !isNew(s))]
}

/** A trial with its throws, those that wait among them; undefined where nobody has heard of it. */
export function trialOver(
  id: string,
  file: TrialFile | undefined,
  waiting: readonly Waiting[],
): TrialFile | undefined {
  const trial = rowOver('trials', id, file?.trial, waiting)
  if (!trial) return undefined
  return {
    trial,
    sessions: rowsOver('sessions', file?.sessions ?? [], waiting),
    throws: rowsOver('throws', file?.throws ?? [], waiting, (t) => t.trialId === id),
  }
}

const put = <T extends { id: string }>(rows: T[], row: T | undefined): T[] => {
  if (!row) return rows
  return rows.some((r) => r.id === row.id) ? rows.map((r) => (r.id === row.id ? row : r)) : [...rows, row]
}

/** The shelf after a disc was entered with what above it is new. */
const entered = (shelf: Shelf, entry: DiscEntry): Shelf => ({
  makers: put(shelf.makers, entry.maker),
  molds: put(shelf.molds, entry.mold),
  plastics: put(shelf.plastics, entry.plastic),
  runs: put(shelf.runs, entry.run),
  discs: put(shelf.discs, entry.disc),
})

/** One write laid over the shelf; the shelf itself where it has nothing to do with it. */
export function shelfAfter(shelf: Shelf, w: Waiting): Shelf {
  if (isOf(w, 'entries')) return entered(shelf, w.body)
  if (isOf(w, 'shelf-edits'))
    return { ...shelf, discs: w.body.discs.reduce((rows, disc) => put(rows, disc), shelf.discs) }
  if (isOf(w, 'makers')) return { ...shelf, makers: put(shelf.makers, w.body) }
  if (isOf(w, 'molds')) return { ...shelf, molds: put(shelf.molds, w.body) }
  if (isOf(w, 'plastics')) return { ...shelf, plastics: put(shelf.plastics, w.body) }
  if (isOf(w, 'runs')) return { ...shelf, runs: put(shelf.runs, w.body) }
  if (isOf(w, 'discs')) return { ...shelf, discs: put(shelf.discs, w.body) }
  return shelf
}
export const shelfOver = (shelf: Shelf, waiting: readonly Waiting[]): Shelf =>
  waiting.reduce(shelfAfter, shelf)

/** What is known of a disc with what waits of it: inspections and wear notes; its photo where one waits. */
export function recordOver(
  record: DiscRecord,
  waiting: readonly Waiting[],
): DiscRecord & { readonly photoWaiting: Written<'photos'> | undefined } {
  const { disc } = record.row
  const photoWaiting = rowOver('photos', disc.id, undefined, waiting)
  const own = (row: { readonly discId: string }) => row.discId === disc.id
  const byDay = (a: { readonly day: string }, b: { readonly day: string }) =>
    a.day < b.day ? -1 : a.day > b.day ? 1 : 0
  return {
    ...record,
    photo: photoWaiting ? photoWaiting.photo !== null : record.photo,
    photoWaiting,
    inspections: rowsOver('inspections', record.inspections, waiting, own).sort((a, b) => byDay(b, a)),
    wearNotes: rowsOver('wear-notes', record.wearNotes, waiting, own)
      .filter((n) => n.removedAt === null)
      .sort(byDay),
  }
}
