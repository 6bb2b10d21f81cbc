import { expect } from 'chai'
import { Latest, Overtaken, Shared, Soon } from '../../server/work/soon.ts'

describe('work of which only the latest matters', () => {
  /** Work that ends when it is told to. */
  function held() {
    const begun: string[] = []
    const ends = new Map<string, () => void>()
    const work = (name: string) => () =>
      new Promise<string>((done) => {
        begun.push(name)
        ends.set(name, () => done(name))
      })
    return { begun, work, end: (name: string) => ends.get(name)!() }
  }
  const turn = () => new Promise((r) => setImmediate(r))

  it('keeps one under way and one that waits, however fast it is asked for', async () => {
    const { begun, work, end } = held()
    const latest = new Latest()
    const asked = Array.from({ length: 1000 }, (_, i) =>
      latest.ask(work(String(i))).then(
        (name) => name,
        (e: unknown) => (e instanceof Overtaken ? 'overtaken' : e),
      ),
    )
    expect(begun).to.deep.equal(['0'])
    end('0')
    await turn()
    expect(begun).to.deep.equal(['0', '999'])
    end('999')
    const came = await Promise.all(asked)
    expect(came[0]).to.equal('0')
    expect(came.at(-1)).to.equal('999')
    expect(came.filter((c) => c === 'overtaken')).to.have.length(998)
  })

  it('goes on after one that failed', async () => {
    const latest = new Latest()
    const failed = latest.ask(() => Promise.reject(new Error('no')))
    const next = latest.ask(async () => 'next')
    expect(await failed.catch((e: Error) => e.message)).to.equal('no')
    expect(await next).to.equal('next')
  })

  it('an answer that was overtaken is not there yet, and is worked out when it is asked for again', async () => {
    const failures: unknown[] = []
    const soon = new Soon(10, (e) => failures.push(e))
    const { begun, work, end } = held()
    const get = (key: string) => soon.get<object>(key, 'the board', () => work(key)() as never)
    const first = get('a')
    const second = get('b')
    const third = get('c')
    expect(await second).to.equal(undefined)
    end('a')
    expect(await first).to.equal('a')
    await turn()
    end('c')
    expect(await third).to.equal('c')
    expect(begun).to.deep.equal(['a', 'c'])
    const again = get('b')
    end('b')
    expect(await again).to.equal('b')
    expect(failures).to.deep.equal([])
  })

  it('asked by many at once is begun once, and once more for all who asked meanwhile', async () => {
    let now = 0
    const ends: (() => void)[] = []
    const read = () =>
      new Promise<number>((done) => {
        const found = now
        ends.push(() => done(found))
      })
    const shared = new Shared<number>()
    const first = shared.ask('board', read)
    now = 1
    const meanwhile = [shared.ask('board', read), shared.ask('board', read)]
    const other = shared.ask('another', read)
    expect(ends).length(2)
    ends.forEach((end) => end())
    // whoever asked after something was written is told of it
    expect([await first, await other]).deep.equal([0, 1])
    expect(ends).length(3)
    ends[2]!()
    expect(await Promise.all(meanwhile)).deep.equal([1, 1])
    now = 2
    const later = shared.ask('board', read)
    ends[3]!()
    expect(await later).equal(2)
  })

  it('asked by many goes on for those who wait when it fails', async () => {
    const shared = new Shared<string>()
    const failed = shared.ask('board', () => Promise.reject(new Error('no')))
    const next = shared.ask('board', async () => 'next')
    expect(await failed.catch((e: Error) => e.message)).equal('no')
    expect(await next).equal('next')
    expect(await shared.ask('board', async () => 'later')).equal('later')
  })
})
