import { useCallback, useEffect, useRef } from 'react'
import type { Sent, WriteKind, Written } from '../../contract/writes.ts'
import { outbox } from './outbox.ts'

/**
 * Changes rows part by part: of a row that is changed in two ways at once neither change is lost, whichever of them this page has
 * drawn yet.
 *
 * @param rows as they are drawn, what waits laid over them
 * @returns changes a row in the parts that are named; stores all of it where none is
 */
export function useChanges<K extends WriteKind>(kind: K, rows: readonly Written<K>[]) {
  const latest = useRef<ReadonlyMap<string, Written<K>>>(new Map())
  const underWay = useRef(0)
  useEffect(() => {
    // while something is on its way to the queue, what is drawn is older than what is known here
    if (underWay.current === 0) latest.current = new Map(rows.map((r) => [r.id, r]))
  }, [rows])
  return useCallback(
    (row: Written<K>, parts: readonly (keyof Written<K>)[] = []) => {
      const known = latest.current.get(row.id)
      const next: Written<K> =
        known && parts.length > 0
          ? { ...known, ...Object.fromEntries(parts.map((part) => [part, row[part]])) }
          : row
      latest.current = new Map(latest.current).set(row.id, next)
      underWay.current++
      void outbox.put(kind, next as unknown as Sent<K>).finally(() => underWay.current--)
    },
    [kind],
  )
}
