import { expect } from 'chai'
import { bringForward, REMEMBERED } from '../../web/data/remembered.ts'

describe('answers a device kept', () => {
  const cache = new Map<string, Response>()
  const stored = new Map<string, string>()
  const globals = {
    caches: {
      open: async (name: string) => {
        expect(name).equal(REMEMBERED)
        return {
          keys: async () => [...cache.keys()],
          match: async (key: string) => cache.get(key)?.clone(),
          put: async (key: string, answer: Response) => void cache.set(key, answer),
        }
      },
    },
    localStorage: {
      getItem: (key: string) => stored.get(key) ?? null,
      setItem: (key: string, value: string) => void stored.set(key, value),
    },
  }
  before(() => void Object.assign(globalThis, globals))
  after(() => {
    for (const name of Object.keys(globals)) Reflect.deleteProperty(globalThis, name)
  })
  const json = (value: unknown) =>
    new Response(JSON.stringify(value), { headers: { 'content-type': 'application/json' } })

  it('of a page of before are brought into the words of today, once; files stay as they are', async () => {
    cache.set('/api/shelf', json({ molds: [{ discClass: 'fairway driver', name: 'fairway driver' }] }))
    cache.set('/api/photos/1', new Response('fairway driver', { headers: { 'content-type': 'image/png' } }))
    await bringForward()
    const now = await cache.get('/api/shelf')!.clone().json()
    expect(now).deep.equal({ molds: [{ discClass: 'fairway-driver', name: 'fairway driver' }] })
    expect(await cache.get('/api/photos/1')!.clone().text()).equal('fairway driver')
    cache.set('/api/shelf', json({ molds: [{ discClass: 'fairway driver' }] }))
    await bringForward()
    expect(await cache.get('/api/shelf')!.clone().json()).deep.equal({
      molds: [{ discClass: 'fairway driver' }],
    })
  })
})
