import type { Dispatch } from 'react'
import { RangeReport, VolunteerReport } from '../../../contract/devices.ts'
import type { Thrower } from '../../../contract/trials.ts'
import { ask, read } from '../../data/api.ts'
import { useUnits } from '../../data/preferences.tsx'
import { say, sayWrong } from '../../data/say.ts'
import { landingOf } from './draft.ts'
import type { Meant } from './draft.ts'
import type { FieldEvent, Logging } from './logging.ts'

/** The range finder and the volunteer: what they see of a throw goes into it as if somebody had seen it. */
export function useDevices(
  state: Logging,
  dispatch: Dispatch<FieldEvent>,
  meant: Meant,
  thrower: Thrower,
  /** The wind that blows where it is listened to. */
  blows: { readonly alongMps: number | null; readonly acrossMps: number | null },
) {
  const units = useUnits()
  const { standing, session, seen } = state
  const range = async () => {
    const landing = landingOf(seen)
    if (!landing) return sayWrong('Tap about where it lies first; the range finder then measures it.')
    try {
      const query = new URLSearchParams({ downM: String(landing.carryM), rightM: String(landing.rightM) })
      const found = await read(`/api/devices/range-finder?${query}`, RangeReport)
      const { carryM, rightM } = found
      dispatch({
        type: 'seen',
        change: { carryM, rightM },
        meantDeg: meant.hyzerDeg,
        discId: meant.discId,
        at: Date.now(),
      })
      const { distanceM, bearingDeg } = found.range
      say(
        `${units.length.show(distanceM)} at ${Math.abs(bearingDeg)}° ${bearingDeg < 0 ? 'left' : 'right'} of the line. ${found.device}.`,
      )
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  const volunteer = async () => {
    try {
      const thrown = await ask(
        '/api/devices/volunteer',
        {
          discId: meant.discId,
          throwerId: thrower.id,
          stroke: standing.stroke,
          hyzerDeg: meant.hyzerDeg,
          power: standing.power,
          windAlongMps: blows.alongMps,
          windAcrossMps: blows.acrossMps,
          temperatureC: session.temperatureC,
          altitudeM: session.altitudeM,
        },
        VolunteerReport,
      )
      dispatch({ type: 'volunteered', thrown, at: Date.now() })
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  return { range, volunteer }
}
