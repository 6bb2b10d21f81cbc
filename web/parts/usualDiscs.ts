import { armOfCarry, USUAL_DISCS } from '../../core/flight/arm.ts'
import type { UsualDisc } from '../../core/flight/arm.ts'
import { DISC_CLASS_WORDS } from '../../core/shelf/kinds.ts'
import { SHEET_RANGE } from '../../core/throw/ranges.ts'

export const USUAL = Object.keys(USUAL_DISCS) as [UsualDisc, ...UsualDisc[]]
/** Usual discs to choose from. */
export const USUAL_OPTIONS = USUAL.map((value) => ({ value, words: DISC_CLASS_WORDS[value] }))

/** An arm somebody may have, m/s with a disc of speed 9; undefined where nobody throws so. */
export const likelyArm = (armMps: number | undefined): number | undefined => {
  const [slowest, fastest] = SHEET_RANGE.fullSpeedMps
  return armMps !== undefined && armMps >= slowest && armMps <= fastest ? armMps : undefined
}

/** The arm that carries a usual disc so far, m, flat in calm air; undefined where nobody throws so. */
export const armOfUsual = (disc: UsualDisc, carryM: number): number | undefined =>
  likelyArm(armOfCarry(USUAL_DISCS[disc], carryM))
