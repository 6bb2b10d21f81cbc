import type { Arm } from '../rating/evidence.ts'
import type { FitState } from '../rating/state.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import { labelScale } from '../flight/side.ts'
import { Z_SETTLED } from '../rating/normal.ts'
import { probabilityWithin } from '../rating/outcome.ts'
import type { Estimate } from '../rating/outcome.ts'
import { chanceSettled } from '../plan/telling.ts'
import {
  beliefOf,
  informationOf,
  contrastVariance,
  contrastReachOf,
  variancesWith,
  withThrow,
} from '../plan/information.ts'
import { contrastOf } from '../plan/contrasts.ts'
import type { Candidate } from '../plan/information.ts'

/** So many more throws of a pair are looked at. */
export const MORE_THROWS = [12, 24, 48] as const
/** Discs closer than this, on the scale of turn + fade, fly alike: labels tell no finer. */
export const ALIKE_WITHIN = 0.5

/** The smallest difference these throws can separate at 90 %, given the sd of the difference; in its unit. */
export const resolution = (sd: number): number => Z_SETTLED * sd

/** A kind of throw: everything but the disc. */
export type Kind = Omit<Candidate, 'disc'>

/** What further throws would do for the order of two discs, if what is believed now is right. */
export interface Settling {
  readonly a: string
  readonly b: string
  /** Smallest difference of side these throws separate at 90 %, m a 100 m. */
  readonly resolution: number
  /** Probability that they lie within half a number of each other. */
  readonly alike: number
  /** Chance that so many more throws of the two, in all, settle their order; none where it is settled or nothing can be thrown. */
  readonly chances: readonly { readonly throws: number; readonly chance: number }[]
  /** Of which kinds the most of them are, the most needed first. */
  readonly kinds: readonly { readonly kind: Kind; readonly throws: number }[]
  /** The throws the chances are of, in their order. */
  readonly meant: readonly Candidate[]
}

/** Probability that two discs lie within half a number of each other, given how far apart they fly, m a 100 m. */
export function alikeProbability(difference: Estimate, a: FlightNumbers, b: FlightNumbers): number {
  const half = (ALIKE_WITHIN * (labelScale(a).perNumber + labelScale(b).perNumber)) / 2
  const { value, sd } = difference
  return probabilityWithin(value, sd, half)
}

/**
 * What more throws would do for a pair: the throw that tells most is added, again and again, and the chance that the order is
 * settled then follows from how far the difference may still move.
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
  const now = contrastVariance(belief, contrast)
  const [one, other] = [a, b].map((id) => state.evidence.discs.find((d) => d.id === id)!.published)
  const base = {
    a,
    b,
    resolution: resolution(Math.sqrt(now)),
    alike: alikeProbability({ value: contrast.value, sd: Math.sqrt(now) }, one!, other!),
  }
  if (Math.abs(contrast.value) >= base.resolution) return { ...base, chances: [], kinds: [], meant: [] }
  const options = kinds.flatMap((kind) =>
    [a, b].map((disc) => ({ kind, disc, info: informationOf(state, belief, { ...kind, disc }, arms) })),
  )
  const tally = new Map<Kind, number>()
  const chances: { throws: number; chance: number }[] = []
  const meant: Candidate[] = []
  for (let n = 1; n <= MORE_THROWS.at(-1)! && options.length > 0; n++) {
    const reach = contrastReachOf(belief, [contrast])
    const after = options.map((o) => variancesWith(belief, o.info, reach)[0]!)
    const { kind, disc, info } = options[after.indexOf(Math.min(...after))]!
    belief = withThrow(belief, info)
    meant.push({ ...kind, disc })
    tally.set(kind, (tally.get(kind) ?? 0) + 1)
    if (MORE_THROWS.some((m) => m === n))
      chances.push({
        throws: n,
        chance: chanceSettled(contrast.value, now, contrastVariance(belief, contrast)),
      })
  }
  return {
    ...base,
    chances,
    meant,
    kinds: [...tally].map(([kind, throws]) => ({ kind, throws })).sort((x, y) => y.throws - x.throws),
  }
}
