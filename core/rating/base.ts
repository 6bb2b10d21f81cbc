import type { SolvedArrow } from './arrow.ts'
import type { Believed, Spread } from './beliefs.ts'
import { layoutOf, solveEquations } from './equations.ts'
import { habitSdsOf } from './evidence.ts'
import type { Arm, RatedDisc } from './evidence.ts'
import type { Kinship } from './kin.ts'
import { effectiveUnknowns, freeShare, scatterOf, shapesOf } from './noise.ts'
import type { Scatter } from './noise.ts'
import type { FitState } from './state.ts'

/** What a fit has learnt, its throws put aside: small enough to keep, enough to say what a few more throws change. */
export interface Base {
  readonly discs: readonly RatedDisc[]
  readonly arms: readonly Arm[]
  readonly numbers: readonly Float64Array[]
  readonly habits: readonly Float64Array[]
  readonly outings: readonly string[]
  readonly aims: Float64Array
  readonly kinship: Kinship
  readonly effects: readonly Float64Array[]
  readonly spread: Spread
  readonly gust: number
  readonly discrepancy: number
  /** The posterior that is stated. */
  readonly posterior: SolvedArrow
  /** How the likelihood itself bends at the solution: how far another throw moves it. */
  readonly curvature: SolvedArrow
  /** What each arm, and the camera of each outing, has shown of its noise, and the share of observations left to show it. */
  readonly scatter: { readonly arms: readonly Scatter[]; readonly cameras: readonly Scatter[] }
  readonly free: number
  /** How whitened landings of each arm scatter together. */
  readonly shapes: readonly Float64Array[]
}

/** What is left of a fit once its throws are put aside. */
export function baseOf(state: FitState): Base {
  const { evidence, numbers, habits, outings, aims, kinship, effects, spread, gust, discrepancy } = state
  const { discs, arms } = evidence
  const believed: Believed = { discs, kinship, habitSds: arms.map(habitSdsOf) }
  const noise = { arms: state.scales, cameras: state.cameras }
  const counted = state.terms.filter((t) => t.evidence.counts)
  const layout = layoutOf(believed, counted, outings.length)
  const standing = { numbers, habits, effects, aims }
  const solved = solveEquations(layout, believed, standing, spread, counted, noise, 'curvature')
  const free = freeShare(counted, effectiveUnknowns(believed, spread, solved))
  return {
    discs,
    arms,
    numbers,
    habits,
    outings,
    aims,
    kinship,
    effects,
    spread,
    gust,
    discrepancy,
    posterior: kept(state.posterior),
    curvature: kept(solved),
    scatter: scatterOf(noise, counted),
    free,
    shapes: shapesOf(noise, counted, free),
  }
}

/** Everything worked out that is otherwise worked out when asked for: it is to travel. */
const kept = (solved: SolvedArrow): SolvedArrow => ({
  ...solved,
  sharedCovariance: solved.sharedCovariance,
  nearCovariance: solved.sharedCovariance,
})
