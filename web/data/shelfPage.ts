import { at } from '../../contract/api.ts'
import { useEffect, useMemo, useState } from 'react'
import { v7 as newId } from 'uuid'
import type { z } from 'zod'
import type { Disc } from '../../contract/shelf.ts'
import { ShelfQuery } from '../../contract/shelfPage.ts'
import type { ShelfRow, InspectedDisc, ShelfPage } from '../../contract/shelfPage.ts'
import { say } from './say.ts'
import { useRead, useShelf } from './hooks.ts'
import type { ShelfView } from './hooks.ts'
import { outbox, useWaiting } from './outbox.ts'
import { recordOver } from './overlay.ts'
import { isOf } from './queueStore.ts'
import type { Waiting } from './queueStore.ts'
import { pageHere, recordHere, rowHere } from './shelfLocal.ts'

/** While ratings are behind what was thrown, they are asked for again. */
const AGAIN_MS = 1500
const WEIGHING_MS = 300
/** Asks again until what was read is no longer behind. */
function useUntilSteady(
  data: { readonly behind: boolean; readonly weighing?: boolean } | undefined,
  again: () => Promise<unknown>,
): void {
  useEffect(() => {
    const ms = data?.weighing ? WEIGHING_MS : data?.behind ? AGAIN_MS : undefined
    if (ms === undefined) return
    let wanted = true
    const ask = () => {
      if (!wanted) return
      void again().finally(() => {
        // an answer like the one before sets nothing off
        timer = setTimeout(ask, ms)
      })
    }
    let timer = setTimeout(ask, ms)
    return () => {
      wanted = false
      clearTimeout(timer)
    }
  }, [data, again])
}

/** Ratings and throws of discs as the server last said, for pages made on this device. */
const remembered = new Map<string, ShelfRow>()
const remember = ({ rows }: ShelfPage): void => {
  for (const row of rows) remembered.set(row.disc.id, row)
}

/** Whether something waits that changes what is on the shelf. */
const changesShelf = (w: Waiting) =>
  isOf(w, 'entries', 'shelf-edits', 'makers', 'molds', 'plastics', 'runs', 'discs')

/** One page of the shelf; the one before stays while the next is on its way. */
export function useShelfPage(search: string) {
  const asked = useMemo(
    () => Object.fromEntries(new URLSearchParams(search)) as z.input<typeof ShelfQuery>,
    [search],
  )
  const { data, error, mutate } = useRead(at('GET /api/discs', asked), { keepPreviousData: true })
  useEffect(() => {
    if (data) remember(data)
  }, [data])
  useUntilSteady(data, mutate)
  const { view } = useShelf()
  const waiting = useWaiting()
  const [now] = useState(() => Date.now())
  // what waits, and what a server that is away was never asked, this device works out itself
  const own = waiting.some(changesShelf) || (error !== undefined && !data)
  const page = useMemo(() => {
    if (!own || !view) return data
    const query = ShelfQuery.safeParse(asked)
    return query.success ? pageHere(view.discs, remembered, query.data, now) : data
  }, [own, view, data, asked, now])
  return { page, error: error as Error | undefined }
}

/** The discs of the shelf that fly most like one at some arm (V₉, m/s), once that is worked out. */
export function useLikeness(id: string, armMps: number | undefined) {
  const { data, error, mutate } = useRead(
    armMps === undefined ? null : at('GET /api/discs/:id/likeness', { id }, { arm: armMps.toFixed(2) }),
  )
  useUntilSteady(data && { behind: false, weighing: data.weighing }, mutate)
  return { likeness: data?.weighing ? undefined : data?.likeness, error: error as Error | undefined }
}

/** Everything known of a disc; only what this device knows of it while the server is away. */
export type KnownDisc = ReturnType<typeof recordOver> & { readonly partly: boolean }

export function useDiscRecord(id: string): { record: KnownDisc | undefined; error: Error | undefined } {
  const { data, error, mutate } = useRead(at('GET /api/discs/:id/record', { id }))
  useUntilSteady(data, mutate)
  const { view } = useShelf()
  const waiting = useWaiting()
  const record = useMemo(() => {
    const here = view?.discs.find((d) => d.disc.id === id)
    if (data) {
      const row = here ? rowHere(here, data.row) : data.row
      return { ...recordOver({ ...data, row }, waiting), partly: false }
    }
    if (!error || !here) return undefined
    return { ...recordOver(recordHere(rowHere(here, remembered.get(id))), waiting), partly: true }
  }, [data, error, view, waiting, id])
  return { record, error: error as Error | undefined }
}

/** The latest inspection of every disc. */
export function useInspections(): readonly InspectedDisc[] {
  const { data } = useRead(at('GET /api/inspections'))
  const { view } = useShelf()
  const waiting = useWaiting()
  return useMemo(() => inspectedOver(data ?? [], view, waiting), [data, view, waiting])
}

/** The latest inspections, those that wait among them. */
function inspectedOver(
  inspected: readonly InspectedDisc[],
  view: ShelfView | undefined,
  waiting: readonly Waiting[],
): readonly InspectedDisc[] {
  const byDisc = new Map(inspected.map((i) => [i.row.disc.id, i]))
  for (const w of waiting) {
    if (!isOf(w, 'inspections')) continue
    const { discId } = w.body
    const here = view?.discs.find((d) => d.disc.id === discId)
    const row = byDisc.get(discId)?.row ?? (here && rowHere(here, remembered.get(discId)))
    if (row) byDisc.set(discId, { row, inspection: w.body })
  }
  return [...byDisc.values()]
}

const edit = (discs: readonly Disc[]) => outbox.put('shelf-edits', { id: newId(), discs: [...discs] })

/** Changes discs in one go, says so, and can take it back. */
export async function changeDiscs(
  before: readonly Disc[],
  change: Partial<Disc>,
  done: string,
): Promise<void> {
  await edit(before.map((d) => ({ ...d, ...change })))
  say(done, { label: 'Undo', run: () => void edit(before).then(() => say('It is as it was before.')) })
}
