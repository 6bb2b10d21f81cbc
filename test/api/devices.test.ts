import { expect } from 'chai'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import { mean, randomLcg, range } from 'd3'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { nature } from '../../demo/load.ts'
import { demoId, SHED, VOLUNTEERS } from '../../demo/shed.ts'
import type { RangeReport, VolunteerReport, WindReport } from '../../contract/devices.ts'
import type { Throw, TrialFile, WindLog } from '../../contract/trials.ts'
import { simulatedCamera } from '../../server/devices/flightCamera.ts'
import { simulatedRangeFinder } from '../../server/devices/rangeFinder.ts'
import { simulatedScale } from '../../server/devices/scale.ts'
import { volunteer } from '../../server/devices/volunteer.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'

describe('the stand-ins', () => {
  let it_: TestServer
  before(async function () {
    this.timeout(180_000)
    it_ = await demoServer()
  })
  after(() => it_.stop())
  const api = () => request(it_.server)
  const asked = {
    discId: demoId('disc', 'HS-021'),
    throwerId: demoId('thrower', 'Odile Fenn'),
    stroke: 'backhand',
    hyzerDeg: 0,
    power: 1,
    aimDeg: null,
    windAlongMps: 0,
    windAcrossMps: 0,
    temperatureC: 10,
    altitudeM: 200,
  }

  it('throw a disc as it really flies, each throw another, seen with the errors of the instruments', () => {
    const uniform = randomLcg(0.4)
    const { throwIt } = volunteer(nature, simulatedRangeFinder(uniform), simulatedCamera(uniform), uniform)
    const of = (code: string, hand: 'right' | 'left') => {
      const shed = SHED.find((d) => d.code === code)!
      const who = VOLUNTEERS.find((v) => v.thrower.hand === hand)!.thrower
      return range(30).map(() =>
        throwIt({
          ...asked,
          stroke: 'backhand',
          code,
          published: shed.truth,
          grams: 175,
          thrower: who.name,
          hand,
          fullMps: who.backhandMps,
        }),
      )
    }
    const [stable, flippy, left] = [of('HS-021', 'right'), of('HS-009', 'right'), of('HS-021', 'left')]
    expect(new Set(stable.map((t) => t.range.distanceM)).size).greaterThan(15)
    const bearing = (list: typeof stable) => mean(list, (t) => t.range.bearingDeg)!
    // an overstable disc finishes left of a flippy one for a right-hander, and right for a left-hander
    expect(bearing(stable)).lessThan(bearing(flippy) - 3)
    expect(bearing(left)).greaterThan(bearing(stable) + 5)
    for (const t of stable) {
      const { timeS, downM, upM } = t.path
      expect(timeS.every((s, i) => i === 0 || s > timeS[i - 1]!)).equal(true)
      expect(downM.length).equal(timeS.length)
      expect(Math.max(...upM)).within(2, 25)
      expect(t.hangS).closeTo(timeS.at(-1)!, 1.2)
    }
    // some frames are lost, in runs
    const frames = mean(stable, (t) => t.path.timeS.length / (30 * t.path.timeS.at(-1)!))!
    expect(frames).within(0.7, 0.99)
  })

  it('throw over HTTP, and what was seen can be kept as a throw with its path', async () => {
    const seen = (await api().post('/api/devices/volunteer').send(asked).expect(200)).body as VolunteerReport
    expect(Math.hypot(seen.carryM, seen.rightM)).closeTo(seen.range.distanceM, 0.2)
    const trialId = demoId('trial', 'four')
    const file = (await api().get(`/api/trials/${trialId}`)).body as TrialFile
    const row: Throw = {
      ...file.throws[0]!,
      id: newId(),
      discId: asked.discId,
      midDownM: null,
      midRightM: null,
      carryM: seen.carryM,
      rightM: seen.rightM,
      path: seen.path,
      version: 0,
    }
    await api().put(`/api/throws/${row.id}`).send(row).expect(200)
    const again = ((await api().get(`/api/trials/${trialId}`)).body as TrialFile).throws.find(
      (t) => t.id === row.id,
    )!
    expect(again.path).deep.equal(seen.path)
    const crooked = { ...row, id: newId(), path: { ...seen.path, upM: [1] } }
    const refused = await api().put(`/api/throws/${crooked.id}`).send(crooked).expect(422)
    expect(refused.body.detail).match(/as many times and heights/)
    await api()
      .post('/api/devices/volunteer')
      .send({ ...asked, discId: newId() })
      .expect(404)
    await api()
      .post('/api/devices/volunteer')
      .send({ ...asked, hyzerDeg: 200 })
      .expect(422)
  })

  it('stream the wind along and across the aim line, the same for everybody who listens', async function () {
    this.timeout(180_000)
    const { port } = it_.server.address() as AddressInfo
    const listen = (bearing: number) =>
      new Promise<WindReport[]>((done, fail) => {
        const list: WindReport[] = []
        const path = `/api/devices/anemometer?place=Millpond%20meadow&bearing=${bearing}`
        const source = http.get({ host: '127.0.0.1', port, path }, (res) => {
          res.setEncoding('utf8')
          res.on('data', (text: string) => {
            for (const [, json] of text.matchAll(/^data: (.*)$/gm)) list.push(JSON.parse(json!) as WindReport)
            if (list.length >= 3) {
              source.destroy()
              done(list)
            }
          })
        })
        source.on('error', (e) => list.length >= 3 || fail(e))
      })
    const [east, west] = await Promise.all([listen(90), listen(270)])
    for (const r of east) expect(Math.hypot(r.alongMps, r.acrossMps)).closeTo(r.speedMps, 1e-9)
    expect(east[0]!.alongMps).closeTo(-west[0]!.alongMps, 0.4)
    await api().get('/api/devices/anemometer?bearing=90').expect(422)
  })

  it('measure where a disc lies, within what a handheld one is off', async () => {
    const found = await Promise.all(
      Array.from({ length: 40 }, async () => {
        const { body } = await api().get('/api/devices/range-finder?downM=80&rightM=-6').expect(200)
        return body as RangeReport
      }),
    )
    expect(found[0]!.device).equal('Simulated range finder')
    const [down, right] = [mean(found, (f) => f.carryM)!, mean(found, (f) => f.rightM)!]
    expect(down).closeTo(80, 0.4)
    expect(right).closeTo(-6, 0.4)
    expect(new Set(found.map((f) => f.carryM)).size).greaterThan(3)
    for (const f of found) expect(Math.hypot(f.carryM, f.rightM)).closeTo(f.range.distanceM, 0.15)
    await api().get('/api/devices/range-finder?downM=far&rightM=0').expect(422)
  })

  it('keep the log of the wind with its session', async () => {
    const id = newId()
    const log: WindLog = {
      id,
      sessionId: demoId('session', 'four'),
      startedAt: '2026-10-04T09:30:00.000Z',
      endedAt: '2026-10-04T09:31:00.000Z',
      alongMps: [-3, -2.5, -3.4],
      acrossMps: [0.5, 0.4, 0.7],
    }
    await api().put(`/api/wind-logs/${id}`).send(log).expect(200)
    await api().put(`/api/wind-logs/${id}`).send(log).expect(200)
    expect((await api().get(`/api/sessions/${log.sessionId}/wind`)).body).deep.equal([log])
    await api()
      .put(`/api/wind-logs/${id}`)
      .send({ ...log, acrossMps: [1] })
      .expect(422)
    await api()
      .put(`/api/wind-logs/${id}`)
      .send({ ...log, sessionId: newId() })
      .expect(409)
  })

  it('weigh with a swing and a drift, and are tared', () => {
    const scale = simulatedScale(0.3)
    expect(scale.read(173.1, 0.1).steady).equal(false)
    const rest = range(50).map((i) => scale.read(173.1, 3 + i / 5))
    expect(rest.every((r) => r.steady)).equal(true)
    expect(mean(rest, (r) => r.grams)!).closeTo(173.1, 0.15)
    for (const r of rest) expect(Math.abs(10 * r.grams - Math.round(10 * r.grams))).lessThan(1e-6)
    for (let i = 0; i < 3000; i++) scale.read(null, 10)
    const drifted = mean(range(50), () => scale.read(null, 10).grams)!
    scale.tare()
    expect(Math.abs(mean(range(50), () => scale.read(null, 10).grams)!)).lessThan(
      Math.max(0.06, Math.abs(drifted)),
    )
  })
})
