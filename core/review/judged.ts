import { HALF_NUMBER } from '../flight/disc.ts'
import { discOf } from '../rating/asThrown.ts'
import { CLAIMABLE, judgeClaim } from '../judge/claims.ts'
import type { Claimable } from '../judge/claims.ts'
import { numberDraws, shareOf, traitDraws } from '../judge/answers/draws.ts'
import { carryTrait } from '../judge/answers/traits.ts'
import type { ShortPlay } from '../judge/answers/shortGame.ts'
import { busiestArm } from '../judge/flewLike.ts'
import { alikeProbability } from '../judge/resolve.ts'
import { percent, SETTLED } from '../judge/statements.ts'
import { drawnSides, pairOf } from '../rating/outcome.ts'
import type { Outcome } from '../rating/outcome.ts'
import { OF_DISC } from '../rating/places.ts'
import type { FitState } from '../rating/state.ts'
import type { SaidClaim, Superlative } from './saidClaims.ts'

/** From here on a claim that is not settled leans its way. */
export const LEANS = 0.75

export type Verdict = 'carried' | 'leaning' | 'not shown' | 'contradicted'

/** What the throws make of a claim in a review. */
export interface Judged {
  /** Undefined where no throw speaks of it. */
  readonly probability: number | undefined
  readonly verdict: Verdict
}

const verdictOf = (p: number | undefined): Judged => ({
  probability: p,
  verdict:
    p === undefined
      ? 'not shown'
      : p >= SETTLED
        ? 'carried'
        : p <= 1 - SETTLED
          ? 'contradicted'
          : p >= LEANS
            ? 'leaning'
            : 'not shown',
})

/** Probability that one disc has most of something, or least, among those thrown. */
function extreme(
  state: FitState,
  outcome: Outcome,
  thrown: readonly string[],
  disc: string,
  says: Superlative,
): number | undefined {
  if (thrown.length < 2 || !thrown.includes(disc)) return undefined
  const at = thrown.indexOf(disc)
  const arm = busiestArm(state)
  const sides = () => drawnSides(outcome, thrown)
  const every = (list: readonly Float64Array[], holds: (own: number, other: number) => boolean) =>
    shareOf(list, (d) => d.every((v) => holds(d[at]!, v)))
  switch (says) {
    case 'is the most stable':
      return every(sides(), (own, v) => own >= v)
    case 'is the least stable':
      return every(sides(), (own, v) => own <= v)
    case 'flies the straightest':
      return every(sides(), (own, v) => Math.abs(own) <= Math.abs(v))
    case 'flies the farthest':
      return (
        arm &&
        every(
          traitDraws(state, thrown, numberDraws(state, thrown), carryTrait(arm.armMps)),
          (own, v) => own >= v,
        )
      )
  }
}

/** Probability that glide, turn and fade are all within half a number of the label. */
function trueTo(state: FitState, disc: string): number {
  const { published } = discOf(state, disc).disc
  const label = [published.glide, published.turn, published.fade]
  return shareOf(numberDraws(state, [disc]), (d) =>
    label.every((v, k) => Math.abs(d[k % OF_DISC]! - v) <= HALF_NUMBER),
  )
}

/**
 * What the throws make of something that was said.
 *
 * @param discs those the text is about; superlatives are among them
 */
export function judgeSaid(
  state: FitState,
  outcome: Outcome,
  claim: SaidClaim,
  discs: readonly string[],
  short: readonly ShortPlay[],
): Judged {
  const thrown = discs.filter((d) => outcome.discs.some((o) => o.disc === d && o.throws > 0))
  switch (claim.says) {
    case 'is the most stable':
    case 'is the least stable':
    case 'flies the farthest':
    case 'flies the straightest':
      return verdictOf(extreme(state, outcome, thrown, claim.disc, claim.says))
    case 'fly alike': {
      if (![claim.disc, claim.than].every((d) => thrown.includes(d))) return verdictOf(undefined)
      const published = (d: string) => discOf(state, d).disc.published
      return verdictOf(
        alikeProbability(
          pairOf(outcome, claim.disc, claim.than).difference,
          published(claim.disc),
          published(claim.than),
        ),
      )
    }
    case 'is true to its numbers':
      return verdictOf(thrown.includes(claim.disc) ? trueTo(state, claim.disc) : undefined)
    default:
      return verdictOf(judgeClaim(state, { ...claim, by: 0 }, short).probability)
  }
}

const wordsOf = (says: Claimable | Superlative | 'is true to its numbers'): string =>
  says in CLAIMABLE ? CLAIMABLE[says as Claimable].words : says

const said = (claim: SaidClaim, name: (disc: string) => string): string =>
  claim.says === 'fly alike'
    ? `${name(claim.disc)} and ${name(claim.than)} fly alike`
    : 'than' in claim
      ? `${name(claim.disc)} ${wordsOf(claim.says)} ${name(claim.than)}`
      : `${name(claim.disc)} ${wordsOf(claim.says)}`

/** A claim worded as the throws allow: as it stands with its probability, as a leaning, as open, or as what they show instead. */
export function wordedAs(
  claim: SaidClaim,
  { verdict, probability: p }: Judged,
  name: (disc: string) => string,
): string {
  const plain = said(claim, name)
  if (p === undefined) return `Whether ${plain} was not thrown`
  switch (verdict) {
    case 'carried':
      return `${plain} (${percent(p)})`
    case 'leaning':
      return `The throws lean to it that ${plain}, and have not settled it (${percent(p)})`
    case 'not shown':
      return `Whether ${plain} is not settled (${percent(p)})`
    case 'contradicted':
      return 'than' in claim && claim.says !== 'fly alike'
        ? `${said({ ...claim, disc: claim.than, than: claim.disc }, name)} (${percent(1 - p)})`
        : `The throws contradict it that ${plain} (${percent(1 - p)})`
  }
}
