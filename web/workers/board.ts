import { at } from '../../contract/api.ts'
import { useEffect, useMemo, useState } from 'react'
import type { Board } from '../../contract/rotation.ts'
import { useReadWhile } from '../data/hooks.ts'
import { useWaiting } from '../data/outbox.ts'
import { boardOver, lanesOver } from '../data/overlay.ts'
import { useAsked } from '../data/useAsked.ts'
import { askBoard, keyOf } from './rotation.ts'

/** The board, with what waits on this device laid over it and its lanes worked out anew for that. */
export function useBoard() {
  const { data, error } = useReadWhile(at('GET /api/rotation'), (b) => b.weighing)
  const waiting = useWaiting()
  // what changes later is worked out at once: the worker is there by then, and knows the board
  useEffect(() => {
    if (data) askBoard(data, async () => {}).catch(() => {})
  }, [data])
  const over = useMemo(() => data && boardOver(data, waiting), [data, waiting])
  const anew = useMemo(() => (data && over ? changesOf(data, over) : null), [data, over])
  const lanes = useAsked(
    anew && anew.key,
    () => askBoard(data!, (w, key) => w.after(key, anew!.discs, over!.jobs, anew!.keep)),
    { about: 'board' },
  )
  const settled = anew === null ? over?.lanes : lanes.working ? undefined : lanes.value
  // until new lanes are worked out those that are shown stay: a row that went and came would take the hand that holds it along
  const [shown, setShown] = useState(settled)
  if (settled !== undefined && settled !== shown) setShown(settled)
  const board = useMemo(
    () => over && { ...over, lanes: settled ?? lanesOver(shown ?? over.lanes, over.discs) },
    [over, settled, shown],
  )
  return { board, error: error ?? lanes.error, base: data }
}

/** What of a board is otherwise than when its lanes were worked out; null where nothing is. */
function changesOf(base: Board, over: Board) {
  const { discs = [], jobs = [] } = over.changed ?? {}
  if (discs.length === 0 && jobs.length === 0) return null
  const ids = new Set(discs)
  const rows = over.discs.filter((d) => ids.has(d.id))
  return {
    key: JSON.stringify([keyOf(base), rows, over.jobs]),
    discs: rows,
    keep: new Set(over.jobs.map((j) => j.id).filter((id) => !jobs.includes(id))),
  }
}

/** How surely some discs do each job now, worked out on the device: job, then disc. */
export function useDoes(
  base: Board | undefined,
  board: Board | undefined,
  discIds: readonly string[],
): ReadonlyMap<string, ReadonlyMap<string, number>> | undefined {
  const changed = useMemo(() => {
    const ids = new Set(board?.changed?.discs)
    return board?.discs.filter((d) => ids.has(d.id)) ?? []
  }, [board])
  const key = base && board ? JSON.stringify([keyOf(base), changed, board.jobs, discIds]) : null
  const does = useAsked(
    key,
    () => askBoard(base!, (w, told) => w.does(told, changed, discIds, board!.jobs)),
    { about: 'does' },
  )
  return does.value
}
