import { expect } from 'chai'
import { awayWords } from '../../server/store/away.ts'
import { Thread } from '../../server/work/thread.ts'
import type { FailingWork } from './failing.worker.ts'

describe('what goes wrong in a thread', () => {
  const thread = new Thread<FailingWork>(new URL('./failing.worker.mjs', import.meta.url))
  after(async () => await thread.stop())
  const failed = async (ask: Parameters<typeof thread.asked>[0]): Promise<Error> => {
    try {
      await thread.asked(ask)
    } catch (e) {
      return e as Error
    }
    throw new Error('nothing went wrong')
  }

  it('is told with what the database said, so that one that is away is known from a fault', async () => {
    const full = await failed(async (work) => await work.fails('53100', 'No space left on device'))
    expect(full.message).equal('Failed query: select 1')
    expect(awayWords(full)).equal('No space left on device')
    const fault = await failed(async (work) => await work.fails('23503', 'violates foreign key constraint'))
    expect(fault.cause).deep.equal({ message: 'violates foreign key constraint', code: '23503' })
    expect(awayWords(fault)).equal(undefined)
  })

  it('is told as it is where it has no cause, and the thread goes on', async () => {
    const failure = await failed(async (work) => await work.failsOfItself())
    expect(failure).include({ name: 'RangeError', message: 'out of range' })
    expect(failure.cause).equal(undefined)
    await failed(async (work) => await work.failsOfItself())
  })
})
