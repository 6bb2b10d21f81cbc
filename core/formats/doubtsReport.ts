import { slippedThrows } from '../judge/slips.ts'
import type { Slip, SlippedThrow } from '../judge/slips.ts'
import { percent } from '../judge/statements.ts'
import { TURNED_WORDS, turnedWinds } from '../judge/turnedWind.ts'
import type { TurnedWind } from '../judge/turnedWind.ts'
import type { FitState } from '../rating/state.ts'

/** What in a file reads as if it was logged wrong: winds the wrong way round, and throws that were something else. */
export interface DoubtsReport {
  readonly winds: readonly {
    /** Empty where the throws name no outing. */
    readonly outing: string
    readonly turned: TurnedWind['turn']
    /** Twice the ln of how many times likelier all throws are with it turned round. */
    readonly better: number
  }[]
  readonly throws: readonly {
    readonly throw: string
    readonly slip: Slip['kind']
    /** The disc it flew like, where it is a disc. */
    readonly disc?: string
    readonly p: number
  }[]
}

/** More throws than that are not looked at one by one by a command: each takes fits of all the others. */
const MOST = 400

/** What of a fit reads as if it was logged wrong; nothing of more than {@link MOST} throws. */
export function doubtsReport(state: FitState): DoubtsReport {
  if (state.terms.length > MOST) return { winds: [], throws: [] }
  return {
    winds: turnedWinds(state).map(({ outing, turn, better }) => ({
      outing,
      turned: turn,
      better: Math.round(10 * better) / 10,
    })),
    throws: slippedThrows(state).map(({ throw: id, slip, probability }) => ({
      throw: id,
      slip: slip.kind,
      ...(slip.kind === 'disc' && { disc: slip.disc }),
      p: Math.round(1e4 * probability) / 1e4,
    })),
  }
}

/** What it was, as far as it reads so. */
const WAS: Readonly<Record<Exclude<SlippedThrow['slip']['kind'], 'disc'>, string>> = {
  side: 'one that landed on the other side',
  angle: 'one thrown at the other angle',
  feet: 'one measured in feet',
  metres: 'one measured in metres',
}

/** The same in sentences. */
export const doubtsText = ({ winds, throws }: DoubtsReport): string =>
  [
    ...(winds.length + throws.length === 0 ? ['Nothing reads as if it was logged wrong.'] : []),
    ...winds.map(
      ({ outing, turned }) =>
        `${outing === '' ? 'In this file' : `On the outing ${outing}`} ${TURNED_WORDS[turned]} reads as if it was logged the wrong way round`,
    ),
    ...throws.map(
      ({ throw: id, slip, disc, p }) =>
        `Throw ${id} reads like ${slip === 'disc' ? disc! : WAS[slip]}, ${percent(p)}`,
    ),
  ].join('\n')
