import { useEffect, useRef, useState } from 'react'
import type { PlanPoint } from '../../../core/judge/corrected.ts'
import { DEGREE } from '../../../core/flight/release.ts'
import type { Forecast } from '../../../core/judge/forecast.ts'
import type { LineAngle } from '../../../core/judge/sameLine.ts'
import type { SheetThrow } from '../../../core/formats/sheet.ts'
import { armId, throwEvidence } from '../../../core/rating/fromSheet.ts'
import type { Arm } from '../../../core/rating/evidence.ts'
import type { Protocol } from '../../../core/plan/order.ts'
import type { Reading } from '../../workers/rating.worker.ts'
import { ratingWorker } from '../../workers/rating.ts'

const armsOf = (line: SheetThrow): Arm[] => [
  { id: armId(line), ...(line.fullSpeedMps !== undefined && { fullSpeedMps: line.fullSpeedMps }) },
]

/** Everything of a line that a forecast depends on. */
const forecastKey = (line: SheetThrow, withAngle = true) =>
  JSON.stringify([
    line.disc,
    line.thrower,
    line.stroke,
    line.power,
    withAngle && line.hyzerDeg,
    line.windAlongMps,
    line.windAcrossMps,
    line.temperatureC,
    line.altitudeM,
  ])

/** Where the throw that is meant should land; follows the newest reading. */
export function useForecast(
  trial: string,
  line: SheetThrow,
  reading: Reading | undefined,
): Forecast | undefined {
  const [forecast, setForecast] = useState<Forecast>()
  const { disc, power } = throwEvidence(line)
  const key = forecastKey(line)
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

/** The angle to mean for a disc to finish on the aim line, where a trial asks for it; follows the newest reading. */
export function useLineAngle(
  trial: string,
  wanted: boolean,
  line: SheetThrow | undefined,
  reading: Reading | undefined,
): LineAngle | undefined {
  const [found, setFound] = useState<LineAngle>()
  const key = line && forecastKey(line, false)
  useEffect(() => {
    if (!wanted || !line || !reading) return
    let current = true
    const { arm, power, air, disc } = throwEvidence(line)
    void ratingWorker()
      .line(trial, [disc], { arm, power, air }, armsOf(line))
      .then((told) => current && setFound(told?.angles[0]))
    return () => {
      current = false
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [trial, wanted, key, reading])
  return wanted && found?.disc === line?.disc ? found : undefined
}

/** How many telling throws are named ahead. */
const AHEAD = 6

/**
 * The most telling throws for whoever throws now, in the wind as it is: disc and release angle, best first. Undefined while
 * they are not wanted or not known yet.
 */
export function useTelling(
  trial: string,
  wanted: boolean,
  line: SheetThrow | undefined,
  codes: readonly string[],
  hyzerDegs: readonly number[],
  protocol: Protocol,
  reading: Reading | undefined,
): readonly { readonly code: string; readonly hyzerDeg: number }[] | undefined {
  const [found, setFound] = useState<readonly { code: string; hyzerDeg: number }[]>()
  const key =
    line && JSON.stringify([line.thrower, line.stroke, line.power, line.windAlongMps, line.windAcrossMps])
  useEffect(() => {
    if (!wanted || !line || !reading) return
    let current = true
    const { arm, air, power } = throwEvidence(line)
    const candidates = codes.flatMap((disc) =>
      hyzerDegs.map((deg) => ({ disc, arm, air, power, hyzerRad: deg * DEGREE, angleCalled: true })),
    )
    void ratingWorker()
      .telling(trial, candidates, armsOf(line), AHEAD, protocol)
      .then(
        (throws) =>
          current &&
          setFound(throws.map((t) => ({ code: t.disc, hyzerDeg: Math.round(t.hyzerRad / DEGREE) }))),
      )
    return () => {
      current = false
    }
    // the key stands for the line: which disc is up next does not change what is telling
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [trial, wanted, key, reading])
  return wanted ? found : undefined
}
