import type { PassThrough } from 'node:stream'
import { mayDo } from '../../contract/roles.ts'
import type { Role } from '../../contract/roles.ts'
import { Refusal } from '../middleware/problems.ts'
import { stillHold } from '../store/crew.ts'
import type { Who } from '../store/crew.ts'
import type { Database } from '../store/database.ts'

/** Streams one person may have open at a time on all their devices, and all people. */
export const MOST_OF_ONE = 60
const MOST = 1500

interface Open {
  readonly who: Who
  readonly need: Role
  readonly out: PassThrough
}

/** Everything that goes on being told to somebody: it ends with the key they came in with. */
export class Streams {
  readonly #open = new Set<Open>()

  constructor(private readonly db: Database) {}

  /**
   * Takes a stream in; it is let go when it closes.
   *
   * @throws Refusal 429 where too many are open
   */
  hold(who: Who, need: Role, out: PassThrough): void {
    const own = [...this.#open].filter((o) => o.who.person.id === who.person.id).length
    if (own >= MOST_OF_ONE || this.#open.size >= MOST)
      throw new Refusal(429, 'Too many pages', 'Too many pages listen here; close some.')
    const open = { who, need, out }
    this.#open.add(open)
    out.once('close', () => this.#open.delete(open))
  }

  /** Ends those of whoever may not listen any more. While nobody can tell, they go on. */
  async check(): Promise<void> {
    const keyed = [...this.#open].filter((o) => o.who.keyId !== null)
    const holding = await stillHold(this.db, [...new Set(keyed.map((o) => o.who.keyId!))])
    for (const { who, need, out } of keyed) {
      const role = holding.get(who.keyId!)
      if (role === undefined || !mayDo(role, need)) out.destroy()
    }
  }
}
