import type { Remote } from 'comlink'
import type { Board } from '../../contract/rotation.ts'
import { OneWorker } from './oneWorker.ts'
import type { RotationWorker } from './rotation.worker.ts'

const rotation = new OneWorker<RotationWorker, { board: string }>(
  () => new Worker(new URL('./rotation.worker.ts', import.meta.url), { type: 'module' }),
  'The board',
  () => ({ board: '' }),
)

const keys = new WeakMap<object, string>()
let count = 0
/** What the worker knows a board by, as the server answered it. */
export function keyOf(board: object): string {
  const key = keys.get(board) ?? `board ${++count}`
  keys.set(board, key)
  return key
}

/** Asks about a board, which is told to the worker once; an answer or an error, never silence. */
export async function askBoard<T>(
  base: Board,
  question: (worker: Remote<RotationWorker>, key: string) => Promise<T>,
): Promise<T> {
  const key = keyOf(base)
  return await rotation.ask(async (worker, told) => {
    if (told.board !== key) {
      told.board = key
      await worker.tell(key, { discs: base.discs, lanes: base.lanes })
    }
    return await question(worker, key)
  })
}
