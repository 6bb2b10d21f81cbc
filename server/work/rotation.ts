import type { Foretold, ShelfDisc } from '../../core/rotation/carried.ts'
import type { WantedOfShelf } from '../../core/rotation/shelfBoard.ts'
import type { WeighsJobs, Worked } from '../store/weighing.ts'
import type { RotationWork } from './rotation.worker.ts'
import { digest, Once, Soon } from './soon.ts'
import { REMEMBERED_MS, Thread } from './thread.ts'

/** Boards that are kept. */
const KEPT = 4

/** Works out which discs do which jobs, and what wear does to them. */
export class RotationBoards implements WeighsJobs {
  readonly #thread = new Thread<RotationWork>(
    new URL('./rotation.worker.mjs', import.meta.url),
    REMEMBERED_MS,
  )
  readonly #boards: Soon
  readonly #soon = new Once<Worked>(KEPT)

  constructor(onError: (error: unknown) => void) {
    this.#boards = new Soon(KEPT, onError)
  }

  async board(wanted: WantedOfShelf, isWhole: boolean): Promise<Worked & { readonly whole: boolean }> {
    const { shelf, here, jobs, assigned } = wanted
    const key = digest(shelf, [...here], jobs, [...assigned])
    // before the rest, which the thread would otherwise be busy with
    const soon = this.#soon.get(key, () => this.#thread.asked((work) => work.soon(wanted)))
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
