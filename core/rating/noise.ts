import type { SolvedArrow } from './arrow.ts'
import { aimColumn, ownVariances, paceColumn } from './beliefs.ts'
import type { Believed, Spread } from './beliefs.ts'
import { measureGust } from './eliminate.ts'
import { AIM_LINE_SD } from './evidence.ts'
import { OF_DISC, OF_HABIT } from './places.ts'
import type { ThrowTerm } from './throwTerm.ts'
import { PACE_VARIANCE } from './worn.ts'

/** How much throws scatter: the weight of each, the noise of each arm, the gusts of all; learnt while the rest is. */

/** Degrees of freedom of a throw's tails: a bad throw nobody flagged pulls little. */
const NU = 4
/** What the noise scale is believed to be before any throw, and how many observations that is worth. */
export const SCALE_PRIOR = { value: 1, worth: 24 }
/** How many throws the belief in gusts is worth. */
export const GUST_WORTH = 2
const HURRY = 2.5
/**
 * How far a throw of so many observations lies off, squared and whitened, before it is one that hardly happens: a standard deviation
 * above the mean of χ².
 */
const ordinary = (count: number): number => count + Math.sqrt(2 * count)

/**
 * What a throw pulls that lies so far off: all of it where it is an ordinary one, and beyond as Student's t has it. A throw that the
 * unknowns have followed, as a disc's only one, pulls no more than one that they could not follow.
 *
 * @param distance squared misfit in its own noise
 */
export const weightOf = (count: number, distance: number): number =>
  distance <= ordinary(count) ? 1 : (NU + ordinary(count)) / (NU + distance)

/** ln of how likely a throw is that lies so far off, up to a constant: what {@link weightOf} is the slope of. */
export function lnOfMisfit(count: number, distance: number): number {
  const bound = ordinary(count)
  return (
    -0.5 * (distance <= bound ? distance : bound + (NU + bound) * Math.log((NU + distance) / (NU + bound)))
  )
}

/**
 * Mean of weight times misfit of throws that scatter like a Gaussian, an observation: by numerical integration over χ², to 0.002 up to
 * 30 observations.
 */
export const pulledMisfit = (count: number): number => 1 - 0.14 / Math.sqrt(count + 0.6)
/** How the likelihood of such throws bends, against their mean weight: by the same integration, to 0.003. */
export const bendOf = (count: number): number => 1 - 0.106 * Math.max(1, count) ** -0.69

/** How much arms and the instruments of outings scatter against what is believed, as variance ratios. */
export interface Noise {
  readonly arms: Float64Array
  /** Of recorded paths, an outing each: a camera stands where it was put up. */
  readonly cameras: Float64Array
}

/**
 * What a throw pulls: the weight of its misfit in the noise of its arm; and what its recorded path pulls, by what the path
 * adds to the misfit, in the noise of the camera. A path has a dozen times as many rows as a landing: were they weighed together, a
 * camera better than believed would pass for an arm that hardly scatters, and a path that lost its disc for a bad throw.
 */
export function weigh(counted: readonly ThrowTerm[], { arms, cameras }: Noise): void {
  for (const t of counted) {
    t.weight = weightOf(t.count, t.distance / arms[t.arm]!)
    t.pathWeight = weightOf(pathRowsOf(t), t.pathDistance / cameras[t.outing]!)
  }
}

/** Rows of a recorded path. */
export const pathRowsOf = (t: ThrowTerm): number => t.rows - t.seenRows

/**
 * What the information of throws is for: a step of the search; how the likelihood itself bends, which says how far another throw
 * moves the best; or the posterior that is stated.
 */
export type Purpose = 'step' | 'curvature' | 'posterior'

/** How much of a throw's information, and of its path's, the normal equations take. */
export function sharesOf(
  t: ThrowTerm,
  { arms, cameras }: Noise,
  purpose: Purpose,
): readonly [number, number] {
  const share = SHARE_FOR[purpose]
  return [
    (t.weight * share(t.count)) / arms[t.arm]!,
    (t.pathWeight * share(pathRowsOf(t))) / cameras[t.outing]!,
  ]
}

const SHARE_FOR: Readonly<Record<Purpose, (count: number) => number>> = {
  step: () => 1,
  curvature: bendOf,
  // the sandwich variance of such an estimate is that of its pulls to a hundredth: P. J. Huber, Robust estimation of a location parameter, 1964
  posterior: () => 1,
}

/** What the noise scale of an arm is believed to be before any throw. */
export const SCALE_BELIEVED = SCALE_PRIOR.value

/** Unknowns the throws have really determined: all of them less what the priors still hold. */
export function effectiveUnknowns(
  believed: Believed,
  spread: Spread,
  outings: number,
  solved: SolvedArrow,
): number {
  let count = 0
  believed.discs.forEach((_, d) => {
    const variance = ownVariances(believed, spread, d)
    for (let k = 0; k < OF_DISC; k++)
      count += Math.max(0, 1 - solved.ownInverse[d * 9 + k * 4]! / variance[k]!)
  })
  believed.habitSds.forEach((sds, a) => {
    for (let k = 0; k < OF_HABIT; k++) {
      const at = a * OF_HABIT + k
      count += 1 - solved.nearCovariance[at * solved.border + at]! / sds[k]! ** 2
    }
  })
  const variance = (at: number) => solved.nearCovariance[at * solved.border + at]!
  const [arms, effects] = [believed.habitSds.length, believed.kinship.effects.length]
  for (let o = 0; o < outings; o++) count += 1 - variance(aimColumn(arms, effects, o)) / AIM_LINE_SD ** 2
  believed.worn.discs.forEach(
    (_, i) => (count += 1 - variance(paceColumn(arms, effects, outings, i)) / PACE_VARIANCE),
  )
  return Math.max(0, count)
}

/** Gusts a step further: what varies how much is learnt slowly, so they are hurried along. */
export const gustier = (gust: number, counted: readonly ThrowTerm[], scales: Float64Array): number =>
  gust * Math.min(2, Math.max(0.5, (gustOf(counted, scales) / gust) ** HURRY))

/** Gusts as all throws together show them, bad throws aside, held by a prior. */
export function gustOf(counted: readonly ThrowTerm[], scales: Float64Array): number {
  let [sum, count] = [GUST_WORTH, GUST_WORTH]
  for (const t of counted) {
    measureGust(t, scales[t.arm]!)
    const weight = Math.min(1, t.weight)
    sum += (weight * t.gustiness * t.windVariance) / t.windBelieved / 2
    count += weight
  }
  return sum / count
}

/** What throws have shown of one noise scale: their weighted misfit, and in how many observations. */
export interface Scatter {
  readonly misfit: number
  readonly seen: number
}

/** What throws show of the noise of each arm, and of the camera of each outing. */
export function scatterOf({ arms, cameras }: Noise, counted: readonly ThrowTerm[]) {
  const none = (scales: Float64Array) => Array.from(scales, () => ({ misfit: 0, seen: 0 }))
  const shown = { arms: none(arms), cameras: none(cameras) }
  for (const t of counted) {
    const [arm, camera] = [shown.arms[t.arm]!, shown.cameras[t.outing]!]
    const path = pathRowsOf(t)
    arm.misfit += t.weight * t.distance
    arm.seen += pulledMisfit(t.count) * t.count
    camera.misfit += t.pathWeight * t.pathDistance
    if (path > 0) camera.seen += pulledMisfit(path) * path
  }
  return shown
}

/** A noise scale: the weighted misfit per observation, held by a prior worth a couple of dozen of them. */
export const scaleOf = ({ misfit, seen }: Scatter, free: number): number =>
  (SCALE_PRIOR.value * SCALE_PRIOR.worth + misfit) / (SCALE_PRIOR.worth + free * seen)

/** How many throws the belief is worth that whitened landings scatter alike every way. */
const SHAPE_WORTH = 40

/**
 * How whitened landings of each arm scatter together, in its own noise: a round cloud where release, wind and measuring scatter
 * in the proportions believed. Where they do not, flights that scatter more under the model's errors would be thought likelier or
 * less likely for that alone, and thousands of throws drag every habit there; see bend.ts.
 */
export function shapesOf({ arms }: Noise, counted: readonly ThrowTerm[], free: number): Float64Array[] {
  const shapes = Array.from(arms, () => Float64Array.of(SHAPE_WORTH, 0, 0, SHAPE_WORTH))
  const seen = new Float64Array(arms.length).fill(SHAPE_WORTH)
  for (const t of counted) {
    const shape = shapes[t.arm]!
    const weight = t.weight / arms[t.arm]!
    for (let i = 0; i < 2; i++)
      for (let j = 0; j < 2; j++) shape[i * 2 + j]! += weight * t.white[i]! * t.white[j]!
    seen[t.arm]! += pulledMisfit(t.count) * free
  }
  return shapes.map((shape, a) => shape.map((v) => v / seen[a]!))
}

/** Share of the observations that the unknowns have not used up. */
export const freeShare = (counted: readonly ThrowTerm[], unknowns: number): number =>
  1 -
  Math.min(
    0.8,
    unknowns /
      Math.max(
        1,
        counted.reduce((n, t) => n + t.count + pathRowsOf(t), 0),
      ),
  )

/** Learns every noise scale anew. */
export function rescale(noise: Noise, counted: readonly ThrowTerm[], unknowns: number): void {
  const free = freeShare(counted, unknowns)
  const shown = scatterOf(noise, counted)
  shown.arms.forEach((s, i) => (noise.arms[i] = scaleOf(s, free)))
  shown.cameras.forEach((s, i) => (noise.cameras[i] = scaleOf(s, free)))
}
