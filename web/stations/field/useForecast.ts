import { useEffect, useRef, useState } from 'react'
import type { PlanPoint } from '../../../core/judge/corrected.ts'
import type { Forecast } from '../../../core/judge/forecast.ts'
import type { SheetThrow } from '../../../core/formats/sheet.ts'
import { armId, throwEvidence } from '../../../core/rating/fromSheet.ts'
import type { Arm } from '../../../core/rating/evidence.ts'
import type { Reading } from '../../workers/rating.worker.ts'
import { ratingWorker } from '../../workers/rating.ts'

const armsOf = (line: SheetThrow): Arm[] => [
  { id: armId(line), ...(line.fullSpeedMps !== undefined && { fullSpeedMps: line.fullSpeedMps }) },
]

/** Where the throw that is meant should land; follows the newest reading. */
export function useForecast(
  trial: string,
  line: SheetThrow,
  reading: Reading | undefined,
): Forecast | undefined {
  const [forecast, setForecast] = useState<Forecast>()
  const { disc, power } = throwEvidence(line)
  const key = JSON.stringify([
    line.disc,
    line.thrower,
    line.stroke,
    line.power,
    line.hyzerDeg,
    line.windAlongMps,
    line.windAcrossMps,
    line.temperatureC,
    line.altitudeM,
  ])
  useEffect(() => {
    if (!reading) return
    let current = true
    const { arm, hyzerRad, air } = throwEvidence(line)
    void ratingWorker()
      .forecast(trial, { disc, arm, power, hyzerRad, air }, armsOf(line))
      .then((f) => current && setForecast(f))
    return () => {
      current = false
    }
    // the key stands for the line: where it landed does not change what was forecast
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [trial, key, reading])
  return forecast
}

/** The path of a throw to where it landed; while one is being worked out, newer landings replace those waiting. */
export function usePathTo(trial: string, line: SheetThrow | undefined, reading: Reading | undefined) {
  const [path, setPath] = useState<readonly PlanPoint[]>()
  const wanted = useRef<SheetThrow | undefined>(undefined)
  const busy = useRef(false)
  const key = line && JSON.stringify(line)
  // the path of the throw before must not flash up under the next landing
  const [had, setHad] = useState(line !== undefined)
  if (had !== (line !== undefined)) {
    setHad(line !== undefined)
    setPath(undefined)
  }
  useEffect(() => {
    wanted.current = line
    if (!line || !reading) return
    const next = async () => {
      busy.current = true
      while (wanted.current) {
        const now = wanted.current
        const found = await ratingWorker().path(trial, throwEvidence(now), armsOf(now))
        if (wanted.current === now) {
          wanted.current = undefined
          setPath(found)
        }
      }
      busy.current = false
    }
    if (!busy.current) void next()
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [trial, key, reading])
  return line ? path : undefined
}
