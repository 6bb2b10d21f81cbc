import { LOGGED } from '../flight/landing.ts'

/** A place on the field: downrange along the aim line, and to the fade side of it, m. */
export interface FieldPlace {
  readonly downM: number
  readonly sideM: number
}

/** Something that stands in the way, or that a throw must not end in or has to end in. */
export type Obstacle =
  /** A tree: nothing gets through it up to its height. */
  | { readonly kind: 'tree'; readonly at: FieldPlace; readonly radiusM: number; readonly heightM: number }
  /** Branches from one distance to another: nothing above a height gets through. */
  | { readonly kind: 'ceiling'; readonly fromM: number; readonly toM: number; readonly heightM: number }
  /** Water or out of bounds beyond a line: on the other side of it than the tee. */
  | { readonly kind: 'line'; readonly from: FieldPlace; readonly to: FieldPlace; readonly water: boolean }
  /** Water inside a circle. */
  | { readonly kind: 'pond'; readonly at: FieldPlace; readonly radiusM: number }
  /** Where a throw should come down. */
  | { readonly kind: 'zone'; readonly at: FieldPlace; readonly radiusM: number }

/** Whether something stops a throw in the air. */
export const stands = ({ kind }: Obstacle): boolean => kind === 'tree' || kind === 'ceiling'

/** What became of a throw: it is in, lands where it should not or outside every zone, or stops at an obstacle. */
export const FATES = ['in', 'stopped', 'out', 'off the zone'] as const
export type Fate = (typeof FATES)[number]

/** On which side of a line a place is: positive on that of the tee. */
function sideOfTee(
  { from, to }: { readonly from: FieldPlace; readonly to: FieldPlace },
  at: FieldPlace,
): number {
  const cross = (p: FieldPlace) =>
    (to.downM - from.downM) * (p.sideM - from.sideM) - (to.sideM - from.sideM) * (p.downM - from.downM)
  return cross(at) * Math.sign(cross({ downM: 0, sideM: 0 }) || 1)
}

const within = (at: FieldPlace, place: FieldPlace, radiusM: number) =>
  Math.hypot(place.downM - at.downM, place.sideM - at.sideM) <= radiusM

/** The least distance of a tree's axis from a stretch of a path seen from above, m, and how high the path is there. */
function passing(at: FieldPlace, log: Float64Array, a: number, b: number) {
  const [x0, y0, x1, y1] = [log[a + 1]!, log[a + 2]!, log[b + 1]!, log[b + 2]!]
  const [dx, dy] = [x1 - x0, y1 - y0]
  const length = dx * dx + dy * dy
  const share = Math.max(
    0,
    Math.min(1, length > 0 ? ((at.downM - x0) * dx + (at.sideM - y0) * dy) / length : 0),
  )
  return {
    distanceM: Math.hypot(x0 + share * dx - at.downM, y0 + share * dy - at.sideM),
    heightM: log[a + 3]! + share * (log[b + 3]! - log[a + 3]!),
  }
}

/** Whether a stretch of a path meets an obstacle that stops it. */
function meets(o: Obstacle, log: Float64Array, a: number, b: number): boolean {
  if (o.kind === 'tree') {
    const [x0, x1] = [log[a + 1]!, log[b + 1]!]
    if (Math.max(x0, x1) < o.at.downM - o.radiusM || Math.min(x0, x1) > o.at.downM + o.radiusM) return false
    const { distanceM, heightM } = passing(o.at, log, a, b)
    return distanceM <= o.radiusM && heightM <= o.heightM
  }
  if (o.kind !== 'ceiling') return false
  // the part of the stretch that is under the branches
  const [x0, x1, z0, z1] = [log[a + 1]!, log[b + 1]!, log[a + 3]!, log[b + 3]!]
  const from = Math.max(Math.min(x0, x1), o.fromM)
  const to = Math.min(Math.max(x0, x1), o.toM)
  if (from > to) return false
  const heightAt = (x: number) => (x1 === x0 ? Math.max(z0, z1) : z0 + ((x - x0) / (x1 - x0)) * (z1 - z0))
  return Math.max(heightAt(from), heightAt(to)) > o.heightM
}

/** What became of a throw, and which of the obstacles decided it. */
export interface ThrowEnd {
  readonly fate: Fate
  /** Place in the list of obstacles; −1 where none did. */
  readonly by: number
  /** Where it was stopped, or came down. */
  readonly at: FieldPlace
}

/**
 * What becomes of a flight among obstacles.
 *
 * @param log rows of {@link LOGGED} values as the inner loop keeps them, the last just past the landing
 * @param steps how many of them follow the release
 * @param landed where it comes down
 */
export function endedAmong(
  obstacles: readonly Obstacle[],
  log: Float64Array,
  steps: number,
  landed: FieldPlace,
): ThrowEnd {
  // the first that is met, looked for only before where another was
  let stop = steps
  let stopper = -1
  for (const [by, o] of obstacles.entries()) {
    if (!stands(o)) continue
    for (let i = 0; i < stop; i++)
      if (meets(o, log, i * LOGGED, (i + 1) * LOGGED)) {
        stop = i
        stopper = by
      }
  }
  if (stopper >= 0) {
    const at = { downM: log[stop * LOGGED + 1]!, sideM: log[stop * LOGGED + 2]! }
    return { fate: 'stopped', by: stopper, at }
  }
  let isZoned = true
  let zone = -1
  for (const [by, o] of obstacles.entries()) {
    if (o.kind === 'line' && sideOfTee(o, landed) < 0) return { fate: 'out', by, at: landed }
    if (o.kind === 'pond' && within(o.at, landed, o.radiusM)) return { fate: 'out', by, at: landed }
    if (o.kind !== 'zone') continue
    if (zone < 0) isZoned = false
    zone = by
    isZoned ||= within(o.at, landed, o.radiusM)
  }
  return { fate: isZoned ? 'in' : 'off the zone', by: isZoned ? -1 : zone, at: landed }
}
