import { randomBytes, timingSafeEqual } from 'node:crypto'
import fs from 'node:fs'
import path from 'node:path'

/**
 * What whoever sits at the machine itself shows, once anybody else was let in: until then the address on loopback is enough.
 * It stands in a file of the data folder, which nobody reads who only reaches the address; a proxy that passes strangers on does
 * not have it either.
 */
export class MachineKey {
  readonly #file: string

  constructor(private readonly folder: string) {
    this.#file = path.join(folder, 'machine-key')
  }

  /** What is shown; undefined as long as nothing needs to be. */
  get secret(): string | undefined {
    try {
      return fs.readFileSync(this.#file, 'utf8').trim() || undefined
    } catch (e) {
      if ((e as NodeJS.ErrnoException).code === 'ENOENT') return undefined
      throw e
    }
  }

  /** Has it be shown from now on. @returns whether that is new */
  need(): boolean {
    if (this.secret !== undefined) return false
    fs.mkdirSync(this.folder, { recursive: true, mode: 0o700 })
    const aside = `${this.#file}.${process.pid}`
    fs.writeFileSync(aside, randomBytes(32).toString('base64url'), { mode: 0o600 })
    fs.renameSync(aside, this.#file)
    return true
  }

  fits(shown: string | undefined): boolean {
    const { secret } = this
    if (secret === undefined || shown === undefined) return false
    const [a, b] = [Buffer.from(shown), Buffer.from(secret)]
    return a.length === b.length && timingSafeEqual(a, b)
  }
}
