import { DEGREE } from '../flight/units.ts'
import type { ThrowEvidence } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { explainThrow } from './why.ts'
import type { Shift } from './why.ts'

/** A throw of each of two discs meant alike, and how far apart the two came down. */
export interface MatchedThrows {
  readonly a: string
  readonly b: string
  readonly hyzerRad: number
  /** Of the first: with the wind where positive. */
  readonly windAlongMps: number
  /** Where a lies beside b, m: farther downrange, and farther to the fade side. */
  readonly landed: Shift
  /** The same with release, wind and air taken out of both. */
  readonly corrected: Shift
}

/** Meant alike: within so much of an angle, of an aim and of full power, in wind from the same end. */
const ALIKE = { hyzerRad: 3 * DEGREE, aimRad: DEGREE, power: 0.06 }
const meantAlike = (x: ThrowEvidence, y: ThrowEvidence) =>
  x.arm === y.arm &&
  Math.abs(x.hyzerRad - y.hyzerRad) < ALIKE.hyzerRad &&
  Math.abs((x.aimRad ?? 0) - (y.aimRad ?? 0)) < ALIKE.aimRad &&
  Math.abs(x.power - y.power) < ALIKE.power &&
  x.air.windAlongMps * y.air.windAlongMps >= 0

/** Where a throw would have come down had everything but the disc been as meant: what is left of its distance from the label. */
function correctedOf(state: FitState, t: ThrowEvidence): Shift {
  const { promised, parts, unexplained } = explainThrow(state, t)
  return {
    carryM: promised.carryM + parts.disc.carryM + unexplained.carryM,
    veerM: promised.veerM + parts.disc.veerM + unexplained.veerM,
  }
}

const less = (x: Shift, y: Shift): Shift => ({ carryM: x.carryM - y.carryM, veerM: x.veerM - y.veerM })

/**
 * Throws of two discs matched one to one by arm, angle, power and the end the wind came from, each with the nearest in time that is
 * still free; in the order they were thrown.
 *
 * @param own counted throws, oldest first
 */
export function matchedThrows(
  state: FitState,
  own: readonly ThrowEvidence[],
  a: string,
  b: string,
): MatchedThrows[] {
  const free = new Map(own.flatMap((t, i) => (t.disc === b ? [[i, t] as const] : [])))
  return own.flatMap((t, i): MatchedThrows[] => {
    if (t.disc !== a) return []
    const [nearest] = [...free]
      .filter(([, other]) => meantAlike(t, other))
      .sort(([x], [y]) => Math.abs(x - i) - Math.abs(y - i))
    if (!nearest) return []
    const [at, other] = nearest
    free.delete(at)
    return [
      {
        a: t.id,
        b: other.id,
        hyzerRad: t.hyzerRad,
        windAlongMps: t.air.windAlongMps,
        landed: less(t, other),
        corrected: less(correctedOf(state, t), correctedOf(state, other)),
      },
    ]
  })
}
