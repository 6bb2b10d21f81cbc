import { expect } from 'chai'
import type { FeatureCollection } from 'geojson'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import type { Place, TrialFile, TrialSummary } from '../../contract/trials.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'

describe('throws on a map', () => {
  let it_: TestServer
  before(async () => void (it_ = await demoServer()))
  after(() => it_.stop())
  const place: Place = {
    id: newId(),
    name: 'Weir meadow',
    fieldLengthM: 150,
    bearingDeg: 205,
    altitudeM: null,
    surface: '',
    hazards: '',
    timeZone: null,
    removedAt: null,
  }
  const put = (kind: string, row: { readonly id: string } & Readonly<Record<string, unknown>>) =>
    request(it_.server).put(`/api/${kind}/${row.id}`).send(row).expect(200)

  it('are said to need a place that says where it is, then lie there; an old page leaves it where it is', async () => {
    const list = (await request(it_.server).get('/api/trials').expect(200)).body as TrialSummary[]
    const { id } = list.find((t) => t.counted > 0)!.trial
    const file = (await request(it_.server).get(`/api/trials/${id}`).expect(200)).body as TrialFile
    await put('places', place)
    for (const session of file.sessions) await put('sessions', { ...session, placeId: place.id })
    const nowhere = await request(it_.server).get(`/api/trials/${id}/throws.geojson`).expect(409)
    expect(nowhere.body.detail).to.match(/Weir meadow: say where the throwing mark is/)

    await put('places', { ...place, latDeg: 52.1, lonDeg: -1.4 })
    // a page that knows of no positions sends a place without them
    await put('places', { ...place, surface: 'mown grass' })
    const answer = await request(it_.server).get(`/api/trials/${id}/throws.geojson`).buffer(true).expect(200)
    expect(answer.get('content-type')).to.include('application/geo+json')
    expect(answer.get('content-disposition')).to.match(/attachment; filename="[a-z0-9-]+\.geojson"/)
    const geo = (
      typeof answer.body === 'object' && 'features' in answer.body
        ? answer.body
        : JSON.parse(String(answer.text ?? answer.body))
    ) as FeatureCollection
    const landings = geo.features.filter((f) => f.properties!['kind'] === 'landing')
    expect(landings.length).to.equal(file.throws.filter((t) => t.takenBackAt === null).length)
    expect(landings[0]!.properties).to.include.keys('disc', 'carry_m', 'right_m', 'hyzer_deg', 'thrower')
    const gpx = await request(it_.server).get(`/api/trials/${id}/throws.gpx`).buffer(true).expect(200)
    expect(String(gpx.text ?? gpx.body)).to.match(/^<\?xml[\s\S]*<wpt [\s\S]*Throwing mark, Weir meadow/)
  })

  it('a position that is none is refused by name', async () => {
    const bad = await request(it_.server)
      .put(`/api/places/${place.id}`)
      .send({ ...place, latDeg: 95, lonDeg: 0 })
      .expect(422)
    expect(bad.body.errors[0].path).to.equal('latDeg')
  })
})
