import type { ErrandTrouble } from '../store/errands.ts'
import { BadPackage } from './zip.ts'

/** What kept something from being done with a package. */
export const troubleOf = (e: unknown): ErrandTrouble =>
  e instanceof BadPackage
    ? { said: e.message, problems: e.problems }
    : { said: `It could not be done: ${(e as Error).message}. Nothing was changed.` }

export const countedThrows = (n: number): string => (n === 1 ? '1 throw' : `${n} throws`)
