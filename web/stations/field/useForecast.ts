import type { PlanPoint } from '../../../core/flight/path.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import type { Forecast } from '../../../core/judge/forecast.ts'
import type { LineAngle } from '../../../core/judge/sameLine.ts'
import type { SheetThrow } from '../../../core/throw/sheetThrow.ts'
import { armId, throwEvidence } from '../../../core/rating/fromSheet.ts'
import type { Arm } from '../../../core/rating/evidence.ts'
import type { Ask } from '../../../core/plan/ask.ts'
import type { Protocol } from '../../../core/plan/order.ts'
import { useAsked } from '../../data/useAsked.ts'
import type { AskedAnswer } from '../../data/useAsked.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import { askRating } from '../../workers/rating.ts'

const armsOf = (line: SheetThrow): Arm[] => [
  { id: armId(line), ...(line.fullSpeedMps !== undefined && { fullSpeedMps: line.fullSpeedMps }) },
]

/** Everything of a line that a forecast depends on: where it landed does not change what was forecast. */
const forecastOf = (line: SheetThrow) => {
  const { disc, arm, power, hyzerRad, aimRad = 0, air } = throwEvidence(line)
  return { disc, arm, power, hyzerRad, aimRad, air }
}

/** Where the throw that is meant should land; follows the newest reading. */
export function useForecast(
  trial: string,
  line: SheetThrow,
  reading: Reading | undefined,
): AskedAnswer<Forecast | undefined> {
  const planned = forecastOf(line)
  const key = reading ? JSON.stringify([reading.serial, planned, line.fullSpeedMps]) : null
  return useAsked(key, () => askRating((w) => w.forecast(trial, planned, armsOf(line))), { about: trial })
}

/** The path of a throw to where it landed; of landings that come while one is worked out, the newest is next. */
export function usePathTo(
  trial: string,
  line: SheetThrow | undefined,
  reading: Reading | undefined,
): AskedAnswer<readonly PlanPoint[] | undefined> {
  const key = reading && line ? JSON.stringify([reading.serial, line]) : null
  return useAsked(key, () => askRating((w) => w.path(trial, throwEvidence(line!), armsOf(line!))), {
    inTurn: true,
    // the path of the throw before must not flash up under the next landing
    about: `${trial} ${line?.disc ?? ''}`,
  })
}

/** The angle to mean for a disc to finish on the aim line, where a trial asks for it; follows the newest reading. */
export function useLineAngle(
  trial: string,
  wanted: boolean,
  line: SheetThrow | undefined,
  reading: Reading | undefined,
): LineAngle | undefined {
  const { disc, arm, power, air } = line ? throwEvidence(line) : NOBODY
  const key =
    wanted && line && reading
      ? JSON.stringify([reading.serial, disc, arm, power, air, line.fullSpeedMps])
      : null
  const { value } = useAsked(
    key,
    () => askRating((w) => w.line(trial, [disc!], { arm: arm!, power: power!, air: air! }, armsOf(line!))),
    { about: `${trial} ${disc}` },
  )
  return value?.angles[0]
}
const NOBODY = { disc: undefined, arm: undefined, power: undefined, air: undefined }

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
  ask: Ask,
  reading: Reading | undefined,
): AskedAnswer<readonly { readonly code: string; readonly hyzerDeg: number }[]> {
  // which disc is up next does not change what is telling
  const { arm, power, air } = line ? throwEvidence(line) : NOBODY
  const asked = { codes, hyzerDegs, protocol, ask, arm, power, air }
  const key = wanted && line && reading ? JSON.stringify([reading.serial, asked]) : null
  return useAsked(
    key,
    async () => {
      const candidates = codes.flatMap((disc) =>
        hyzerDegs.map((deg) => ({
          disc,
          arm: arm!,
          air: air!,
          power: power!,
          hyzerRad: deg * DEGREE,
          angleCalled: true,
        })),
      )
      const throws = await askRating((w) => w.telling(trial, candidates, armsOf(line!), AHEAD, protocol, ask))
      return throws.map((t) => ({ code: t.disc, hyzerDeg: Math.round(t.hyzerRad / DEGREE) }))
    },
    { about: trial },
  )
}
