import type { Throw } from '../../contract/trials.ts'
import type { Slip, SlippedThrow } from '../../core/judge/slips.ts'
import { SCALE } from '../../core/judge/slips.ts'
import { askRating } from './rating.ts'
import type { Reading } from '../../core/trial/reading.ts'
import { useAsked } from '../data/useAsked.ts'

/** Looked at once no more throws come for so long, ms: each close look takes a fit. */
const PAUSE_MS = 500
const NONE: readonly SlippedThrow[] = []

/** Throws that read as if they were logged wrong, of some, by a reading of all; those that were looked at again are not asked about. */
export function useSlips(
  ratingKey: string,
  reading: Reading | undefined,
  throws: readonly Throw[],
): readonly SlippedThrow[] {
  const asked = throws
    .filter((t) => t.counts && t.checked !== true && t.takenBackAt === null)
    .map((t) => t.id)
  return (
    useAsked(
      reading && reading.firstFrom === undefined && asked.length > 0
        ? `${ratingKey} ${reading.serial} ${asked.join()}`
        : null,
      () => askRating((w) => w.slips(ratingKey, asked)),
      { about: ratingKey, pauseMs: PAUSE_MS },
    ).value ?? NONE
  )
}

/** A throw as it was, had it been logged with a slip. */
export function putRight(t: Throw, slip: Slip, discIdOf: (code: string) => string): Throw {
  switch (slip.kind) {
    case 'disc':
      return { ...t, discId: discIdOf(slip.disc) }
    case 'side':
      return { ...t, rightM: -t.rightM, midRightM: t.midRightM === null ? null : -t.midRightM }
    case 'angle':
      return {
        ...t,
        hyzerDeg: -t.hyzerDeg,
        hyzerCalledDeg: t.hyzerCalledDeg === null ? null : -t.hyzerCalledDeg,
      }
    case 'feet':
    case 'metres': {
      const size = SCALE[slip.kind]
      return {
        ...t,
        carryM: size * t.carryM,
        rightM: size * t.rightM,
        midDownM: t.midDownM === null ? null : size * t.midDownM,
        midRightM: t.midRightM === null ? null : size * t.midRightM,
      }
    }
  }
}
