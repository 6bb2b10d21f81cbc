import type { PlanPoint } from '../flight/path.ts'
import { ranksOf } from '../judge/card.ts'
import { correctedFlight } from '../judge/corrected.ts'
import type { CorrectedFlight } from '../judge/corrected.ts'
import { kindsLike } from '../judge/kinds.ts'
import { limitsOf, openPair } from '../judge/limits.ts'
import type { Limit } from '../judge/limits.ts'
import type { Ask } from '../plan/ask.ts'
import { pathAsThrown } from '../rating/asThrown.ts'
import type { LeftOut } from '../rating/digest.ts'
import type { RatedDisc, ThrowEvidence } from '../rating/evidence.ts'
import { armId } from '../rating/fromSheet.ts'
import { outcomeAbout } from '../rating/known.ts'
import { outcomeOf } from '../rating/outcome.ts'
import type { DiscRanks, Outcome } from '../rating/outcome.ts'
import type { FitState } from '../rating/state.ts'
import type { SheetThrow } from '../throw/sheetThrow.ts'

/** A throw the way it most likely flew. */
export interface ThrownPath {
  readonly throw: string
  readonly path: readonly PlanPoint[]
}
/** As many of the latest throws come with a reading. */
const LATEST = 40
/** Everything a screen shows of a trial's throws. */
export interface Reading {
  /** Counts readings: another number is another reading. */
  readonly serial: number
  readonly outcome: Outcome
  /** Ranks of the discs asked about: all but the control disc. */
  readonly ranks: readonly DiscRanks[]
  readonly corrected: readonly CorrectedFlight[]
  /** The latest throws the way they most likely flew; all of them are asked for with `Trials.paths`. */
  readonly asThrown: readonly ThrownPath[]
  /** Throws that could not be weighed; the rest was, without them. */
  readonly leftOut: readonly LeftOut[]
  /** How long the fit took, ms. */
  readonly tookMs: number
  /** How many throws a first reading is made from, while the answer is worked out; undefined of the answer. */
  readonly firstFrom: number | undefined
}

/** What a reading is about, of all that was weighed. */
export interface About {
  readonly discs: ReadonlySet<string>
  readonly throws: ReadonlySet<string>
  readonly arms: ReadonlySet<string>
}
export const aboutOf = (sheet: readonly SheetThrow[], discs: readonly RatedDisc[]): About => ({
  discs: new Set(discs.map((d) => d.id)),
  throws: new Set(sheet.map((t) => t.throw)),
  arms: new Set(sheet.map(armId)),
})
/** A fit, what of it is asked about, and what it says of that. */
export interface Weighed {
  readonly state: FitState
  readonly about: About
  readonly outcome: Outcome
  /** The counted throws it is about. */
  readonly own: readonly ThrowEvidence[]
}

export function weighedOf(state: FitState, about: About): Weighed {
  return {
    state,
    about,
    outcome: outcomeAbout(outcomeOf(state), about.discs, about.throws, about.arms),
    own: state.evidence.throws.filter((t) => t.counts && about.throws.has(t.id)),
  }
}

export const limitIn = ({ state, outcome, own }: Weighed, asked: Ask['pair']): Limit | undefined => {
  const pair = openPair(state, outcome, asked)
  return pair && limitsOf(state, pair, kindsLike(own))[0]
}

/** The latest throws a reading is about, the way they most likely flew. */
export const pathsOf = ({ state, about: { throws } }: Weighed, most: number): ThrownPath[] =>
  state.terms
    .filter((t) => throws.has(t.evidence.id))
    .slice(-most)
    .map((t) => ({ throw: t.evidence.id, path: pathAsThrown(state, t.evidence) }))

/** A reading of what was weighed, for {@link Reading}. */
export function readingOf(
  now: Weighed,
  discs: readonly RatedDisc[],
  how: Pick<Reading, 'serial' | 'tookMs' | 'firstFrom'>,
): Reading {
  const { about, outcome, state } = now
  const aside = new Set(discs.filter((d) => d.control).map((d) => d.id))
  return {
    outcome,
    // always the same draws, so that a percentage moves only when a throw moves it
    ranks: ranksOf(outcome, aside),
    corrected: outcome.discs.map((d) => correctedFlight(d)),
    asThrown: pathsOf(now, LATEST),
    leftOut: state.leftOut.filter((t) => about.throws.has(t.throw)),
    ...how,
  }
}
