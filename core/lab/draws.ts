import { normalQuantile } from '../rating/normal.ts'

/** What differs from throw to throw: speed, launch, hyzer, nose, direction, the wind along and across, and the disc's three numbers. */
export const VARIES = 10

/**
 * Steps of an additive recurrence that fills a cube of {@link VARIES} dimensions evenly: powers of the generalised golden ratio,
 * the root of x^(d+1) = x + 1.
 */
const STEPS: readonly number[] = (() => {
  let x = 1.5
  for (let i = 0; i < 60; i++) x = (1 + x) ** (1 / (VARIES + 1))
  return Array.from({ length: VARIES }, (_, i) => x ** -(i + 1) % 1)
})()

const made = new Map<number, Float64Array>()
/**
 * So many throws as they may differ from what is meant: rows of {@link VARIES} standard normal values that fill their space evenly.
 * Always the same, so that a cloud follows the hand without flicker.
 */
export function drawsOf(count: number): Float64Array {
  const known = made.get(count)
  if (known) return known
  const draws = new Float64Array(count * VARIES)
  for (let i = 0; i < count; i++)
    for (let j = 0; j < VARIES; j++) {
      const p = (0.5 + (i + 1) * STEPS[j]!) % 1
      draws[i * VARIES + j] = normalQuantile(Math.min(1 - 1e-4, Math.max(1e-4, p)))
    }
  made.set(count, draws)
  return draws
}
