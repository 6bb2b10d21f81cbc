import type { Arm } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import { Z_SETTLED } from '../rating/normal.ts'
import {
  beliefOf,
  contrastOf,
  informationOf,
  varianceOf,
  reachOf,
  variancesWith,
  withThrow,
} from '../plan/information.ts'
import type { Candidate } from '../plan/information.ts'

/** Beyond this many more throws a pair is as good as equal. */
const HOPELESS = 120

/** The smallest difference of stability these throws can separate at 90 %, given the sd of the difference. */
export const resolution = (sd: number): number => Z_SETTLED * sd

/** A kind of throw: everything but the disc. */
export type Kind = Omit<Candidate, 'disc'>

/** What would settle the order of two discs, if what is believed now is right. */
export interface Settling {
  readonly a: string
  readonly b: string
  /** Smallest difference these throws separate at 90 %. */
  readonly resolution: number
  /** More throws in all, of the two discs; 0 when settled, Infinity when out of reach. */
  readonly throws: number
  /** Of which kinds, the most needed first; empty when nothing settles it. */
  readonly kinds: readonly { readonly kind: Kind; readonly throws: number }[]
}

/**
 * How many more throws of which kinds would settle the order of a pair: the throw that tells most is added, again and
 * again, until the difference believed now would be settled.
 *
 * @param kinds release, arm, wind of throws that could be made
 */
export function settling(
  state: FitState,
  a: string,
  b: string,
  kinds: readonly Kind[],
  arms: readonly Arm[] = [],
): Settling {
  let belief = beliefOf(state, arms)
  const contrast = contrastOf(state, belief, a, b)
  let variance = varianceOf(belief, contrast)
  const base = { a, b, resolution: resolution(Math.sqrt(variance)) }
  const gap = Math.abs(contrast.value)
  if (gap >= base.resolution) return { ...base, throws: 0, kinds: [] }
  const options = kinds.flatMap((kind) =>
    [a, b].map((disc) => ({ kind, info: informationOf(state, belief, { ...kind, disc }, arms) })),
  )
  const tally = new Map<Kind, number>()
  for (let n = 1; n <= HOPELESS && options.length > 0; n++) {
    const reach = reachOf(belief, [contrast])
    const after = options.map((o) => variancesWith(belief, o.info, reach)[0]!)
    const best = after.indexOf(Math.min(...after))
    const { kind, info } = options[best]!
    belief = withThrow(belief, info)
    variance = varianceOf(belief, contrast)
    tally.set(kind, (tally.get(kind) ?? 0) + 1)
    if (gap >= resolution(Math.sqrt(variance)))
      return {
        ...base,
        throws: n,
        kinds: [...tally].map(([k, throws]) => ({ kind: k, throws })).sort((x, y) => y.throws - x.throws),
      }
  }
  return { ...base, throws: Number.POSITIVE_INFINITY, kinds: [] }
}
