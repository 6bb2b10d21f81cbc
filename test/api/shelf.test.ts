import { expect } from 'chai'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import type { Shelf } from '../../contract/shelf.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import { entry, numbers } from './entry.ts'
import { testServer } from './server.ts'
import type { TestServer } from './server.ts'

describe('the shelf', () => {
  let it_: TestServer
  before(async () => void (it_ = await testServer()))
  after(() => it_.stop())
  const api = () => request(it_.server)
  const shelf = async () => (await api().get('/api/shelf')).body as Shelf
  const put = (path: string, body: object) => api().put(path).send(body)

  it('stores a disc with its maker, mold and plastic in one go, once however often it is sent', async () => {
    const e = entry('HS-101')
    await put(`/api/entries/${e.disc.id}`, e).expect(200)
    await put(`/api/entries/${e.disc.id}`, e).expect(200)
    const { discs, makers } = await shelf()
    expect(discs.filter((d) => d.code === 'HS-101')).length(1)
    expect(makers.filter((m) => m.name === 'Maker of HS-101')).length(1)
  })

  it('holds a disc to the nearest numbers given, and says which', async () => {
    const e = entry('HS-102')
    const run = {
      id: newId(),
      plasticId: e.plastic.id,
      name: 'second run',
      numbers: null as typeof numbers | null,
    }
    const disc = { ...e.disc, runId: run.id }
    const inForce = async () => shelvedDiscs(await shelf()).find((d) => d.disc.code === 'HS-102')!.inForce
    await put(`/api/entries/${disc.id}`, { ...e, run, disc }).expect(200)
    expect(await inForce()).deep.equal({ level: 'mold', numbers })
    await put(`/api/plastics/${e.plastic.id}`, { ...e.plastic, numbers: { ...numbers, turn: -0.5 } }).expect(
      200,
    )
    expect((await inForce()).level).equal('plastic')
    await put(`/api/runs/${run.id}`, { ...run, numbers: { ...numbers, fade: 2.5 } }).expect(200)
    expect((await inForce()).level).equal('run')
    await put(`/api/discs/${disc.id}`, { ...disc, stamped: { ...numbers, turn: -2 } }).expect(200)
    expect(await inForce()).deep.equal({ level: 'stamped', numbers: { ...numbers, turn: -2 } })
  })

  it('refuses a code that is taken, whatever its case, and stores nothing of it', async () => {
    const first = entry('HS-103')
    await put(`/api/entries/${first.disc.id}`, first).expect(200)
    const second = entry('hs-103')
    const refused = await put(`/api/entries/${second.disc.id}`, second).expect(409)
    expect(refused.type).equal('application/problem+json')
    expect(refused.body.detail).equal('The code is on the shelf already; every disc has a code of its own.')
    expect((await shelf()).makers.some((m) => m.name === 'Maker of hs-103')).equal(false)
  })

  it('names every field at fault and what would be right', async () => {
    const e = entry('HS-104')
    const bad = {
      ...e,
      disc: { ...e.disc, markedG: 1750, wear: 'shiny' },
      mold: { ...e.mold, numbers: { ...numbers, turn: -9 } },
    }
    const refused = await put(`/api/entries/${e.disc.id}`, bad).expect(422)
    const at = (path: string) => refused.body.errors.find((x: { path: string }) => x.path === path)?.message
    expect(at('disc.markedG')).equal('is 1750; it must lie between 100 and 220 g')
    expect(at('disc.wear')).equal('must be one of new, seasoned, worn, beaten')
    expect(at('mold.numbers.turn')).equal('is −9; it must lie between −5 and 2')
    expect((await shelf()).discs.some((d) => d.code === 'HS-104')).equal(false)
  })

  it('keeps a run to its own plastic', async () => {
    const [a, b] = [entry('HS-105'), entry('HS-106')]
    await put(`/api/entries/${a.disc.id}`, a).expect(200)
    await put(`/api/entries/${b.disc.id}`, b).expect(200)
    const run = { id: newId(), plasticId: a.plastic.id, name: 'first', numbers: null }
    await put(`/api/runs/${run.id}`, run).expect(200)
    const refused = await put(`/api/discs/${b.disc.id}`, { ...b.disc, runId: run.id }).expect(409)
    expect(refused.body.detail).match(/not one of the disc’s plastic/)
  })

  it('lets the database itself refuse what slips past the server', async () => {
    const e = entry('HS-107')
    await put(`/api/entries/${e.disc.id}`, e).expect(200)
    const message = await it_.db.execute(`update discs set marked_g = 5 where code = 'HS-107'`).then(
      () => 'stored',
      (x: Error) => String(x.cause ?? x),
    )
    expect(message).match(/discs_marked/)
  })

  it('takes a disc off and puts it back', async () => {
    const e = entry('HS-108')
    await put(`/api/entries/${e.disc.id}`, e).expect(200)
    const removedAt = '2026-10-01T10:00:00.000Z'
    await put(`/api/discs/${e.disc.id}`, { ...e.disc, removedAt }).expect(200)
    expect((await shelf()).discs.find((d) => d.code === 'HS-108')!.removedAt).equal(removedAt)
    await put(`/api/discs/${e.disc.id}`, e.disc).expect(200)
    expect((await shelf()).discs.find((d) => d.code === 'HS-108')!.removedAt).equal(null)
  })
})

describe('the server', () => {
  let it_: TestServer
  before(async () => void (it_ = await testServer()))
  after(() => it_.stop())

  it('turns away writes from foreign pages and requests under foreign names', async () => {
    const e = entry('HS-201')
    const path = `/api/entries/${e.disc.id}`
    const foreign = await request(it_.server)
      .put(path)
      .set('Origin', 'http://elsewhere.example')
      .send(e)
      .expect(403)
    expect(foreign.body.detail).match(/elsewhere\.example/)
    await request(it_.server).put(path).set('Host', 'rebound.example').send(e).expect(403)
    const own = `http://127.0.0.1:${(it_.server.address() as { port: number }).port}`
    await request(it_.server).put(path).set('Origin', own).send(e).expect(200)
  })

  it('sets a strict content security policy', async () => {
    const { headers } = await request(it_.server).get('/api/health').expect(200)
    expect(headers['content-security-policy']).include("default-src 'none'").include("script-src 'self'")
    expect(headers['content-security-policy']).not.include('unsafe')
  })

  it('says what is wrong with a body it cannot read, and goes on serving', async () => {
    const send = (body: string) =>
      request(it_.server).put(`/api/throwers/${newId()}`).set('content-type', 'application/json').send(body)
    const broken = await send('{"name":').expect(400)
    expect(broken.body.title).equal('The request cannot be read')
    const huge = await send(JSON.stringify({ name: 'x'.repeat(4_000_000) })).expect(413)
    expect(huge.body.detail).match(/too large/)
    await request(it_.server).get('/api/nowhere').expect(404)
    await request(it_.server).get('/api/trials/not-an-id').expect(422)
    await request(it_.server).get('/api/health').expect(200)
  })
})
