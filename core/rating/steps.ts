import type { SolvedArrow } from './arrow.ts'
import { HABIT, OF_HABIT } from './places.ts'

/** How long the steps of a search may be, and how short they must be for it to end. */

/** Steps below these end the search: numbers, ln speed, angles. */
const SMALL = { number: 8e-3, lnSpeed: 8e-4, angle: 8e-4 }
/** One step moves no further than this. */
const LONGEST = { number: 1.2, lnSpeed: 0.15, angle: 0.07 }

/** A step in the units of the longest that is taken, all unknowns in one row. */
export function inUnits(solved: SolvedArrow, arms: number): Float64Array {
  const own = solved.ownStep.map((s) => s / LONGEST.number)
  const shared = solved.sharedStep.map((s, i) => {
    if (i >= arms * OF_HABIT) return s / LONGEST.number
    return s / (i % OF_HABIT === HABIT.lnSpeed ? LONGEST.lnSpeed : LONGEST.angle)
  })
  return Float64Array.of(...own, ...shared)
}

/** Inner product of two steps. */
export const product = (a: Float64Array, b: Float64Array) => b.reduce((s, v, i) => s + v * a[i]!, 0)

/** How much of the solved step to take, and whether it was small enough to stop. */
export function damp(solved: SolvedArrow, arms: number): { share: number; small: boolean } {
  let longest = 0
  let smallest = true
  const see = (value: number, limit: number, small: number) => {
    longest = Math.max(longest, Math.abs(value) / limit)
    if (Math.abs(value) > small) smallest = false
  }
  for (const s of solved.ownStep) see(s, LONGEST.number, SMALL.number)
  solved.sharedStep.forEach((s, i) => {
    if (i >= arms * OF_HABIT) see(s, LONGEST.number, SMALL.number)
    else if (i % OF_HABIT === HABIT.lnSpeed) see(s, LONGEST.lnSpeed, SMALL.lnSpeed)
    else see(s, LONGEST.angle, SMALL.angle)
  })
  return { share: longest > 1 ? 1 / longest : 1, small: smallest }
}
