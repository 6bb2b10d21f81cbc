import type { LabFlight } from '../lab/flight.ts'
import type { FieldPlace } from '../lab/field.ts'
import type { Estimate } from '../rating/outcome.ts'
import { shownOfLanding } from './deal.ts'
import type { DrillQuestion, DrillKind } from './question.ts'

/** A throw of one's own sessions as it was recorded, in the frame of the throw: sides to the fade side, m, s, degrees, m/s. */
export interface RecordedThrow {
  /** What it was, in words. */
  readonly name: string
  readonly timeS: readonly number[]
  readonly downM: readonly number[]
  readonly sideM: readonly number[]
  readonly upM: readonly number[]
  /** Where it landed, as it was measured. */
  readonly landed: FieldPlace
  readonly hyzerDeg: number
  /** Level where nobody saw it. */
  readonly noseDeg: number
  /** Undefined where nobody noted it. */
  readonly wind: { readonly windAlongMps: number; readonly windTowardFadeMps: number } | undefined
  /** What all throws of the disc say of it; undefined where they say nothing. */
  readonly rated: { readonly turn: Estimate; readonly fade: Estimate } | undefined
}

/** Fewer points are no flight to look at. */
const LEAST_POINTS = 5
/** A number less sure than that is not asked for. */
const SURE_SD = 0.35

/** A recorded throw as it is looked at; undefined where it cannot be: without times or heights, or of too few points. */
export function recordedFlight({ timeS, downM, sideM, upM, landed }: RecordedThrow): LabFlight | undefined {
  const points = downM.length
  if (points < LEAST_POINTS || timeS.length !== points || upM.length !== points) return undefined
  const [first, last] = [timeS[0]!, timeS[points - 1]!]
  if (!(last > first)) return undefined
  return {
    timeS: timeS.map((s) => s - first),
    downM,
    sideM,
    upM,
    // no camera sees how a disc is tilted
    tiltDeg: downM.map(() => 0),
    landed,
    hangS: last - first,
    apexM: Math.max(...upM),
  }
}

/** What may be asked of a recorded throw: what is known of it from elsewhere than from the eye. */
export function askedOfRecorded(thrown: RecordedThrow): DrillKind[] {
  if (!recordedFlight(thrown)) return []
  const { rated } = thrown
  return [
    'landing',
    ...(rated && rated.turn.sd <= SURE_SD ? (['turn'] as const) : []),
    ...(rated && rated.fade.sd <= SURE_SD ? (['fade'] as const) : []),
  ]
}

/**
 * A question about a recorded throw.
 *
 * @param kind one of {@link askedOfRecorded}
 * @param level 0…1
 * @throws RangeError where that cannot be asked of it
 */
export function questionOfRecorded(kind: DrillKind, level: number, thrown: RecordedThrow): DrillQuestion {
  const flight = recordedFlight(thrown)
  const { name, hyzerDeg, noseDeg, wind, rated, landed } = thrown
  if (!flight || !askedOfRecorded(thrown).includes(kind))
    throw new RangeError(`“${kind}” cannot be asked of a recorded throw that does not tell it.`)
  return {
    kind,
    level,
    flights: [],
    recorded: {
      name,
      flight,
      thrown: {
        throw: { hyzerDeg, noseDeg },
        air: wind ?? { windAlongMps: 0, windTowardFadeMps: 0 },
      },
    },
    windShown: wind !== undefined && level < 0.7,
    shownPart: kind === 'landing' ? shownOfLanding(level) : 1,
    truth:
      kind === 'landing'
        ? { kind: 'circle', at: landed }
        : { kind: 'range', value: rated![kind as 'turn' | 'fade'].value },
  }
}
