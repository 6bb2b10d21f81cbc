import { group, sum } from 'd3'
import { format } from 'date-fns'
import { FULL_POWER_FROM } from '../../core/plan/armLoad.ts'
import { LATELY_DAYS, lifeOf } from '../../core/rotation/life.ts'
import type { WearNote } from '../../contract/inspection.ts'
import { isAtHand, namedJob } from '../../contract/rotation.ts'
import type { Board } from '../../contract/rotation.ts'
import type { DiscEntry, Shelf } from '../../contract/shelf.ts'
import type { DiscRecord } from '../../contract/shelfPage.ts'
import type { ArmDay, TrialFile, TrialSummary } from '../../contract/trials.ts'
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

/**
 * What arms threw by day, with throws that wait: a run without a network is as long as any.
 *
 * @param since the first day asked for
 */
export function armDaysOver(days: readonly ArmDay[], waiting: readonly Waiting[], since: string): ArmDay[] {
  const outings = new Map(waiting.flatMap((w) => (isOf(w, 'sessions') ? [[w.body.id, w.body.day]] : [])))
  const all = new Map(days.map((d) => [`${d.throwerId} ${d.day}`, d]))
  const fresh = new Map(
    waiting.flatMap((w) => (isOf(w, 'throws') && w.body.version === 0 ? [[w.body.id, w.body] as const] : [])),
  )
  for (const { throwerId, sessionId, thrownAt, power, takenBackAt } of fresh.values()) {
    const day = outings.get(sessionId) ?? format(thrownAt, 'yyyy-MM-dd')
    if (takenBackAt !== null || day < since) continue
    const was = all.get(`${throwerId} ${day}`) ?? { throwerId, day, throws: 0, fullPower: 0 }
    all.set(`${throwerId} ${day}`, {
      ...was,
      throws: was.throws + 1,
      fullPower: was.fullPower + (power >= FULL_POWER_FROM ? 1 : 0),
    })
  }
  return [...all.values()]
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
    ...(file?.worn && { worn: file.worn }),
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

/** What is known of a disc with inspections and wear notes that wait of it. */
export function recordAfter(record: DiscRecord, waiting: readonly Waiting[]): DiscRecord {
  const { disc } = record.row
  const own = (row: { readonly discId: string }) => row.discId === disc.id
  const byDay = (a: { readonly day: string }, b: { readonly day: string }) =>
    a.day < b.day ? -1 : a.day > b.day ? 1 : 0
  const wearNotes = rowsOver('wear-notes', record.wearNotes, waiting, own)
    .filter((n) => n.removedAt === null)
    .sort(byDay)
  // what was noted is counted by the server; what waits is counted here
  const more = (part: 'throws' | 'hardHits') =>
    sum(wearNotes, (n) => n[part]) - sum(record.wearNotes, (n) => n[part])
  return {
    ...record,
    inspections: rowsOver('inspections', record.inspections, waiting, own).sort((a, b) => byDay(b, a)),
    wearNotes,
    wear: {
      ...record.wear,
      throws: record.wear.throws + more('throws'),
      hardHits: record.wear.hardHits + more('hardHits'),
    },
  }
}

/** The same, and its photo where one waits. */
export function recordOver(
  record: DiscRecord,
  waiting: readonly Waiting[],
): DiscRecord & { readonly photoWaiting: Written<'photos'> | undefined } {
  const photoWaiting = rowOver('photos', record.row.disc.id, undefined, waiting)
  return {
    ...recordAfter(record, waiting),
    photo: photoWaiting ? photoWaiting.photo !== null : record.photo,
    photoWaiting,
  }
}

/** What waits changes of what each disc has been through: throws that were logged, and what was noted. */
function usedSince(board: Board, noted: readonly WearNote[], waiting: readonly Waiting[]) {
  const more = new Map<string, { throws: number; hardHits: number }>()
  const add = (discId: string, throws: number, hardHits: number) => {
    const sum = more.get(discId) ?? { throws: 0, hardHits: 0 }
    more.set(discId, { throws: sum.throws + throws, hardHits: sum.hardHits + hardHits })
  }
  if (waiting.some((w) => isOf(w, 'wear-notes'))) {
    for (const n of board.noted) add(n.discId, -n.throws, -n.hardHits)
    for (const n of noted) add(n.discId, n.throws, n.hardHits)
  }
  // a throw that was stored before is counted already
  for (const w of waiting)
    if (isOf(w, 'throws') && w.body.version === 0 && w.body.takenBackAt === null) add(w.body.discId, 1, 0)
  return more
}

/** Lanes as they were worked out, of discs as they are by now: without those that are gone, under the job each is carried for. */
export function lanesOver(lanes: Board['lanes'], discs: Board['discs']): Board['lanes'] {
  const byId = new Map(discs.map((d) => [d.id, d]))
  return lanes.map(({ jobId, discs: on }) => ({
    jobId,
    discs: on
      .filter((d) => isAtHand(byId.get(d.discId) ?? { state: 'lost' }))
      .map((d) => ({ ...d, assigned: byId.get(d.discId)?.jobId === jobId })),
  }))
}

/** The board with what waits laid over it; it says what of it has changed, for its lanes to be worked out anew. */
export function boardOver(board: Board, waiting: readonly Waiting[]): Board {
  const jobs = rowsOver('jobs', board.jobs, waiting)
    .filter((j) => j.removedAt === null)
    .sort((a, b) => a.rank - b.rank)
  const events = rowsOver('disc-events', board.events, waiting)
    .filter((e) => e.removedAt === null)
    // in the order it happened, whenever it was noted
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0))
  const noted = rowsOver('wear-notes', board.noted, waiting).filter((n) => n.removedAt === null)
  const plastics = new Map(rowsOver('plastic-wear', [], waiting).map((p) => [p.id, p]))
  const used = usedSince(board, noted, waiting)
  const eventsOf = group(events, (e) => e.discId)
  const changed = new Set(board.changed?.discs)
  const discs = board.discs.map((d) => {
    const { kind, outOfMake } = plastics.get(d.plasticId) ?? d
    const more = used.get(d.id) ?? { throws: 0, hardHits: 0 }
    const now = {
      ...d,
      kind,
      outOfMake,
      throws: d.throws + more.throws,
      hardHits: d.hardHits + more.hardHits,
      aDay: Math.max(0, d.aDay + more.throws / LATELY_DAYS),
      ...lifeOf(eventsOf.get(d.id) ?? []),
    }
    // how a plastic is believed to wear shows on discs that are on a lane
    const isOnBoard = now.tests.length > 0 || now.jobId !== null
    const isOtherwise =
      more.throws !== 0 ||
      more.hardHits !== 0 ||
      now.jobId !== d.jobId ||
      isAtHand(now) !== isAtHand(d) ||
      (kind !== d.kind && isOnBoard)
    if (isOtherwise) changed.add(d.id)
    return now
  })
  const lanes = lanesOver(board.lanes, discs)
  const before = new Map(board.jobs.map((j) => [j.id, JSON.stringify(namedJob(j))]))
  const otherJobs = jobs.filter((j) => before.get(j.id) !== JSON.stringify(namedJob(j))).map((j) => j.id)
  return {
    ...board,
    jobs,
    events,
    noted,
    discs,
    lanes,
    changed: { discs: [...changed], jobs: [...new Set([...(board.changed?.jobs ?? []), ...otherJobs])] },
  }
}
