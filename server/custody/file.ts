import { once } from 'node:events'
import fs from 'node:fs'
import type pg from 'pg'
import { writePackage } from './write.ts'
import type { Told } from './write.ts'
import { Package } from './zip.ts'

/** Something that takes long: told how far it is, and broken off. */
export interface Under {
  readonly told?: Told | undefined
  readonly signal?: AbortSignal | undefined
}

/**
 * Does something with a package that has been read and found whole.
 *
 * @throws BadPackage where it is none, or not as it was written
 */
export async function withPackage<T>(
  file: string,
  { told, signal }: Under,
  work: (pack: Package) => T | Promise<T>,
): Promise<T> {
  const pack = await Package.open(file)
  try {
    await pack.check(told, signal)
    return await work(pack)
  } finally {
    pack.close()
  }
}

/**
 * Writes everything into a file: aside, and under its name once it has been read back and is whole. Nothing is left of one
 * that is not.
 *
 * @returns how many throws it holds
 */
export async function writeWhole(pool: pg.Pool, file: string, under: Under): Promise<number> {
  const aside = `${file}.part`
  try {
    const out = fs.createWriteStream(aside, { mode: 0o600 })
    await once(out, 'open')
    await writePackage(pool, out, under)
    const throws = await withPackage(aside, under, (pack) => pack.throws)
    await fs.promises.rename(aside, file)
    return throws
  } finally {
    await fs.promises.rm(aside, { force: true })
  }
}
