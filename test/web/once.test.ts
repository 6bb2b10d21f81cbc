import { expect } from 'chai'
import { onceAnId } from '../../web/data/once.ts'

describe('what is done once', () => {
  it('is done once for an id, however soon it is asked for again', async () => {
    const once = onceAnId()
    let done = 0
    const slow = async () => {
      await Promise.resolve()
      done++
    }
    expect(await Promise.all([once('a', slow), once('a', slow), once('b', slow)])).deep.equal([
      true,
      false,
      true,
    ])
    expect(await once('a', slow)).equal(false)
    expect(done).equal(2)
  })

  it('may be asked for again where it failed', async () => {
    const once = onceAnId()
    const failed = await once('a', () => Promise.reject(new Error('full'))).catch((e: Error) => e.message)
    expect(failed).equal('full')
    expect(await once('a', () => Promise.resolve())).equal(true)
  })
})
