import type { FlightNumbers } from '../flight/disc.ts'

/** Levels at which numbers are published, the nearest to the disc first. */
export const LEVELS = ['stamped', 'run', 'plastic', 'mold'] as const
export type Level = (typeof LEVELS)[number]

/** The numbers a disc is held to and where they come from. */
export interface InForce {
  readonly level: Level
  readonly numbers: FlightNumbers
}

/** The published numbers in force: the nearest given, from what is stamped on the disc up to its mold. */
export function numbersInForce(
  given: { readonly mold: FlightNumbers } & {
    readonly [L in Exclude<Level, 'mold'>]?: FlightNumbers | null | undefined
  },
): InForce {
  for (const level of LEVELS) {
    const numbers = given[level]
    if (numbers) return { level, numbers }
  }
  return { level: 'mold', numbers: given.mold }
}
