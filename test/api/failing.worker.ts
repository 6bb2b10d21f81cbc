import { answers } from '../../server/work/answering.ts'

/** Fails as a query does: what the database said is the cause. */
const work = {
  fails(code: string, said: string): never {
    throw new Error('Failed query: select 1', { cause: Object.assign(new Error(said), { code }) })
  },
  failsOfItself(): never {
    throw new RangeError('out of range')
  },
}
export type FailingWork = typeof work
answers(work)
