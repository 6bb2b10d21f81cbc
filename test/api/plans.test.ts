import { expect } from 'chai'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { demoId } from '../../demo/shed.ts'
import type { ProposedDiscs } from '../../core/plan/propose.ts'
import type { ForecastHour } from '../../core/plan/window.ts'
import type { ArmDay, Place, Trial, TrialFile } from '../../contract/trials.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'

describe('planning on the server', () => {
  let it_: TestServer
  before(async function () {
    this.timeout(180_000)
    it_ = await demoServer()
  })
  after(() => it_.stop())
  const api = () => request(it_.server)

  it('proposes discs of the shelf for a question', async () => {
    const about = demoId('disc', 'HS-017')
    const ask = async (kind: string) =>
      (await api().get('/api/proposal').query({ kind, disc: about }).expect(200)).body as ProposedDiscs
    const plastics = await ask('plastics')
    expect(plastics.discs.slice(0, 4)).members(
      ['HS-017', 'HS-021', 'HS-026', 'HS-030'].map((c) => demoId('disc', c)),
    )
    expect(plastics.control).equal(demoId('disc', 'HS-002'))
    expect((await ask('wear')).discs).include(demoId('disc', 'HS-009'))
    expect((await ask('runs')).lacks).match(/another run/)
    await api().get('/api/proposal').query({ kind: 'luck', disc: about }).expect(422)
    await api().get('/api/proposal').query({ kind: 'label', disc: newId() }).expect(404)
  })

  it('has the same forecast for the same place and day, with gusts above the wind', async () => {
    const ask = async (place: string, day: string) =>
      (
        (await api().get('/api/devices/forecast').query({ place, day }).expect(200)).body as {
          hours: ForecastHour[]
        }
      ).hours
    const hours = await ask('Millpond meadow', '2026-11-26')
    expect(await ask('Millpond meadow', '2026-11-26')).deep.equal(hours)
    expect(await ask('Millpond meadow', '2026-11-27')).not.deep.equal(hours)
    expect(await ask('Lakeside field', '2026-11-26')).not.deep.equal(hours)
    for (const h of hours) expect(h.gustMps).greaterThan(h.windMps)
    const lit = (list: ForecastHour[]) => list.filter((h) => h.daylight).length
    expect(lit(await ask('Millpond meadow', '2026-06-21'))).greaterThan(lit(hours))
    await api().get('/api/devices/forecast').query({ place: 'here', day: 'soon' }).expect(422)
  })

  it('keeps places, and refuses a field of five kilometres', async () => {
    const places = (await api().get('/api/places').expect(200)).body as Place[]
    expect(places.map((p) => p.name)).deep.equal(['Lakeside field', 'Millpond meadow'])
    const id = newId()
    const place = { ...places[0]!, id, name: 'Fallow strip' }
    await api().put(`/api/places/${id}`).send(place).expect(200)
    const refused = await api()
      .put(`/api/places/${id}`)
      .send({ ...place, fieldLengthM: 5000 })
      .expect(422)
    expect(refused.body.errors[0]).include({ path: 'fieldLengthM' })
    expect(((await api().get('/api/places')).body as Place[]).map((p) => p.name)).include('Fallow strip')
  })

  it('counts what every arm threw on each day, whether it counted or not', async () => {
    const days = (await api().get('/api/arm-days?since=2026-10-01').expect(200)).body as ArmDay[]
    const on = (day: string) => days.filter((d) => d.day === day).reduce((n, d) => n + d.throws, 0)
    expect(on('2026-10-04')).equal(72)
    expect(on('2026-11-15')).equal(20)
    for (const d of days) expect(d.fullPower).equal(d.throws)
    expect((await api().get('/api/arm-days?since=2026-11-01')).body).length(2)
  })

  it('writes a session for the calendar once the plan names a time', async () => {
    const id = demoId('trial', 'fairways')
    const path = `/api/trials/${id}/session.ics?minutes=50`
    await api().get(path).expect(409)
    const { trial } = (await api().get(`/api/trials/${id}`)).body as TrialFile
    const plan = {
      kind: 'molds',
      throws: [],
      order: 'shuffled',
      seed: 1,
      power: 1,
      windMps: 2,
      convention: 'fresh',
      protocol: 'same-release',
      expected: [],
      claims: [],
      startsAt: '2026-11-26T09:00:00.000Z',
      placeId: demoId('place', 'Lakeside field'),
    }
    await api()
      .put(`/api/trials/${id}`)
      .send({ ...trial, plan })
      .expect(200)
    await api().get(path.replace('50', 'soon')).expect(422)
    const { text, headers } = await api().get(path).expect(200)
    expect(headers['content-type']).match(/^text\/calendar/)
    expect(text)
      .include('DTSTART:20261126T090000Z')
      .include('DURATION:PT50M')
      .include('LOCATION:Lakeside field')
    const kept = ((await api().get(`/api/trials/${id}`)).body as TrialFile).trial as Trial
    expect(kept.plan).include({ likeDiscId: null, fixedBy: 'least-to-most-stable', pair: null })
    expect(kept.plan!.built).deep.equal([])
  })

  it('keeps an arm’s budget with its thrower', async () => {
    const [thrower] = (await api().get('/api/throwers')).body as { id: string; name: string }[]
    const budget = { throwsADay: 60, fullPowerADay: 30, throwsAWeek: 200, fullPowerAWeek: 90 }
    await api()
      .put(`/api/throwers/${thrower!.id}`)
      .send({ ...thrower, budget })
      .expect(200)
    const again = (await api().get('/api/throwers')).body as { id: string; budget: unknown }[]
    expect(again.find((t) => t.id === thrower!.id)!.budget).deep.equal(budget)
    await api()
      .put(`/api/throwers/${thrower!.id}`)
      .send({ ...thrower, budget: { ...budget, throwsADay: 0 } })
      .expect(422)
  })

  it('streams what the scale shows until it comes to rest', async function () {
    this.timeout(180_000)
    const { port } = it_.server.address() as AddressInfo
    const id = demoId('disc', 'HS-021')
    const readings = await new Promise<{ grams: number; steady: boolean }[]>((done, fail) => {
      const list: { grams: number; steady: boolean }[] = []
      const asked = http.get({ host: '127.0.0.1', port, path: `/api/devices/scale?disc=${id}` }, (res) => {
        expect(res.headers['content-type']).equal('text/event-stream')
        res.setEncoding('utf8')
        res.on('data', (text: string) => {
          for (const [, json] of text.matchAll(/^data: (.*)$/gm))
            list.push(JSON.parse(json!) as (typeof list)[number])
          if (list.at(-1)?.steady) {
            asked.destroy()
            done(list)
          }
        })
      })
      asked.on('error', (e) => list.at(-1)?.steady || fail(e))
    })
    expect(readings[0]!.steady).equal(false)
    expect(readings.at(-1)!.grams).closeTo(173.1, 0.3)
    await api().get(`/api/devices/scale?disc=${newId()}`).expect(404)
  })
})
