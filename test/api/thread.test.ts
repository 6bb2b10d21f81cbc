import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { expect } from 'chai'
import { Thread } from '../../server/work/thread.ts'

interface Work {
  add(a: number, b: number): number
  count(): number
  die(): void
  never(): Promise<void>
}
const COMLINK = import.meta.resolve('comlink')
const ADAPTER = import.meta.resolve('comlink/dist/esm/node-adapter.mjs')
const CODE = `
  import { parentPort } from 'node:worker_threads'
  import { expose } from ${JSON.stringify(COMLINK)}
  import adapter from ${JSON.stringify(ADAPTER)}
  let asked = 0
  expose({
    add: (a, b) => a + b,
    count: () => ++asked,
    die: () => void setTimeout(() => { throw new Error('out of breath') }, 0),
    never: () => new Promise(() => {}),
  }, adapter(parentPort))
`

describe('a thread of the server', () => {
  const file = path.join(fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-thread-')), 'work.mjs')
  before(() => fs.writeFileSync(file, CODE))
  after(() => fs.rmSync(path.dirname(file), { recursive: true }))
  const thread = (idleMs?: number) => new Thread<Work>(pathToFileURL(file), idleMs)

  it('answers, and is let go when nobody asks any more', async () => {
    const t = thread(50)
    expect(await t.asked((work) => work.add(2, 3))).equal(5)
    expect(await t.asked((work) => work.count())).equal(1)
    expect(await t.asked((work) => work.count())).equal(2)
    while (t.alive) await new Promise((r) => setTimeout(r, 10))
    expect(await t.asked((work) => work.count())).equal(1)
    await t.stop()
  })

  it('says so when it dies over something, and works again', async () => {
    const t = thread()
    const over = t.asked(async (work) => {
      await work.die()
      await work.never()
    })
    const why = await over.catch((e: Error) => e.message)
    expect(why).equal('out of breath')
    expect(await t.asked((work) => work.add(1, 1))).equal(2)
    let begun = () => {}
    const under = new Promise<void>((r) => (begun = r))
    const waiting = t
      .asked((work) => {
        begun()
        return work.never()
      })
      .catch((e: Error) => e.message)
    await under
    await t.stop()
    expect(await waiting).equal('The thread was ended before it answered.')
  })
})
