import { deviation, mean } from 'd3'
import { LOGGED_WIND_SD, STEADIEST_WIND_SD } from './evidence.ts'

/** One reading of an anemometer near the tee, wind at 1.8 m in the frame of the aim line, right the thrower's right. */
export interface WindReading {
  /** Seconds on any clock the throws share. */
  readonly atS: number
  /** m/s, positive from behind. */
  readonly alongMps: number
  /** m/s, positive toward the right. */
  readonly acrossMps: number
}

export interface WindOfThrow {
  readonly alongMps: number
  readonly acrossMps: number
  /** Standard deviation, each way, of the wind the disc met about those. */
  readonly sdMps: number
}

/** What is read around release: this long before it, and as long as the disc flies. */
const BEFORE_S = 2
/** Gustiness is judged over this long to either side. */
const AROUND_S = 90
/** A log thinner than this over that time says nothing of gusts. */
const FEWEST = 8
/**
 * A gust passes the instrument and the disc at different moments: over one flight, some tens of metres away, they share
 * about half of its variance.
 */
const NOT_SHARED = 0.5

/**
 * The wind of a throw from the session's log: what was read while it flew, and how far the wind it met may have been
 * from that, which grows from steady to gusty with the spread of the log.
 *
 * @param log readings in order of time
 * @param releasedS when it was released, on the log's clock
 * @returns undefined where nothing was read while it flew
 */
export function windOf(log: readonly WindReading[], releasedS: number, hangS = 4): WindOfThrow | undefined {
  const flown = log.filter((r) => r.atS >= releasedS - BEFORE_S && r.atS <= releasedS + hangS)
  if (flown.length === 0) return undefined
  const around = log.filter((r) => Math.abs(r.atS - releasedS) <= AROUND_S)
  const spread =
    around.length < FEWEST
      ? undefined
      : Math.hypot(
          deviation(around, (r) => r.alongMps)!,
          deviation(around, (r) => r.acrossMps)!,
        ) / Math.SQRT2
  return {
    alongMps: mean(flown, (r) => r.alongMps)!,
    acrossMps: mean(flown, (r) => r.acrossMps)!,
    sdMps:
      spread === undefined ? LOGGED_WIND_SD : Math.hypot(STEADIEST_WIND_SD, Math.sqrt(NOT_SHARED) * spread),
  }
}
