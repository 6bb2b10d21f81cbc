import { expect } from 'chai'
import { WorkQueue } from '../../server/work/queue.ts'
import { openDatabase } from '../../server/store/database.ts'
import type { Connection } from '../../server/store/database.ts'
import { testDatabase } from './server.ts'

describe('the queue of two instances', () => {
  let connection: Connection
  const queues: WorkQueue[] = []
  const failures: unknown[] = []
  before(async () => {
    connection = await openDatabase(await testDatabase())
    for (let i = 0; i < 2; i++) queues.push(new WorkQueue(connection, (e) => failures.push(e)))
    for (const queue of queues) await queue.start()
  })
  after(async () => {
    await Promise.all(queues.map((q) => q.stop()))
    await connection.close()
  })

  it('holds what waits to be done once, and says whose asking it waits for', async () => {
    const [one, two] = queues as [WorkQueue, WorkQueue]
    expect(await one.send('card', { trialId: 'a' }, 60_000)).equal(true)
    expect(await two.send('card', { trialId: 'a' }, 60_000)).equal(false)
    expect(await two.send('card', { trialId: 'b' }, 60_000)).equal(true)
  })

  it('does again what is asked for once it has begun, though another had asked a moment before', async () => {
    const [one, two] = queues as [WorkQueue, WorkQueue]
    let begun = 0
    const again = new Promise<void>((done) =>
      one.work('cards', () => {
        begun++
        // written now: what was looked at already is behind
        if (begun === 1) two.ask('cards', {}, 2000)
        else done()
        return Promise.resolve()
      }),
    )
    await one.send('cards', {}, 500)
    two.ask('cards', {}, 2000)
    await again
    expect(begun).equal(2)
    expect(failures).deep.equal([])
  })
})
