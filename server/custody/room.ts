import fs from 'node:fs'
import type { Room } from '../../contract/custody.ts'

/** PostgreSQL lays its log out in files of 16 MB; with less than a few of them free it stops in the midst of a write, bytes. */
const DATABASE_NEEDS = 64_000_000

/** A folder that fills, and what has to be free on its disk for work to go on. */
export interface Filling {
  readonly what: Room['what']
  readonly folder: string
  readonly needs: number
}

/** What of this machine fills, where that is known: its own database, and copies, which need as much again as the last one. */
export const fillingOf = (
  database: string | undefined,
  copies: { readonly folder: string; readonly lastBytes: () => Promise<number> } | undefined,
) => ({
  async read(): Promise<Room[]> {
    const asked: Filling[] = [
      ...(database === undefined
        ? []
        : [{ what: 'database' as const, folder: database, needs: DATABASE_NEEDS }]),
      ...(copies
        ? [{ what: 'copies' as const, folder: copies.folder, needs: await copies.lastBytes().catch(() => 0) }]
        : []),
    ]
    return (await Promise.all(asked.map(roomOf))).flatMap((r) => r ?? [])
  },
})

async function roomOf({ what, folder, needs }: Filling): Promise<Room | undefined> {
  try {
    const { bavail, bsize } = await fs.promises.statfs(folder)
    const freeBytes = bavail * bsize
    return { what, folder, freeBytes, missingBytes: Math.max(0, needs - freeBytes) }
  } catch {
    // a folder that is not there yet fills nothing
    return undefined
  }
}

const megabytes = (bytes: number) => `${Math.max(1, Math.ceil(bytes / 1e6))} MB`

/** What is full and how much is missing, in a sentence; undefined where there is room. */
export function fullWords(room: readonly Room[]): string | undefined {
  const full = room.find((r) => r.what === 'database' && r.missingBytes > 0)
  return (
    full &&
    `The disk of the server is full: ${megabytes(full.missingBytes)} are missing in ${full.folder}. It goes on by itself when there is room.`
  )
}
