import type { SolvedArrow } from './arrow.ts'
import type { Believed } from './beliefs.ts'
import { layoutOf, solveEquations } from './equations.ts'
import { habitSdsOf } from './evidence.ts'
import type { Arm, RatedDisc } from './evidence.ts'
import { effectiveUnknowns, freeShare, scatterOf, shapesOf } from './noise.ts'
import type { Scatter } from './noise.ts'
import type { FitState } from './state.ts'

/** What a fit has learnt, its throws put aside: small enough to keep, enough to say what a few more throws change. */
export interface Base extends Omit<FitState, 'evidence' | 'terms'> {
  readonly discs: readonly RatedDisc[]
  readonly arms: readonly Arm[]
  /** How the likelihood itself bends at the solution: how far another throw moves it. */
  readonly curvature: SolvedArrow
  /** What each arm, and the camera of each outing, has shown of its noise, and the share of observations left to show it. */
  readonly scatter: { readonly arms: readonly Scatter[]; readonly cameras: readonly Scatter[] }
  readonly free: number
  /** How whitened landings of each arm scatter together. */
  readonly shapes: readonly Float64Array[]
}

/** What is left of a fit once its throws are put aside. */
export function baseOf({ evidence: { discs, arms }, terms, ...learnt }: FitState): Base {
  const believed: Believed = {
    discs,
    kinship: learnt.kinship,
    habitSds: arms.map(habitSdsOf),
    worn: learnt.worn,
  }
  const noise = { arms: learnt.scales, cameras: learnt.cameras }
  const counted = terms.filter((t) => t.evidence.counts)
  const layout = layoutOf(believed, counted, learnt.outings.length)
  const solved = solveEquations(layout, believed, learnt, learnt.spread, counted, noise, 'curvature')
  const free = freeShare(counted, effectiveUnknowns(believed, learnt.spread, learnt.outings.length, solved))
  return {
    ...learnt,
    discs,
    arms,
    posterior: kept(learnt.posterior),
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
