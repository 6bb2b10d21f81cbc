import fs from 'node:fs'
import path from 'node:path'
import type pg from 'pg'
import { COPY_WHYS } from '../../contract/custody.ts'
import type { Copy, CopyWhy } from '../../contract/custody.ts'
import { halfMade, sweep, writeWhole } from './file.ts'
import { staying } from './thinning.ts'
import type { TellProgress } from './write.ts'
import { Package } from './zip.ts'

const NAMED = /^veer-line-(\d{4}-\d\d-\d\d)T(\d\d)-(\d\d)-(\d\d)Z(?:-([a-z-]+))?\.zip$/
/** Why a copy was made, as it stands in its name. */
const endingOf = (why: CopyWhy) => (why === 'daily' ? '' : `-${why}`)
const HOUR_MS = 3_600_000
/** A copy is made when the last one is older; at a start, when it is older than an hour. */
const DAILY_MS = 24 * HOUR_MS

export interface CopiesOptions {
  readonly folder: string
  /** Bytes all copies may hold. */
  readonly most: number
}

/** Dated copies of everything, in a folder. */
export class Copies {
  /** What kept the last one from being made. */
  trouble: string | null = null
  #timer: ReturnType<typeof setInterval> | undefined
  #stop = new AbortController()
  #making: Promise<unknown> = Promise.resolve()

  constructor(
    private readonly pool: pg.Pool,
    private readonly options: CopiesOptions,
  ) {}

  get folder(): string {
    return this.options.folder
  }

  /** The newest first. */
  async list(): Promise<Copy[]> {
    const names = await fs.promises.readdir(this.folder).catch(() => [])
    const copies = await Promise.all(
      names.flatMap((name) => {
        const named = readName(name)
        return named === undefined ? [] : [this.#copy(name, named)]
      }),
    )
    return copies.flatMap((c) => c ?? []).sort((a, b) => (a.at < b.at ? 1 : -1))
  }

  async #copy(name: string, named: Pick<Copy, 'at' | 'why'>): Promise<Copy | undefined> {
    const file = path.join(this.folder, name)
    try {
      const { size } = await fs.promises.stat(file)
      const pack = await Package.open(file)
      pack.close()
      return { name, ...named, bytes: size, throws: pack.throws }
    } catch {
      // taken away meanwhile, or not whole: nobody can restore it
      return undefined
    }
  }

  /** Where a copy is; undefined where there is none of that name. */
  fileOf(name: string): string | undefined {
    const file = path.join(this.folder, name)
    return readName(name) !== undefined && fs.existsSync(file) ? file : undefined
  }

  async takeAway(name: string): Promise<void> {
    const file = this.fileOf(name)
    if (file) await fs.promises.rm(file, { force: true })
  }

  /** Makes a copy, reads it back, and lets go of those that need not stay. One at a time. */
  make(why: CopyWhy, told?: TellProgress, signal?: AbortSignal): Promise<Copy> {
    const work = () => this.#make(why, told, signal ?? this.#stop.signal)
    const made = this.#making.then(work, work)
    this.#making = made
    return made
  }

  async #make(why: CopyWhy, told: TellProgress | undefined, signal: AbortSignal): Promise<Copy> {
    const at = new Date().toISOString().slice(0, 19)
    const name = `veer-line-${at.replaceAll(':', '-')}Z${endingOf(why)}.zip`
    const file = path.join(this.folder, name)
    try {
      await fs.promises.mkdir(this.folder, { recursive: true, mode: 0o700 })
      await writeWhole(this.pool, file, { told, signal }, halfMade(file))
      this.trouble = null
      await this.#thin()
      return (await this.#copy(name, { at: `${at}Z`, why }))!
    } catch (e) {
      if (!signal.aborted) this.trouble = troubleWith(e as NodeJS.ErrnoException)
      throw e
    }
  }

  async #thin(): Promise<void> {
    const all = (await this.list()).map((c) => ({ ...c, at: Date.parse(c.at) }))
    const daily = all.filter((c) => c.why === 'daily')
    const others = all.filter((c) => c.why !== 'daily').reduce((sum, c) => sum + c.bytes, 0)
    const stay = new Set(staying(daily, Date.now(), this.options.most - others).map((c) => c.name))
    for (const { name } of daily) if (!stay.has(name)) await this.takeAway(name)
  }

  /** Makes one now where the last is older than an hour, and from then on one a day. */
  daily(onError: (error: unknown) => void): void {
    const due = async (olderThanMs: number) => {
      const [last] = await this.list()
      if (last && Date.now() - Date.parse(last.at) < olderThanMs) return
      await this.make('daily')
    }
    const soon = (ms: number) =>
      void due(ms).catch((e: unknown) => {
        if (!this.#stop.signal.aborted) onError(e)
      })
    // what a life before left half-made counts for nothing, and takes room
    const sweeping = (starting: boolean) => sweep(this.folder, starting).catch(onError)
    this.#timer = setInterval(() => {
      void sweeping(false)
      soon(DAILY_MS)
    }, HOUR_MS).unref()
    void sweeping(true).then(() => soon(HOUR_MS))
  }

  async stop(): Promise<void> {
    clearInterval(this.#timer)
    this.#stop.abort()
    await this.#making.catch(() => {})
  }
}

function readName(name: string): Pick<Copy, 'at' | 'why'> | undefined {
  const named = name.match(NAMED)
  const why = COPY_WHYS.find((w) => endingOf(w) === (named?.[5] === undefined ? '' : `-${named[5]}`))
  return named && why ? { at: `${named[1]}T${named[2]}:${named[3]}:${named[4]}Z`, why } : undefined
}

function troubleWith(e: NodeJS.ErrnoException): string {
  if (e.code === 'ENOSPC') return 'The last copy could not be made: the disk is full.'
  if (e.code === 'EACCES' || e.code === 'EROFS')
    return 'The last copy could not be made: the folder of the copies cannot be written to.'
  return `The last copy could not be made: ${e.message}`
}
