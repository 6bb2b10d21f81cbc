import type { SolvedArrow } from './arrow.ts'
import { aimColumn, effectColumn } from './beliefs.ts'
import { HABIT, OF_HABIT } from './places.ts'

/** How long the steps of a search may be, and how short they must be for it to end. */

/** Steps below these end the search: numbers, ln speed, angles. */
const SMALL = { number: 8e-3, lnSpeed: 8e-4, angle: 8e-4, byClass: 2e-4, lnSpin: 4e-3, pace: 8e-3 }
/** One step moves no further than this. */
const LONGEST = { number: 1.2, lnSpeed: 0.15, angle: 0.07, byClass: 0.02, lnSpin: 0.2, pace: 0.6 }

type Unit = keyof typeof SMALL
const UNIT_OF: Readonly<Record<number, Unit>> = {
  [HABIT.lnSpeed]: 'lnSpeed',
  [HABIT.byClass]: 'byClass',
  [HABIT.hyzerByClass]: 'byClass',
  [HABIT.lnSpin]: 'lnSpin',
}
const OF_HABITS: readonly Unit[] = Array.from({ length: OF_HABIT }, (_, k) => UNIT_OF[k] ?? 'angle')
/** How many unknowns of a kind there are in the border. */
export interface Counts {
  readonly arms: number
  readonly effects: number
  readonly aims: number
}
/** What a column of the border is counted in. */
function unitOf(column: number, { arms, effects, aims }: Counts): Unit {
  if (column < arms * OF_HABIT) return OF_HABITS[column % OF_HABIT]!
  if (column < effectColumn(arms, effects)) return 'number'
  return column < aimColumn(arms, effects, aims) ? 'angle' : 'pace'
}

/** A step in the units of the longest that is taken, all unknowns in one row. */
export function inUnits(solved: SolvedArrow, counts: Counts): Float64Array {
  const own = solved.ownStep.map((s) => s / LONGEST.number)
  const shared = solved.sharedStep.map((s, i) => s / LONGEST[unitOf(i, counts)])
  return Float64Array.of(...own, ...shared)
}

/** Inner product of two steps. */
const product = (a: Float64Array, b: Float64Array) => b.reduce((s, v, i) => s + v * a[i]!, 0)

/** How much of the next step is taken: past the bottom of a bent valley and back again, shorter steps end that. */
export const easedAfter = (ease: number, step: Float64Array, last: Float64Array): number =>
  product(step, last) < -0.1 * product(last, last) ? Math.max(0.1, 0.5 * ease) : Math.min(1, 1.3 * ease)

/** How much of the solved step to take, and whether it was small enough to stop. */
export function damp(solved: SolvedArrow, counts: Counts): { share: number; small: boolean } {
  let longest = 0
  let smallest = true
  const see = (value: number, unit: Unit) => {
    longest = Math.max(longest, Math.abs(value) / LONGEST[unit])
    if (Math.abs(value) > SMALL[unit]) smallest = false
  }
  for (const s of solved.ownStep) see(s, 'number')
  solved.sharedStep.forEach((s, i) => see(s, unitOf(i, counts)))
  return { share: longest > 1 ? 1 / longest : 1, small: smallest }
}
