import { labelScale, sideOf } from '../flight/side.ts'
import { STILL_AIR } from '../flight/air.ts'
import { fullSpeedWith } from '../flight/arm.ts'
import { landing } from '../flight/landing.ts'
import { cleanRelease } from '../flight/release.ts'
import type { FlightNumbers } from '../flight/disc.ts'
import type { FitState } from '../rating/state.ts'
import { discOf } from '../rating/asThrown.ts'
import { probabilityAbove } from '../rating/outcome.ts'
import { numberDraws, shareOf, traitDraws } from './answers/draws.ts'
import type { ShortPlay } from './answers/shortGame.ts'
import { apart, carryTrait, numberTrait, sideTrait } from './answers/traits.ts'
import type { TraitOf } from './answers/traits.ts'
import { busiestArm } from './flewLike.ts'
import { differenceOf } from './shortGame.ts'
import { SETTLED } from './statements.ts'

/** What can be claimed of a disc beside another: the words of the field for it, and the unit it is measured in. */
export const CLAIMABLE = {
  'is-more-stable-than': { words: 'is more stable than', unit: 'numbers' },
  'is-less-stable-than': { words: 'is less stable than', unit: 'numbers' },
  'flies-farther-than': { words: 'flies farther than', unit: 'm' },
  'flies-straighter-than': { words: 'flies straighter than', unit: 'm' },
  'has-more-glide-than': { words: 'has more glide than', unit: 'numbers' },
  'finishes-harder-than': { words: 'finishes harder than', unit: 'numbers' },
  'skips-farther-than': { words: 'skips farther than', unit: 'm' },
} as const
export type Claimable = keyof typeof CLAIMABLE
export const CLAIMABLES = Object.keys(CLAIMABLE) as [Claimable, ...Claimable[]]

/** A claim built from parts, so that it can be judged. */
export interface BuiltClaim {
  readonly disc: string
  readonly says: Claimable
  /** Another disc; its own label where null. */
  readonly than: string | null
  /** By at least so much, in the unit of what is claimed. */
  readonly by: number
}

export interface JudgedClaim {
  /** Probability that it holds; undefined where nothing was seen that it speaks of. */
  readonly probability: number | undefined
  readonly verdict: 'held' | 'not held' | 'not settled'
}

/** Where a label would carry, m, and where it would fly, m a 100 m. */
function ofLabel(published: FlightNumbers, state: FitState, disc: string, armMps: number) {
  const { body } = discOf(state, disc).disc
  const release = cleanRelease(fullSpeedWith(armMps, published.speed))
  return { carryM: landing(published, body, release, STILL_AIR).carryM, side: sideOf(published).side }
}

/** Probability that a claim about flights holds. */
function flown(state: FitState, { disc, says, than, by }: BuiltClaim, armMps: number): number {
  const discs = than === null ? [disc] : [disc, than]
  const published = (id: string) => discOf(state, id).disc.published
  const label = ofLabel(published(disc), state, disc, armMps)
  const { perNumber } = labelScale(published(disc))
  /** Probability that the first has so much more of something; than its label where there is no other. */
  const more = (trait: TraitOf, own: number, amount: number, sign: 1 | -1 = 1) => {
    const { value, sd } = apart(state, [trait(state, disc)], than === null ? [] : [trait(state, than)])
    return probabilityAbove(sign * (than === null ? value - own : value) - amount, sd)
  }
  switch (says) {
    case 'is-more-stable-than':
      return more(sideTrait, label.side, by * perNumber)
    case 'is-less-stable-than':
      return more(sideTrait, label.side, by * perNumber, -1)
    case 'flies-farther-than':
      return more(carryTrait(armMps), label.carryM, by)
    case 'flies-straighter-than':
      return shareOf(
        traitDraws(state, discs, numberDraws(state, discs), sideTrait),
        (d) => Math.abs(d[0]!) + by <= Math.abs(than === null ? label.side : d[1]!),
      )
    case 'has-more-glide-than':
      return more(numberTrait('glide'), published(disc).glide, by)
    case 'finishes-harder-than':
      return more(numberTrait('fade'), published(disc).fade, by)
    case 'skips-farther-than':
      throw new RangeError('what skips is not seen in flights')
  }
}

/** Probability that one disc skips farther than another by so much; undefined of fewer than two skips of either. */
function skipped({ disc, than, by }: BuiltClaim, short: readonly ShortPlay[]): number | undefined {
  const of = (id: string | null) =>
    short.flatMap((t) => (t.disc === id && t.game === 'ground' && t.groundM !== null ? [t.groundM] : []))
  return differenceOf(
    of(disc).map((m) => m - by),
    of(than),
  )?.pLarger
}

/** Whether a claim written before the first throw held: by what its discs’ throws say together. */
export function judgeClaim(state: FitState, claim: BuiltClaim, short: readonly ShortPlay[]): JudgedClaim {
  const thrown = (id: string | null) =>
    id === null || state.evidence.throws.some((t) => t.counts && t.disc === id)
  const arm = busiestArm(state)
  const probability =
    claim.says === 'skips-farther-than'
      ? skipped(claim, short)
      : arm && thrown(claim.disc) && thrown(claim.than)
        ? flown(state, claim, arm.armMps)
        : undefined
  return {
    probability,
    verdict:
      probability === undefined || (probability < SETTLED && probability > 1 - SETTLED)
        ? 'not settled'
        : probability >= SETTLED
          ? 'held'
          : 'not held',
  }
}
