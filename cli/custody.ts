import fs from 'node:fs'
import path from 'node:path'
import { ownThrows } from '../demo/away.ts'
import { Copies } from '../server/custody/copies.ts'
import type { CopiesOptions } from '../server/custody/copies.ts'
import { withPackage, writeWhole } from '../server/custody/file.ts'
import { ofEverything } from '../server/custody/kind.ts'
import { restorePackage } from '../server/custody/restore.ts'
import { copyStandingOf } from '../server/custody/standing.ts'
import type { TellProgress } from '../server/custody/write.ts'
import { BadPackage } from '../server/custody/zip.ts'
export { copySettingsOf } from '../server/custody/settings.ts'
import { openDatabase } from '../server/store/database.ts'
import type { Connection } from '../server/store/database.ts'

/** What keeps it from being done, in a sentence; nothing was changed. */
export class CannotBeDone extends Error {}

type Say = (line: string) => void

const USAGE = {
  backup:
    'npm run backup -- FILE: writes everything the database holds into one file (a Frictionless Data Package, zip).',
  restore:
    'npm run restore -- FILE [--yes]: puts what the file holds in the place of what the database holds, all of it or nothing.',
}

/** Says how far it is every tenth of it. */
function tenths(say: Say): TellProgress {
  let said = ''
  return ({ stage, done, total }) => {
    const now = `${stage} ${total === 0 ? 100 : 10 * Math.floor((10 * done) / total)} %`
    if (now !== said) say((said = now))
  }
}

/** The one file that is named. */
function fileOf(args: readonly string[], from: string, usage: string): string {
  const [file, ...more] = args.filter((a) => !a.startsWith('--'))
  const odd = args.find((a) => a.startsWith('--') && a !== '--yes')
  if (file === undefined || more.length > 0 || odd !== undefined) throw new CannotBeDone(usage)
  return path.resolve(from, file)
}

const size = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`

async function withDatabase<T>(url: () => Promise<string>, work: (c: Connection) => Promise<T>): Promise<T> {
  const connection = await openDatabase(await url())
  try {
    return await work(connection)
  } finally {
    await connection.close()
  }
}

/**
 * Writes everything into a file, and reads it back before it takes its name.
 *
 * @param url asked for once what was typed makes sense
 */
export async function backup(
  args: readonly string[],
  from: string,
  url: () => Promise<string>,
  say: Say,
  signal?: AbortSignal,
): Promise<void> {
  const file = fileOf(args, from, USAGE.backup)
  if (!fs.existsSync(path.dirname(file)))
    throw new CannotBeDone(`${file} cannot be written: there is no such folder.`)
  try {
    const throws = await withDatabase(url, ({ pool }) =>
      writeWhole(pool, file, { told: tenths(say), signal }),
    )
    say(`Everything is in ${file}: ${throws} throws, ${size(fs.statSync(file).size)}, read back and whole.`)
  } catch (e) {
    signal?.throwIfAborted()
    const { code, message } = e as NodeJS.ErrnoException
    if (code === 'ENOSPC') throw new CannotBeDone(`There is no room for ${file}; nothing was left of it.`)
    if (code === 'EACCES' || code === 'EROFS' || code === 'EISDIR')
      throw new CannotBeDone(`${file} cannot be written: ${message}`)
    throw e
  }
}

/**
 * Puts what a file holds in the place of everything, once what is there has been copied.
 *
 * @param kept where copies are
 */
export async function restoreFile(
  args: readonly string[],
  from: string,
  url: () => Promise<string>,
  say: Say,
  signal: AbortSignal | undefined,
  kept: CopiesOptions,
): Promise<void> {
  const file = fileOf(args, from, USAGE.restore)
  if (!fs.existsSync(file)) throw new CannotBeDone(`There is no file ${file}.`)
  try {
    const told = tenths(say)
    await withPackage(file, { told, signal }, (pack) =>
      withDatabase(url, async ({ db, pool }) => {
        ofEverything(pack)
        const own = await ownThrows(db)
        if (own > 0 && !args.includes('--yes'))
          throw new CannotBeDone(
            `The database holds ${own} throws of your own, and a restore puts others in their place. Back them up first, then add --yes.`,
          )
        const otherwise = await copyStandingOf(pool, pack)
        const copies = new Copies(pool, kept)
        const before = await copies.make('before-a-restore', told, signal)
        try {
          const done = await restorePackage(pool, pack, { told, signal })
          say(`Restored from ${file}: ${done.throws} throws, ${done.trials} trials, ${done.discs} discs.`)
        } catch (e) {
          await copies.takeAway(before.name)
          throw e
        }
        say(`What was here before is ${path.join(kept.folder, before.name)}.`)
        for (const { name, here, there } of otherwise)
          say(`Stays as it is here: ${name}, ${here} (in the file: ${there}).`)
        if (otherwise.length > 0) say('Settings, Data restores a file with those of the file, one by one.')
      }),
    )
  } catch (e) {
    if (e instanceof BadPackage) throw new CannotBeDone([e.message, ...e.problems].join('\n  '))
    throw e
  }
}
