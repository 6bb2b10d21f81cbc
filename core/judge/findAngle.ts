import type { Air } from '../flight/air.ts'
import type { Body, FlightNumbers } from '../flight/disc.ts'
import { pathFeatures, tracePath } from '../flight/path.ts'
import { DEGREE } from '../flight/units.ts'
import type { Release } from '../flight/release.ts'

/** What the angle is wanted for. */
export type AngleGoal =
  | { readonly kind: 'stand up' }
  | { readonly kind: 'finish on the line' }
  /** Land at a place, m downrange and toward the fade side, to within so many metres. */
  | { readonly kind: 'reach'; readonly carryM: number; readonly veerM: number; readonly withinM: number }

export type FoundAngle =
  | {
      readonly found: true
      readonly hyzerRad: number
      readonly carryM: number
      readonly veerM: number
      /** Distance from the target, m; 0 where there is none. */
      readonly missM: number
    }
  | { readonly found: false; readonly why: string; readonly nearest?: { hyzerRad: number; missM: number } }

/** Angles that are searched, and how closely at first. */
const RANGE = { low: -40 * DEGREE, high: 50 * DEGREE, step: 2 * DEGREE }
const FINE = 1e-5

/** Bisects a function that changes sign between two angles. */
function bisect(f: (hyzerRad: number) => number, low: number, high: number): number {
  let [a, b] = [low, high]
  const rising = f(b) > 0
  while (b - a > FINE) {
    const middle = (a + b) / 2
    if (f(middle) > 0 === rising) b = middle
    else a = middle
  }
  return (a + b) / 2
}

/**
 * The release angle at which a disc does what is wanted, everything else of the release kept: the most hyzer from which
 * it still stands up to flat, the angle nearest to flat at which it lands on the aim line, or the one that lands nearest to
 * a target. Says when no angle between 40° of anhyzer and 50° of hyzer does.
 */
export function findAngle(
  numbers: FlightNumbers,
  body: Body,
  release: Release,
  air: Air,
  goal: AngleGoal,
): FoundAngle {
  const fly = (hyzerRad: number) => tracePath(numbers, body, { ...release, hyzerRad }, air)
  const at = (hyzerRad: number, missM: number): FoundAngle => {
    const { carryM, veerM } = fly(hyzerRad)
    return { found: true, hyzerRad, carryM, veerM, missM }
  }
  const grid = Array.from(
    { length: Math.round((RANGE.high - RANGE.low) / RANGE.step) + 1 },
    (_, i) => RANGE.low + i * RANGE.step,
  )
  if (goal.kind === 'stand up') {
    const lowest = (h: number) => pathFeatures(fly(h)).minBankRad
    const from = grid.filter((h) => h >= 0)
    const last = from.findLastIndex((h) => lowest(h) <= 0)
    if (last < 0)
      return { found: false, why: 'It does not stand up from any hyzer at this speed and in this wind.' }
    if (last === from.length - 1)
      return { found: false, why: 'It stands up even from 50° of hyzer; it has no angle it holds.' }
    if (last === 0 && lowest(RANGE.step) > 0 && lowest(0) >= 0)
      return { found: false, why: 'It does not stand up from any hyzer at this speed and in this wind.' }
    return at(bisect(lowest, from[last]!, from[last + 1]!), 0)
  }
  if (goal.kind === 'finish on the line') {
    const side = (h: number) => fly(h).veerM
    const sides = grid.map(side)
    const crossings = grid
      .slice(1)
      .flatMap((h, i) => (sides[i]! > 0 !== sides[i + 1]! > 0 ? [[grid[i]!, h]] : []))
    if (crossings.length === 0)
      return {
        found: false,
        why:
          sides[0]! > 0
            ? 'It finishes on the fade side from every angle.'
            : 'It finishes on the turn side from every angle.',
      }
    const nearest = crossings
      .map(([a, b]) => bisect(side, a!, b!))
      .sort((a, b) => Math.abs(a) - Math.abs(b))[0]!
    return at(nearest, 0)
  }
  const miss = (h: number) => {
    const { carryM, veerM } = fly(h)
    return Math.hypot(carryM - goal.carryM, veerM - goal.veerM)
  }
  const best = grid.reduce((a, h) => (miss(h) < miss(a) ? h : a), grid[0]!)
  const hyzerRad = golden(miss, best - RANGE.step, best + RANGE.step)
  const missM = miss(hyzerRad)
  if (missM <= goal.withinM) return at(hyzerRad, missM)
  return {
    found: false,
    why: `No angle lands within ${goal.withinM.toFixed(1)} m of it at this power; the nearest misses by ${missM.toFixed(1)} m.`,
    nearest: { hyzerRad, missM },
  }
}

/** Smallest value of a function with one valley between two angles, by golden section. */
function golden(f: (h: number) => number, low: number, high: number): number {
  const part = (Math.sqrt(5) - 1) / 2
  let [a, b] = [low, high]
  let [c, d] = [b - part * (b - a), a + part * (b - a)]
  let [fc, fd] = [f(c), f(d)]
  while (b - a > FINE) {
    if (fc < fd) {
      ;[b, d, fd] = [d, c, fc]
      c = b - part * (b - a)
      fc = f(c)
    } else {
      ;[a, c, fc] = [c, d, fd]
      d = a + part * (b - a)
      fd = f(d)
    }
  }
  return (a + b) / 2
}
