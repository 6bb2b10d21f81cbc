import { expect } from 'chai'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import type { DemoState } from '../../contract/demo.ts'
import type { Shelf } from '../../contract/shelf.ts'
import type { Throw, TrialFile, TrialSummary } from '../../contract/trials.ts'
import { loadDemoIfEmpty } from '../../demo/load.ts'
import { demoId } from '../../demo/shed.ts'
import { entry } from './entry.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'

describe('the demo, put away', () => {
  let it_: TestServer
  beforeEach(async () => void (it_ = await demoServer()))
  afterEach(() => it_.stop())
  const api = () => request(it_.server)
  const state = async () => (await api().get('/api/demo').expect(200)).body as DemoState
  const shelf = async () => (await api().get('/api/shelf')).body as Shelf
  const trials = async () => (await api().get('/api/trials')).body as TrialSummary[]

  it('leaves an empty shelf, does not come back with the next start, and comes back whole when asked', async () => {
    const before = [await shelf(), await trials()]
    expect(await state()).deep.equal({ demo: 'here', ownThrows: 0, tried: 0 })
    const away = await api().post('/api/demo/away').expect(200)
    expect(away.body).deep.equal({ demo: 'away', ownThrows: 0, tried: 0 })
    expect(await shelf()).deep.equal({ makers: [], molds: [], plastics: [], runs: [], discs: [] })
    expect(await trials()).deep.equal([])
    expect((await api().get('/api/throwers')).body).deep.equal([])
    expect(await loadDemoIfEmpty(it_.db)).equal(false)
    // put away twice is put away
    await api().post('/api/demo/away').expect(200)
    await api().post('/api/demo/back').expect(200)
    expect([await shelf(), await trials()]).deep.equal(before)
  })

  it('leaves what is one’s own, and what that leans on', async () => {
    const own = entry('MY-1')
    await api().put(`/api/entries/${own.id}`).send(own).expect(200)
    const second = { ...own.disc, id: newId(), code: 'MY-2', plasticId: (await shelf()).plastics[0]!.id }
    await api().put(`/api/discs/${second.id}`).send(second).expect(200)
    await api().post('/api/demo/away').expect(200)
    const left = await shelf()
    expect(left.discs.map((d) => d.code)).members(['MY-1', 'MY-2'])
    expect(left.plastics.map((p) => p.id)).members([own.plastic.id, second.plasticId])
    expect(left.makers.length).equal(2)
    await api().post('/api/demo/back').expect(200)
    expect((await shelf()).discs.length).greaterThan(10)
  })

  it('takes with it what was tried in its trials, and says beforehand how much that is', async () => {
    const file = (await api().get(`/api/trials/${demoId('trial', 'four')}`)).body as TrialFile
    const outing = { ...file.sessions[0]!, id: newId(), day: '2026-11-20' }
    await api().put(`/api/sessions/${outing.id}`).send(outing).expect(200)
    const row: Throw = { ...file.throws[0]!, id: newId(), sessionId: outing.id, version: 0 }
    await api().put(`/api/throws/${row.id}`).send(row).expect(200)
    expect(await state()).deep.equal({ demo: 'here', ownThrows: 0, tried: 1 })
    await api().post('/api/demo/away').expect(200)
    expect(await state()).deep.equal({ demo: 'away', ownThrows: 0, tried: 0 })
    expect((await shelf()).discs).deep.equal([])
    expect((await api().get('/api/sessions')).body).deep.equal([])
  })

  it('leaves throws of one’s own trial, with the discs, the thrower and the outing they lean on', async () => {
    const file = (await api().get(`/api/trials/${demoId('trial', 'four')}`)).body as TrialFile
    const [thrown] = file.throws
    const trial = { ...file.trial, id: newId(), name: 'My own', discIds: [thrown!.discId], controlDiscId: null, plan: null } // prettier-ignore
    await api().put(`/api/trials/${trial.id}`).send(trial).expect(200)
    const row: Throw = { ...thrown!, id: newId(), trialId: trial.id, version: 0 }
    await api().put(`/api/throws/${row.id}`).send(row).expect(200)
    expect(await state()).deep.equal({ demo: 'here', ownThrows: 1, tried: 0 })
    await api().post('/api/demo/away').expect(200)
    expect(await state()).deep.equal({ demo: 'away', ownThrows: 1, tried: 0 })
    const left = (await api().get(`/api/trials/${trial.id}`).expect(200)).body as TrialFile
    expect(left.throws.map((t) => t.id)).deep.equal([row.id])
    expect((await shelf()).discs.map((d) => d.id)).deep.equal([row.discId])
    expect((await api().get('/api/throwers')).body).length(1)
    expect((await trials()).map((t) => t.trial.id)).deep.equal([trial.id])
  })

  it('does not come back over something that has its name, and changes nothing', async () => {
    await api().post('/api/demo/away').expect(200)
    const own = entry('HS-017')
    await api().put(`/api/entries/${own.id}`).send(own).expect(200)
    const refused = await api().post('/api/demo/back').expect(409)
    expect(refused.body.detail).match(/code or the name/)
    expect((await shelf()).discs.map((d) => d.id)).deep.equal([own.id])
  })
})
