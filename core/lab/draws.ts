import { normalQuantile } from '../rating/normal.ts'
import { SHIFTS } from './who.ts'

/** What differs from throw to throw: speed, launch, hyzer, nose, direction, the wind along and across, and the disc's three numbers. */
export const VARIES = 10
/** The same where whoever throws is known to a point, and what is not known of them differs too. */
export const VARIES_BY_ARM = VARIES + SHIFTS

/**
 * Steps of an additive recurrence that fills a cube of some dimensions evenly: powers of the generalised golden ratio, the root of
 * x^(d+1) = x + 1.
 */
function stepsIn(dimensions: number): number[] {
  let x = 1.5
  for (let i = 0; i < 60; i++) x = (1 + x) ** (1 / (dimensions + 1))
  return Array.from({ length: dimensions }, (_, i) => x ** -(i + 1) % 1)
}

const made = new Map<string, Float64Array>()
/**
 * So many throws as they may differ from what is meant: rows of as many standard normal values as differ, which fill their space evenly.
 * Always the same, so that a cloud follows the hand without flicker.
 */
export function drawsOf(count: number, varies: number = VARIES): Float64Array {
  const known = made.get(`${count} ${varies}`)
  if (known) return known
  const steps = stepsIn(varies)
  const draws = new Float64Array(count * varies)
  for (let i = 0; i < count; i++)
    for (let j = 0; j < varies; j++) {
      const p = (0.5 + (i + 1) * steps[j]!) % 1
      draws[i * varies + j] = normalQuantile(Math.min(1 - 1e-4, Math.max(1e-4, p)))
    }
  made.set(`${count} ${varies}`, draws)
  return draws
}
