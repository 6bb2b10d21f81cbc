import { BANKS } from '../flight/glimpses.ts'
import { forward } from './cholesky.ts'
import type { FlightJob } from './crew.ts'
import { THROW_SD } from './evidence.ts'
import { flyPoint, linearise, SEEN } from './linear.ts'
import { handPlace, MAX_ROWS } from './observations.ts'
import { POINT } from './places.ts'
import type { ThrowTerm } from './throwTerm.ts'

/**
 * The flights of a throw in a fit: when one has to be flown again, and when its derivatives have to be taken again, which cost
 * ten times as much.
 */

/** How far a point may wander from where it was last flown before it is flown again, in the units below. */
const STALE = 0.06
/** And before its derivatives are taken again: they bend less, and cost ten times as much. */
const SLOPE_STALE = 1.5
/** And how far off they may be: as a share of the step they foretold, and of what is not known of a throw. */
const MISLED = { ofStep: 0.02, ofSd: 0.002 }
const REACH = [0.5, 0.5, 0.5, ...THROW_SD, 0.05]

/** Whether a point has wandered from another by more than `reach` in anything. */
export function wandered(p: Float64Array, from: Float64Array, reach: number): boolean {
  for (let j = 0; j < POINT; j++) if (Math.abs(p[j]! - from[j]!) > reach * REACH[j]!) return true
  return false
}

/** Flies a throw at a point, clamped in place, with derivatives where a place for them is given; a recorded path's part is whitened. */
export function flyAt(
  { circumstances, marks, path }: ThrowTerm,
  at: Float64Array,
  seen: Float64Array,
  jacobian?: Float64Array,
): void {
  if (jacobian) linearise(circumstances, at, seen, jacobian, marks)
  else flyPoint(circumstances, at, seen, marks)
  if (!path) return
  const m = path.marks.length
  for (const { channel, factor } of path.channels) {
    const from = SEEN + BANKS + channel * m
    forward(factor, m, seen, from)
    if (jacobian) for (let j = 0; j < POINT; j++) forward(factor, m, jacobian, from * POINT + j, POINT)
  }
}

/**
 * Flies a throw again where it has wandered too far. Its derivatives are kept as long as they foretold what is now seen;
 * they cost ten times as much as the flight.
 *
 * @param patience how many times further than usual it may wander before it is flown again
 * @param ease how many times further off than usual its derivatives may be before they are taken again
 * @returns the flight to be flown with derivatives, and handed on to {@link takeSlopes}; undefined where none is needed
 */
export function flyAnew(term: ThrowTerm, patience: number, ease: number): FlightJob | undefined {
  const { point: p, kinds, rows, slope, seen, jacobian } = term
  if (term.flown && !wandered(p, term.flownAt, patience * STALE)) return undefined
  if (term.flown && !wandered(p, term.slopedAt, patience * SLOPE_STALE)) {
    for (let r = 0; r < rows; r++) {
      const kind = kinds[r]!
      let step = 0
      if (kind >= 0)
        for (let j = 0; j < POINT; j++) step += slope[r * POINT + j]! * (p[j]! - term.flownAt[j]!)
      foretold[r] = kind >= 0 ? seen[kind]! + step : 0
      strode[r] = Math.abs(step)
    }
    term.flownAt.set(p)
    flyAt(term, term.flownAt, seen)
    if (!misled(term, ease)) return undefined
  }
  term.flownAt.set(p)
  if (term.marks === undefined) return { ...term.circumstances, at: term.flownAt, seen, jacobian }
  flyAt(term, term.flownAt, seen, jacobian)
  takeSlopes(term)
  return undefined
}

/** Takes over the derivatives of a flight just flown. */
export function takeSlopes(term: ThrowTerm): void {
  const { kinds, rows, jacobian, slope } = term
  term.slopedAt.set(term.flownAt)
  term.flown = true
  for (let r = 0; r < rows; r++) {
    const kind = kinds[r]!
    for (let j = 0; j < POINT; j++)
      slope[r * POINT + j] = kind >= 0 ? jacobian[kind * POINT + j]! : j === handPlace(kind) ? 1 : 0
  }
}

const foretold = new Float64Array(MAX_ROWS)
const strode = new Float64Array(MAX_ROWS)

/** Whether the derivatives were off, against the step they foretold and against how surely anything is seen at all. */
function misled({ rows, kinds, factor, seen }: ThrowTerm, ease: number): boolean {
  for (let r = 0; r < rows; r++) {
    if (kinds[r]! < 0) continue
    let variance = 0
    for (let k = 0; k <= r; k++) variance += factor[r * rows + k]! ** 2
    const off = Math.abs(seen[kinds[r]!]! - foretold[r]!)
    if (off > ease * (MISLED.ofStep * strode[r]! + MISLED.ofSd * Math.sqrt(variance))) return true
  }
  return false
}
