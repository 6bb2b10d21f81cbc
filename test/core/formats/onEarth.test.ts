import { expect } from 'chai'
import fc from 'fast-check'
import type { FeatureCollection, LineString, Point } from 'geojson'
import geodesic from 'geographiclib-geodesic'
import { throwsGeoJson, throwsGpx } from '../../../core/formats/onEarth.ts'
import type { AimLine, EarthThrow } from '../../../core/formats/onEarth.ts'
import { readPathGeoJson, readPathGpx } from '../../../core/formats/trackPath.ts'

const aim: AimLine = { place: 'Mill Meadow', latDeg: 52.1, lonDeg: -1.4, bearingDeg: 205, lengthM: 180 }
const thrown = (over: Partial<EarthThrow> = {}): EarthThrow => ({
  id: 'x',
  name: '1, HS-021 <flat> & “first”',
  aim,
  leg: 'out',
  thrownAt: '2026-05-09T10:24:00.000Z',
  carryM: 84.5,
  rightM: -6,
  facts: { disc: 'HS-021', counts: true },
  ...over,
})
const flown = {
  timeS: [0, 1.5, 3.2],
  downM: [0, 45, 84.5],
  rightM: [0, 2.5, -6],
  upM: [1.2, 6.5, 0],
}
const read = (throws: readonly EarthThrow[]) =>
  JSON.parse(throwsGeoJson(throws)) as FeatureCollection<Point | LineString> & { leftOut: number }
const of = (c: ReturnType<typeof read>, kind: string) =>
  c.features.filter((f) => f.properties!['kind'] === kind)

describe('throws on the earth', () => {
  it('lie as far from their mark, and as far off the line, as they landed', () => {
    const anywhere = fc.record({
      latDeg: fc.double({ min: -70, max: 70, noNaN: true }),
      lonDeg: fc.double({ min: -179, max: 179, noNaN: true }),
      bearingDeg: fc.double({ min: 0, max: 359, noNaN: true }),
      carryM: fc.double({ min: 5, max: 180, noNaN: true }),
      rightM: fc.double({ min: -40, max: 40, noNaN: true }),
      leg: fc.constantFrom('out' as const, 'back' as const),
    })
    fc.assert(
      fc.property(anywhere, ({ latDeg, lonDeg, bearingDeg, carryM, rightM, leg }) => {
        const line = { ...aim, latDeg, lonDeg, bearingDeg }
        const [landing] = of(read([thrown({ aim: line, carryM, rightM, leg })]), 'landing')
        const [lon, lat] = (landing!.geometry as Point).coordinates as [number, number]
        const from = geodesic.Geodesic.WGS84.Direct(latDeg, lonDeg, bearingDeg, leg === 'out' ? 0 : 180)
        const { s12, azi1 } = geodesic.Geodesic.WGS84.Inverse(from.lat2!, from.lon2!, lat, lon)
        const facing = leg === 'out' ? bearingDeg : from.azi2! + 180
        const aside = ((azi1! - facing) * Math.PI) / 180
        // degrees are written to a centimetre; near the far mark the bearing turns by less than that
        expect(s12! * Math.cos(aside)).closeTo(carryM, 0.05)
        expect(s12! * Math.sin(aside)).closeTo(rightM, 0.05)
      }),
    )
  })

  it('come back as the paths they were, from GeoJSON and from GPX', () => {
    const geo = read([thrown({ path: flown })])
    const [path] = of(geo, 'path')
    for (const back of [
      readPathGeoJson(JSON.stringify({ type: 'FeatureCollection', features: [path] }), aim.bearingDeg),
      readPathGpx(throwsGpx([thrown({ path: flown })], 'A trial'), aim.bearingDeg),
    ]) {
      if (!back.ok) return expect.fail(JSON.stringify(back.problems))
      back.path.downM.forEach((v, i) => expect(v).closeTo(flown.downM[i]!, 0.03))
      back.path.veerM.forEach((v, i) => expect(v).closeTo(flown.rightM[i]!, 0.03))
      back.path.upM!.forEach((v, i) => expect(v).closeTo(flown.upM[i]!, 0.03))
      back.path.timeS!.forEach((v, i) => expect(v).closeTo(flown.timeS[i]!, 0.002))
    }
  })

  it('have their aim line, once a place, with its bearing', () => {
    const lines = of(read([thrown(), thrown({ id: 'y' })]), 'aim line')
    expect(lines).to.have.length(1)
    expect(lines[0]!.properties).to.include({ place: 'Mill Meadow', bearing_deg: 205, length_m: 180 })
  })

  it('back over a field whose length nobody measured are left out, and counted', () => {
    const unmeasured = { ...aim, lengthM: undefined }
    const geo = read([thrown({ aim: unmeasured, leg: 'back' }), thrown({ aim: unmeasured })])
    expect(geo.leftOut).to.equal(1)
    expect(of(geo, 'landing')).to.have.length(1)
    expect(throwsGpx([thrown({ aim: unmeasured, leg: 'back' })], 'A trial')).to.include(
      'nobody measured how long the field is: 1',
    )
  })

  it('have names that are text, whatever stands in them', () => {
    const gpx = throwsGpx([thrown()], 'Ours & <theirs>')
    expect(gpx).to.include('Ours &amp; &lt;theirs')
    expect(gpx).to.not.include('<flat>')
  })
})
