import { at } from '../../../contract/api.ts'
import type { Dispatch } from 'react'
import type { Thrower } from '../../../contract/trials.ts'
import { read, send } from '../../data/api.ts'
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
      const found = await read(
        at('GET /api/devices/range-finder', { downM: landing.carryM, rightM: landing.rightM }),
      )
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
  const throwIt = async () => {
    try {
      const thrown = await send(at('POST /api/devices/volunteer'), {
        discId: meant.discId,
        throwerId: thrower.id,
        stroke: standing.stroke,
        hyzerDeg: meant.hyzerDeg,
        power: standing.power,
        aimDeg: seen.aimDeg,
        windAlongMps: blows.alongMps,
        windAcrossMps: blows.acrossMps,
        temperatureC: session.temperatureC,
        altitudeM: session.altitudeM,
      })
      dispatch({ type: 'volunteered', thrown, at: Date.now() })
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  /** What has landed and is not kept is not thrown over without a word. */
  const volunteer = async () => {
    if (!landingOf(seen)) return await throwIt()
    say('This throw has landed and is not kept yet: keep it first (Enter).', {
      label: 'Throw it again',
      run: () => void throwIt(),
    })
  }
  return { range, volunteer }
}
