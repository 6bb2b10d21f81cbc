import { expect } from 'chai'
import { OneFit } from '../../web/workers/oneFit.ts'
import type { Meanwhile } from '../../web/workers/oneFit.ts'

/** A worker that fits one thing a trial at a time: what is begun later ends what is under way, which then has no answer. */
function worker() {
  let newest = 0
  const begun: string[] = []
  return {
    begun,
    fit:
      (key: string, steps = 3) =>
      async ({ onShare, onFirst }: Meanwhile<string>): Promise<string | undefined> => {
        begun.push(key)
        const me = ++newest
        for (let step = 1; step <= steps; step++) {
          await new Promise((r) => setTimeout(r, 0))
          if (me !== newest) return undefined
          onShare(step / steps)
          if (step === 1) onFirst(`some of ${key}`)
        }
        return `all of ${key}`
      },
  }
}
const deaf: Meanwhile<string> = { onShare: () => {}, onFirst: () => {} }
const always = () => true

describe('fits of a trial', () => {
  it('that several screens want alike are made once, and each is told how far it is', async () => {
    const { fit, begun } = worker()
    const fits = new OneFit<string>()
    const told: string[] = []
    const listener = (name: string): Meanwhile<string> => ({
      onShare: (share) => told.push(`${name} ${share.toFixed(1)}`),
      onFirst: (first) => told.push(`${name} ${first}`),
    })
    const one = fits.get('trial', 'a', fit('a'), listener('one'), always)
    await new Promise((r) => setTimeout(r, 0))
    // who comes late is told what was told before
    const two = fits.get('trial', 'a', fit('a'), listener('two'), always)
    expect(await Promise.all([one, two])).deep.equal(['all of a', 'all of a'])
    expect(begun).deep.equal(['a'])
    expect(told).include.members(['one some of a', 'two some of a', 'two 1.0'])
    // another time it is another fit
    expect(await fits.get('trial', 'a', fit('a'), deaf, always)).equal('all of a')
    expect(begun).deep.equal(['a', 'a'])
  })

  it('that want different things do not push each other aside for ever', async () => {
    const { fit, begun } = worker()
    const fits = new OneFit<string>()
    const get = (key: string) => fits.get('trial', key, fit(key), deaf, always)
    expect(await Promise.all(['a', 'b', 'c'].map(get))).deep.equal(['all of a', 'all of b', 'all of c'])
    expect(begun.length).most(6)
  })

  it('that nobody waits for any more are not begun again', async () => {
    const { fit, begun } = worker()
    const fits = new OneFit<string>()
    let there = true
    const left = fits.get('trial', 'a', fit('a'), deaf, () => there)
    const stays = fits.get('trial', 'b', fit('b'), deaf, always)
    there = false
    expect(await left).equal(undefined)
    expect(await stays).equal('all of b')
    expect(begun).deep.equal(['a', 'b'])
  })

  it('that fail say so to each who waits, and can be asked for again', async () => {
    const fits = new OneFit<string>()
    const failing = () => Promise.reject(new Error('out of breath'))
    const both = [1, 2].map(() => fits.get('trial', 'a', failing, deaf, always))
    for (const one of both) expect(await one.catch((e: Error) => e.message)).equal('out of breath')
    expect(await fits.get('trial', 'a', worker().fit('a'), deaf, always)).equal('all of a')
  })
})
