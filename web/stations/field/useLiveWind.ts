import { at } from '../../../contract/api.ts'
import { useEffect, useRef, useState } from 'react'
import { v7 as newId } from 'uuid'
import { WindReport } from '../../../contract/devices.ts'
import type { WindLog } from '../../../contract/trials.ts'
import { alongOut } from '../../../core/throw/leg.ts'
import type { Leg } from '../../../core/throw/leg.ts'
import { windOf } from '../../../core/rating/windLog.ts'
import type { WindReading } from '../../../core/rating/windLog.ts'
import { read } from '../../data/api.ts'
import { outbox } from '../../data/outbox.ts'

/** Readings that are kept at hand, and that make one entry of the session's log. */
const AT_HAND = 900
const IN_AN_ENTRY = 60

export interface LiveWind {
  /** The newest reading as the thrower faces; undefined until there is one. */
  readonly now: { readonly alongMps: number; readonly acrossMps: number } | undefined
  /** The last two minutes of wind along, oldest first. */
  readonly recent: readonly number[]
  readonly lost: boolean
  /** What says it. */
  readonly device: string | undefined
  /** The wind of a throw that was released then, from the log. */
  readonly of: (releasedMs: number, hangS: number | null) => ReturnType<typeof windOf>
}

const RECENT = 120

/** The readings of an entry of the log, at even steps of time. */
function readingsOf({ startedAt, endedAt, alongMps, acrossMps }: WindLog): WindReading[] {
  const [from, to] = [Date.parse(startedAt) / 1000, Date.parse(endedAt) / 1000]
  const step = (to - from) / Math.max(1, alongMps.length - 1)
  return alongMps.map((along, i) => ({ atS: from + i * step, alongMps: along, acrossMps: acrossMps[i]! }))
}

/** The anemometer beside the tee, while it is listened to; the session keeps what it said. */
export function useLiveWind(
  on: boolean,
  sessionId: string,
  place: string,
  bearingDeg: number,
  leg: Leg,
): LiveWind {
  const log = useRef<WindReading[]>([])
  const entry = useRef<WindReport[]>([])
  const [last, setLast] = useState<{ report: WindReport; recent: readonly number[] }>()
  const [lost, setLost] = useState(false)
  useEffect(() => {
    if (!on) return
    log.current = []
    entry.current = []
    // what was logged before the page was opened again belongs to the outing too
    void read(at('GET /api/sessions/:id/wind', { id: sessionId })).then(
      (logs) => (log.current = [...logs.flatMap(readingsOf).slice(-AT_HAND), ...log.current]),
      () => {},
    )
    const source = new EventSource(at('GET /api/devices/anemometer', { place, bearing: bearingDeg }).path)
    const keep = () => {
      const said = entry.current
      entry.current = []
      if (said.length < 2) return
      const row: WindLog = {
        id: newId(),
        sessionId,
        startedAt: said[0]!.at,
        endedAt: said.at(-1)!.at,
        alongMps: said.map((r) => Math.round(100 * r.alongMps) / 100),
        acrossMps: said.map((r) => Math.round(100 * r.acrossMps) / 100),
      }
      void outbox.put('wind-logs', row)
    }
    source.onmessage = (e) => {
      const report = WindReport.parse(JSON.parse(e.data as string))
      log.current.push({
        atS: Date.parse(report.at) / 1000,
        alongMps: report.alongMps,
        acrossMps: report.acrossMps,
      })
      log.current = log.current.slice(-AT_HAND)
      entry.current.push(report)
      if (entry.current.length >= IN_AN_ENTRY) keep()
      setLost(false)
      setLast({ report, recent: log.current.slice(-RECENT).map((r) => r.alongMps) })
    }
    source.onerror = () => setLost(true)
    return () => {
      source.close()
      keep()
      setLast(undefined)
    }
  }, [on, sessionId, place, bearingDeg])
  const sign = alongOut(leg)
  return {
    now: last && { alongMps: sign * last.report.alongMps, acrossMps: sign * last.report.acrossMps },
    recent: last?.recent.map((v) => sign * v) ?? [],
    lost,
    device: last?.report.device,
    of: (releasedMs, hangS) => {
      const wind = windOf(log.current, releasedMs / 1000, hangS ?? undefined)
      return wind && { ...wind, alongMps: sign * wind.alongMps, acrossMps: sign * wind.acrossMps }
    },
  }
}
