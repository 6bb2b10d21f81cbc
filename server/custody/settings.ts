import path from 'node:path'
import type { CopiesOptions } from './copies.ts'

/**
 * Where copies are kept and how many, from what the environment names.
 *
 * @param usual the folder where nothing else is said
 */
export const copySettingsOf = (
  env: Readonly<Record<string, string | undefined>>,
  usual: string,
): CopiesOptions => ({
  folder: path.resolve(env['VEER_COPIES'] || usual),
  most: 1e9 * Number(env['VEER_COPIES_GB'] || 5),
})
