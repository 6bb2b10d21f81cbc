import { Copies } from '../custody/copies.ts'
import type { CopiesOptions } from '../custody/copies.ts'
import { openDatabase } from '../store/database.ts'
import { makeCopies } from './copying.ts'
import { Works } from './works.ts'

/** Does what servers on a database ask for, without answering requests itself. */
export async function startWork(
  databaseUrl: string,
  /** Where copies are kept, for whoever can be asked for one. */
  custody: CopiesOptions | undefined,
  onError: (error: unknown) => void,
): Promise<{ readonly stop: () => Promise<void> }> {
  const connection = await openDatabase(databaseUrl)
  const works = new Works(connection, onError)
  const copies = custody && new Copies(connection.pool, custody)
  try {
    await works.start()
    if (copies) makeCopies(works, copies)
  } catch (e) {
    await works.stop()
    await connection.close()
    throw e
  }
  return {
    stop: async () => {
      await works.errands.stop()
      await copies?.stop()
      await works.stop()
      await connection.close()
    },
  }
}
