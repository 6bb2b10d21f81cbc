import { ARM_SPEED_NUMBER } from '../flight/arm.ts'
import { factorise } from '../rating/cholesky.ts'
import { HABIT, OF_HABIT } from '../rating/places.ts'
import type { FitState } from '../rating/state.ts'

/** An arm as its throws have shown it: what it does besides what is meant. */
export interface ArmKnown {
  /** Its habit, {@link OF_HABIT} values in the order of {@link HABIT}. */
  readonly habit: readonly number[]
  /** What is not known of that: covariance, row by row. */
  readonly covariance: readonly number[]
}

/** What a habit shifts of a release, with a disc of one speed: ln speed, launch, hyzer, nose, ln spin. */
export const SHIFTS = 5
/** How each of them follows from the habit: one part of it, and one that grows with the speed number. */
const MADE_OF: readonly (readonly [own: number, byClass?: number])[] = [
  [HABIT.lnSpeed, HABIT.byClass],
  [HABIT.launch],
  [HABIT.hyzer, HABIT.hyzerByClass],
  [HABIT.nose],
  [HABIT.lnSpin],
]

/** Each shift as weights of the habit. @param speed the disc's speed number */
const weightsAt = (speed: number): (readonly [place: number, weight: number])[][] =>
  MADE_OF.map(([own, byClass]) => [
    [own, 1],
    ...(byClass === undefined ? [] : [[byClass, speed - ARM_SPEED_NUMBER] as const]),
  ])

/** How an arm shifts releases with a disc of some speed number, {@link SHIFTS} values: ln, rad, rad, rad, ln. */
export const shiftOf = ({ habit }: ArmKnown, speed: number): number[] =>
  weightsAt(speed).map((list) => list.reduce((s, [k, w]) => s + w * habit[k]!, 0))

/** What is not known of that, as a lower triangle L with L·Lᵀ its covariance. */
export function shiftRoot({ covariance }: ArmKnown, speed: number): Float64Array {
  const weights = weightsAt(speed)
  const root = Float64Array.from({ length: SHIFTS * SHIFTS }, (_, at) => {
    const [i, j] = [Math.floor(at / SHIFTS), at % SHIFTS]
    let s = i === j ? 1e-12 : 0
    for (const [p, u] of weights[i]!)
      for (const [q, v] of weights[j]!) s += u * v * covariance[p * OF_HABIT + q]!
    return s
  })
  factorise(root, SHIFTS)
  return root
}

/** The same with whose arm it is, how many of its throws say it, and how much it scatters against what is usual. */
export interface ArmShown extends ArmKnown {
  /** As the evidence names it. */
  readonly arm: string
  readonly throws: number
  readonly scatter: number
}

/** Every arm that threw, as a fit knows it. */
export function armsShown({ evidence, habits, posterior, scales }: FitState): ArmShown[] {
  const { border, sharedCovariance } = posterior
  return evidence.arms.flatMap(({ id }, a) => {
    const throws = evidence.throws.filter((t) => t.arm === id && t.counts).length
    if (throws === 0) return []
    const first = a * OF_HABIT
    const places = Array.from({ length: OF_HABIT }, (_, k) => first + k)
    return [
      {
        arm: id,
        throws,
        scatter: Math.sqrt(scales[a]!),
        habit: [...habits[a]!],
        covariance: places.flatMap((p) => places.map((q) => sharedCovariance[p * border + q]!)),
      },
    ]
  })
}
