import { createHash } from 'node:crypto'
import { Transform } from 'node:stream'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { text } from 'node:stream/consumers'
import yauzl from 'yauzl'
import type { Entry, ZipFile } from 'yauzl'
import { Description, DESCRIPTION, LAYOUT, LONGEST_DESCRIPTION } from './description.ts'
import type { Resource } from './description.ts'
import { migrations } from './migrations.ts'
import type { TellProgress } from './write.ts'

/** A package that cannot be taken, and everything that is wrong with it. Nothing was changed. */
export class BadPackage extends Error {
  constructor(
    detail: string,
    readonly problems: readonly string[] = [],
  ) {
    super(detail)
  }
}
/** Every problem is told, but no more than somebody reads. */
const MOST_PROBLEMS = 50

/** An opened package. */
export class Package {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
    readonly description: Description,
  ) {}

  /** @throws BadPackage where it is none, or of a layout or schema nobody here knows */
  static async open(file: string): Promise<Package> {
    const zip = await new Promise<ZipFile>((opened, failed) =>
      yauzl.open(file, { lazyEntries: true, autoClose: false }, (e, z) =>
        e ? failed(new BadPackage(`This is no zip file: ${e.message}`)) : opened(z),
      ),
    )
    try {
      const entries = new Map<string, Entry>()
      await new Promise<void>((done, failed) => {
        zip.on('entry', (entry: Entry) => {
          entries.set(entry.fileName, entry)
          zip.readEntry()
        })
        zip.once('end', done)
        zip.once('error', (e: Error) => failed(new BadPackage(`The zip file is damaged: ${e.message}`)))
        zip.readEntry()
      })
      return new Package(zip, entries, await described(zip, entries))
    } catch (e) {
      zip.close()
      throw e
    }
  }

  close(): void {
    this.zip.close()
  }

  resource(path: string): Resource | undefined {
    return this.description.resources.find((r) => r.path === path)
  }
  /** How many throws it holds. */
  get throws(): number {
    return this.resource('throws.csv')?.rows ?? 0
  }
  read(path: string): Promise<Readable> {
    return streamOf(this.zip, this.entries.get(path)!)
  }

  /**
   * Reads every file back and compares it with what the description says of it.
   *
   * @throws BadPackage that names every file that is missing, too many, or not as it was
   */
  async check(told: TellProgress = () => {}, signal?: AbortSignal): Promise<void> {
    const problems: string[] = []
    const { resources } = this.description
    const named = new Set([DESCRIPTION, ...resources.map((r) => r.path)])
    for (const path of this.entries.keys())
      if (!named.has(path)) problems.push(`${path}: nobody says what it is`)
    const total = resources.reduce((sum, r) => sum + r.bytes, 0)
    let done = 0
    for (const resource of resources) {
      signal?.throwIfAborted()
      const problem = await this.#differs(resource, signal)
      if (problem !== undefined) problems.push(`${resource.path}: ${problem}`)
      told({ stage: 'checking', done: (done += resource.bytes), total })
    }
    if (problems.length > 0)
      throw new BadPackage(
        `The package is not as it was written: ${problems.length} ${problems.length === 1 ? 'file differs' : 'files differ'}. Nothing was changed.`,
        problems.slice(0, MOST_PROBLEMS),
      )
  }

  async #differs({ path, bytes, hash }: Resource, signal?: AbortSignal): Promise<string | undefined> {
    const entry = this.entries.get(path)
    if (!entry) return 'is missing'
    if (entry.uncompressedSize !== bytes) return `holds ${entry.uncompressedSize} bytes, not ${bytes}`
    const digest = createHash('sha256')
    try {
      const hashed = new Transform({
        transform(chunk: Buffer, _, next) {
          digest.update(chunk)
          next()
        },
      })
      await pipeline(await streamOf(this.zip, entry), hashed.resume(), { signal })
    } catch (e) {
      signal?.throwIfAborted()
      return `cannot be read: ${(e as Error).message}`
    }
    return `sha256:${digest.digest('hex')}` === hash ? undefined : 'was changed since it was written'
  }
}

const streamOf = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  new Promise((opened, failed) => zip.openReadStream(entry, (e, stream) => (e ? failed(e) : opened(stream))))

async function described(zip: ZipFile, entries: ReadonlyMap<string, Entry>): Promise<Description> {
  const entry = entries.get(DESCRIPTION)
  if (!entry)
    throw new BadPackage(
      `This zip file holds no ${DESCRIPTION}: it is no package, or its writing was broken off.`,
    )
  if (entry.uncompressedSize > LONGEST_DESCRIPTION)
    throw new BadPackage(`${DESCRIPTION} is too long to be one: ${entry.uncompressedSize} bytes.`)
  let read: unknown
  try {
    read = JSON.parse(await text(await streamOf(zip, entry)))
  } catch (e) {
    throw new BadPackage(`${DESCRIPTION} cannot be read: ${(e as Error).message}`)
  }
  const parsed = Description.safeParse(read)
  if (!parsed.success)
    throw new BadPackage(
      `${DESCRIPTION} is not as it should be.`,
      parsed.error.issues.slice(0, MOST_PROBLEMS).map((i) => `${i.path.join('.')}: ${i.message}`),
    )
  const { layout, migration } = parsed.data.veerLine
  if (layout > LAYOUT || !migrations().includes(migration))
    throw new BadPackage(
      `The package was written by a newer Veer Line (${migration}). Update this one, then restore it.`,
    )
  return parsed.data
}
