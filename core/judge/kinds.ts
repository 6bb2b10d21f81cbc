import { mean } from 'd3'
import { broughtToLine } from './sameLine.ts'
import type { Kind } from './resolve.ts'
import { UNLOGGED_WIND_SD } from '../rating/evidence.ts'
import type { Arm, ThrowEvidence } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import type { Candidate } from '../plan/information.ts'
import type { Protocol } from '../plan/order.ts'

/** A wind below this is none, m/s. */
const CALM = 0.5

/**
 * Kinds of throws like those of a trial: its angles, out into the wind and back with it, by whoever threw last at full power;
 * called and timed where most of its throws were.
 *
 * @param counted the counted throws, oldest first
 */
export function kindsLike(counted: readonly ThrowEvidence[]): Kind[] {
  const last = counted[counted.length - 1]
  if (!last) return []
  const angles = [...new Set(counted.map((t) => t.hyzerRad))]
  const along = mean(counted.map((t) => Math.abs(t.air.windAlongMps))) ?? 0
  const winds = along < CALM ? [0] : [-along, along]
  const mostly = (seen: (t: ThrowEvidence) => unknown) =>
    counted.filter((t) => seen(t) !== undefined).length > counted.length / 2
  return angles.flatMap((hyzerRad) =>
    winds.map((windAlongMps) => ({
      arm: last.arm,
      power: 1,
      hyzerRad,
      air: { ...last.air, windAlongMps, windTowardFadeMps: 0 },
      ...(last.method && { method: last.method }),
      angleCalled: mostly((t) => t.hyzerCalledRad),
      hangTimed: mostly((t) => t.hangS),
      bendDrawn: mostly((t) => t.mid),
      filmed: mostly((t) => t.path),
      ...(mostly((t) => (t.windSdMps === UNLOGGED_WIND_SD ? true : undefined)) && {
        windSdMps: UNLOGGED_WIND_SD,
      }),
    })),
  )
}

/** Throws at the angles a protocol means: as they are, or each where it brings its disc back to the line. */
export const meantBy = (
  protocol: Protocol,
  state: FitState,
  throws: readonly Candidate[],
  arms: readonly Arm[],
): readonly Candidate[] => (protocol === 'same-line' ? broughtToLine(state, throws, arms) : throws)
