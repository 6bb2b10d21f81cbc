import { FULL_POWER_FROM } from './armLoad.ts'
import type { DealtThrow } from './deal.ts'

/** What a plan asks of one arm. */
export interface ArmEffort {
  readonly thrower: string | null
  readonly throws: number
  readonly fullPower: number
}

/** What a plan asks of a person. */
export interface Effort {
  readonly throws: number
  /** At nine tenths of full power or more. */
  readonly fullPower: number
  readonly minutes: number
  readonly walkM: number
  /** Of each thrower, in the order they come. */
  readonly arms: readonly ArmEffort[]
}

/** Fetching a grip, throwing, watching it land and writing it down, s. */
const THROW_S = 35
/** Walking in grass while looking for discs, m/s; bending down for each of them, s. */
const WALK_MPS = 1.1
const PICK_UP_S = 8
/**
 * Throws, minutes and metres of a plan. After each round somebody walks to the discs and throws on from there, so that a
 * round costs one walk of its longest throw.
 *
 * @param carryM how far a disc is expected to carry, m
 */
export function effortOf(
  throws: readonly Pick<DealtThrow, 'disc' | 'round' | 'power' | 'thrower'>[],
  carryM: (disc: string) => number,
): Effort {
  const longest = new Map<number, number>()
  const arms = new Map<string | null, { throws: number; fullPower: number }>()
  for (const t of throws) {
    longest.set(t.round, Math.max(longest.get(t.round) ?? 0, carryM(t.disc)))
    const arm = arms.get(t.thrower) ?? { throws: 0, fullPower: 0 }
    arm.throws++
    if (t.power >= FULL_POWER_FROM) arm.fullPower++
    arms.set(t.thrower, arm)
  }
  const walkM = [...longest.values()].reduce((s, m) => s + m, 0)
  const seconds = throws.length * (THROW_S + PICK_UP_S) + walkM / WALK_MPS
  return {
    throws: throws.length,
    fullPower: [...arms.values()].reduce((n, a) => n + a.fullPower, 0),
    minutes: seconds / 60,
    walkM,
    arms: [...arms].map(([thrower, arm]) => ({ thrower, ...arm })),
  }
}
