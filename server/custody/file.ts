import { once } from 'node:events'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import type pg from 'pg'
import { writePackage } from './write.ts'
import type { TellProgress } from './write.ts'
import { Package } from './zip.ts'

/** Something that takes long: told how far it is, and broken off. */
export interface Under {
  readonly told?: TellProgress | undefined
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
 * @param aside what it is called until then
 * @returns how many throws it holds
 */
export async function writeWhole(
  pool: pg.Pool,
  file: string,
  under: Under,
  aside = `${file}.part`,
): Promise<number> {
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

const HOST = os.hostname().replaceAll('.', '_')
/** What a half-made file is called: by whom it is made, so that others know whether it is still being made. */
export const halfMade = (name: string): string => `${name}.${HOST}-${process.pid}.part`
const HALF_MADE = /\.([^./]*)-(\d+)\.part$/
/** A half-made file of which nobody knows who makes it is left behind when nothing has come to it for so long, ms. */
const LEFT_MS = 3_600_000

const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch (e) {
    return (e as NodeJS.ErrnoException).code === 'EPERM'
  }
}

/**
 * Lets go of half-made files in a folder that nobody is making any more.
 *
 * @param starting whether this process has only begun, and makes none itself: one of its number is an earlier one’s
 */
export async function sweep(folder: string, starting: boolean): Promise<void> {
  const names = await fs.promises.readdir(folder).catch(() => [])
  for (const name of names.filter((n) => n.endsWith('.part'))) {
    const file = path.join(folder, name)
    const [, host, pid] = name.match(HALF_MADE) ?? []
    const made = await fs.promises.stat(file).catch(() => undefined)
    const left =
      host === HOST
        ? Number(pid) === process.pid
          ? starting
          : !isAlive(Number(pid))
        : made !== undefined && Date.now() - made.mtimeMs > LEFT_MS
    if (left) await fs.promises.rm(file, { force: true })
  }
}
