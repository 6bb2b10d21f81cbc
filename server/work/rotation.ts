import type { Lane } from '../../core/rotation/board.ts'
import type { Foretold, ShelfDisc } from '../../core/rotation/carried.ts'
import type { BlendPace, Wanted } from '../../core/rotation/shelfBoard.ts'
import type { RotationWork } from './rotation.worker.ts'
import { digest, Latest, Once, Overtaken, Soon } from './soon.ts'
import { Thread } from './thread.ts'

/** The thread remembers what it worked out for so long after somebody last looked, ms; then all it holds is given back. */
const REMEMBERED_MS = 30_000
/** Boards that are kept. */
const KEPT = 4

interface Worked {
  readonly lanes: Lane[]
  readonly blends: BlendPace[]
}

/** Works out which discs do which jobs, and what wear does to them. */
export class Rotation {
  readonly #thread = new Thread<RotationWork>(
    new URL('./rotation.worker.mjs', import.meta.url),
    REMEMBERED_MS,
  )
  readonly #boards: Soon
  readonly #soon = new Once<Worked>(KEPT)
  readonly #soonest = new Latest()
  #newest: Promise<Worked> | undefined

  constructor(onError: (error: unknown) => void) {
    this.#boards = new Soon(KEPT, onError)
  }

  /**
   * The board as soon as it is worked out; until then, or where no more is wanted, what is soon done of it.
   */
  async board(wanted: Wanted, isWhole: boolean): Promise<Worked & { readonly whole: boolean }> {
    const { shelf, here, jobs, assigned } = wanted
    const key = digest(shelf, [...here], jobs, [...assigned])
    // before the rest, which the thread would otherwise be busy with
    const soon = this.#soon
      .get(key, () => this.#soonest.ask(() => this.#thread.asked((work) => work.soon(wanted))))
      // whoever asked for less than is known by now is told what is
      .catch((e: unknown) => {
        if (e instanceof Overtaken) return this.#newest!
        throw e
      })
    this.#newest = soon
    soon.catch(() => {})
    const whole = isWhole
      ? await this.#boards.get(key, 'board', () => this.#thread.asked((work) => work.board(wanted)))
      : undefined
    return { ...(whole ?? (await soon)), whole: whole !== undefined }
  }

  foretell(shelf: readonly ShelfDisc[], discId: string): Promise<Foretold | undefined> {
    return this.#thread.asked((work) => work.foretell(shelf, discId))
  }

  stop(): Promise<void> {
    this.#boards.stop()
    return this.#thread.stop()
  }
}
