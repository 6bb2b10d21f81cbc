import fs from 'node:fs'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { PassThrough, Transform } from 'node:stream'
import { v7 as newId } from 'uuid'
import { PACKAGE_LIMIT, Taken } from '../../contract/custody.ts'
import type { Room } from '../../contract/custody.ts'
import type { Copies } from '../custody/copies.ts'
import { countedThrows, troubleOf } from '../custody/words.ts'
import { halfMade, withPackage } from '../custody/file.ts'
import { ofEverything } from '../custody/kind.ts'
import { mergePackage } from '../custody/merge.ts'
import type { Merged } from '../custody/merge.ts'
import { restorePackage } from '../custody/restore.ts'
import type { Restored } from '../custody/restore.ts'
import { copyStandingOf } from '../custody/standing.ts'
import { rowsOfTrial } from '../custody/trialRows.ts'
import { writePackage } from '../custody/write.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import { whoOf } from '../middleware/who.ts'
import { describeDatabase } from '../store/database.ts'
import type { Connection } from '../store/database.ts'
import { BadPackage, Package } from '../custody/zip.ts'
import { readTrialName } from '../store/trials.ts'
import type { Works } from '../work/works.ts'
import { fileName } from './router.ts'
import type { Ctx } from './router.ts'
import type { Serve } from './serve.ts'

export interface CustodyOptions {
  readonly connection: Connection
  readonly copies: Copies
  readonly room: () => Promise<Room[]>
  /** Whether the database was made by this product. */
  readonly builtIn: boolean
  /** Where the data are on this machine, where that is known. */
  readonly folder: string | null
}

/** What a package brings in, in words. */
function mergedWords({ added, same }: Merged, store: boolean): string {
  const parts = (
    [
      ['throws', 'throw', 'throws'],
      ['short_throws', 'throw of the short game', 'throws of the short game'],
      ['trials', 'trial', 'trials'],
      ['discs', 'disc', 'discs'],
      ['throwers', 'thrower', 'throwers'],
      ['sessions', 'outing', 'outings'],
    ] as const
  ).flatMap(([table, one, several]) => {
    const n = added[table] ?? 0
    return n === 0 ? [] : [`${n} ${n === 1 ? one : several}`]
  })
  if (parts.length === 0) return `Nothing of it is new here: ${same} rows are here just so.`
  return `${store ? 'Brought in' : 'Would bring in'} ${parts.join(', ')}.`
}

/** Everything in one file: copies, and what is restored from them. */
export function custodyRoutes(
  on: Serve,
  { connection, copies, room, builtIn, folder }: CustodyOptions,
  works: Works,
): void {
  const { db, pool, url } = connection
  const { errands } = works

  on('GET /api/custody', async () => {
    const [described, list, underWay] = await Promise.all([
      describeDatabase(db),
      copies.list(),
      errands.underWay(),
    ])
    const { host, pathname } = new URL(url)
    return {
      database: {
        builtIn,
        at: `${host}${pathname}`,
        ...described,
      },
      folder,
      copies: list,
      trouble: copies.trouble,
      room: await room(),
      underWay,
    }
  })

  const copyAt = (name: string): { name: string; file: string } => {
    const file = copies.fileOf(name)
    if (file === undefined) throw new Refusal(404, 'Not found', `There is no copy ${name}.`)
    return { name, file }
  }
  on('POST /api/copies', async () => {
    const errand = await errands.note('copy')
    await works.queue.send('copy', { errandId: errand.id })
    return errand
  })
  on('GET /api/copies/:name', async ({ params }, ctx) => {
    const { name, file } = copyAt(params.name)
    ctx.type = 'application/zip'
    ctx.attachment(name)
    ctx.compress = false
    ctx.length = (await fs.promises.stat(file)).size
    ctx.body = fs.createReadStream(file)
  })
  on('DELETE /api/copies/:name', async ({ params }) => {
    await copies.takeAway(copyAt(params.name).name)
    return await copies.list()
  })

  /** Restores a package; what is there is copied before, so that it can be had back. */
  const restoring = (ctx: Ctx, file: string, take: readonly string[], done: () => void = () => {}) =>
    errands.begin(
      'restore',
      async (told, signal, errandId) => {
        try {
          return await withPackage(file, { told, signal }, async (pack) => {
            ofEverything(pack)
            const before = await copies.make('before-a-restore', told, signal)
            const said = ({ throws, trials, discs }: Restored) =>
              `Restored: ${countedThrows(throws)}, ${trials} trials, ${discs} discs. What was here before is the copy of ${before.at}.`
            try {
              const came = await restorePackage(
                pool,
                pack,
                { told, signal },
                {
                  take,
                  byId: whoOf(ctx)!.person.id,
                  // a server that is killed right after has done it, and says so when it is back
                  committing: async (client, restored) => {
                    await client.query(`update public.errands set state = 'done', said = $2 where id = $1`, [
                      errandId,
                      said(restored),
                    ])
                  },
                },
              )
              works.touchAll()
              return said(came)
            } catch (e) {
              // nothing was changed: what is here needs no copy of itself
              await copies.takeAway(before.name)
              throw e
            }
          })
        } finally {
          done()
        }
      },
      troubleOf,
    )
  on('POST /api/copies/:name/restore', ({ params, body: { take } }, ctx) =>
    restoring(ctx, copyAt(params.name).file, take),
  )
  /** What a package says otherwise of who may do what and of what is public. */
  const standing = async (file: string) => {
    try {
      const pack = await Package.open(file)
      try {
        return await copyStandingOf(pool, pack)
      } finally {
        pack.close()
      }
    } catch (e) {
      if (e instanceof BadPackage)
        throw new Refusal(
          422,
          'Not a package that can be restored',
          e.message,
          e.problems.map((message) => ({ path: '', message })),
        )
      throw e
    }
  }
  on('GET /api/copies/:name/standing', ({ params }) => standing(copyAt(params.name).file))
  /** Takes a package that is sent, into a file of its own. */
  async function taken(ctx: Ctx): Promise<{ file: string; drop: () => void }> {
    await fs.promises.mkdir(copies.folder, { recursive: true, mode: 0o700 })
    const file = path.join(copies.folder, halfMade(`sent-${newId()}`))
    const drop = () => fs.rmSync(file, { force: true })
    let bytes = 0
    const limited = new Transform({
      transform(chunk: Buffer, _, next) {
        bytes += chunk.length
        next(
          bytes > PACKAGE_LIMIT
            ? new Refusal(413, 'Too large', `A package may hold at most ${PACKAGE_LIMIT / 1e9} GB.`)
            : null,
          chunk,
        )
      },
    })
    try {
      await pipeline(ctx.req, limited, fs.createWriteStream(file, { mode: 0o600 }))
    } catch (e) {
      drop()
      if ((e as NodeJS.ErrnoException).code === 'ENOSPC')
        throw new Refusal(507, 'No room', 'The disk of the server is full; nothing of the package was kept.')
      throw e
    }
    return { file, drop }
  }
  on('POST /api/restore', async ({ query }, ctx) => {
    const { take } = parse(Taken, { take: [query.take].flat() })
    const { file, drop } = await taken(ctx)
    return await restoring(ctx, file, take, drop)
  })
  on('POST /api/standing', async (_, ctx) => {
    const { file, drop } = await taken(ctx)
    try {
      return await standing(file)
    } finally {
      drop()
    }
  })
  on('POST /api/merge', async ({ query }, ctx) => {
    const store = query.store === '1'
    const { file, drop } = await taken(ctx)
    return await errands.begin(
      'merge',
      async (told, signal) => {
        try {
          return await withPackage(file, { told, signal }, async (pack) => {
            if (store) await copies.make('before-a-merge', told, signal)
            const came = await mergePackage(pool, pack, store, { told, signal })
            if (store) works.touchAll()
            return { said: mergedWords(came, store), problems: came.clashes }
          })
        } finally {
          drop()
        }
      },
      troubleOf,
    )
  })
  on('GET /api/trials/:id/package', async ({ params: { id } }, ctx) => {
    const name = await readTrialName(db, id)
    if (name === undefined) throw new Refusal(404, 'Not found', `There is no trial ${id}.`)
    const out = new PassThrough()
    // one that is broken off has no description, and nobody takes it for whole
    writePackage(pool, out, { rows: rowsOfTrial(id), kind: 'trial' }).catch((e: Error) => out.destroy(e))
    ctx.type = 'application/zip'
    ctx.attachment(`${fileName(name)}.zip`)
    ctx.compress = false
    ctx.body = out
  })

  const errandAt = async ({ id }: { readonly id: string }) => {
    const errand = await errands.read(id)
    if (!errand) throw new Refusal(404, 'Not found', `There is no errand ${id}.`)
    return errand
  }
  on('GET /api/errands/:id', ({ params }) => errandAt(params))
  on('POST /api/errands/:id/cancel', async ({ params }) => {
    const { id } = await errandAt(params)
    await errands.cancel(id)
    return await errandAt(params)
  })
}
