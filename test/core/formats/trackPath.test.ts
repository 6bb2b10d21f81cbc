import { expect } from 'chai'
import fc from 'fast-check'
import geodesic from 'geographiclib-geodesic'
import { readPathFile } from '../../../core/formats/pathFile.ts'

interface At {
  readonly down: number
  readonly right: number
  readonly up: number
  readonly t: number
}
const FLIGHT: At[] = [
  { down: 0, right: 0, up: 1.2, t: 0 },
  { down: 22, right: 1, up: 6, t: 1 },
  { down: 61, right: 3, up: 8, t: 3 },
  { down: 84, right: -9, up: 0.5, t: 4.4 },
]
/** Where a point of the frame of the throw lies on the earth. */
const placed = ({ down, right }: At, [lat, lon]: readonly [number, number], bearing: number) => {
  const { lat2, lon2 } = geodesic.Geodesic.WGS84.Direct(
    lat,
    lon,
    bearing + (Math.atan2(right, down) * 180) / Math.PI,
    Math.hypot(down, right),
  )
  return [lon2!, lat2!] as const
}
const TEE: readonly [number, number] = [54.21, -2.93]
const BEARING = 205
const START = Date.parse('2026-05-02T10:00:00Z')
const iso = (t: number) => new Date(START + 1000 * t).toISOString()
const line = (points: readonly At[], tee = TEE, bearing = BEARING) => ({
  type: 'Feature',
  geometry: {
    type: 'LineString',
    coordinates: points.map((p) => [...placed(p, tee, bearing), 110 + p.up]),
  },
  properties: { coordinateProperties: { times: points.map((p) => iso(p.t)) } },
})
const gpx = (segments: readonly (readonly At[])[], timed = true) =>
  `<?xml version="1.0"?><gpx version="1.1" creator="made up" xmlns="http://www.topografix.com/GPX/1/1"><trk>${segments
    .map(
      (points) =>
        `<trkseg>${points
          .map((p) => {
            const [lon, lat] = placed(p, TEE, BEARING)
            return `<trkpt lat="${lat}" lon="${lon}"><ele>${110 + p.up}</ele>${timed ? `<time>${iso(p.t)}</time>` : ''}</trkpt>`
          })
          .join('')}</trkseg>`,
    )
    .join('')}</trk></gpx>`

function expectFlight(name: string, text: string, bearing = BEARING) {
  const read = readPathFile(name, text, bearing)
  if (!read.ok) throw new Error(read.problems.map((p) => p.message).join(' '))
  const { downM, veerM, upM, timeS } = read.path
  FLIGHT.forEach((p, i) => {
    expect(downM[i], `down ${i}`).closeTo(p.down, 0.01)
    expect(veerM[i], `right ${i}`).closeTo(p.right, 0.01)
    expect(upM![i], `up ${i}`).closeTo(p.up, 0.01)
    expect(timeS![i], `time ${i}`).closeTo(p.t, 0.002)
  })
  return read.path
}
const why = (name: string, text: string, bearing: number | undefined = BEARING) => {
  const read = readPathFile(name, text, bearing)
  return read.ok ? [] : read.problems.map((p) => p.message)
}

describe('a recorded path on the earth', () => {
  it('is read from GPX, in one piece or several', () => {
    expectFlight('flight.gpx', gpx([FLIGHT]))
    expectFlight('FLIGHT.GPX', gpx([FLIGHT.slice(0, 2), FLIGHT.slice(2)]))
  })

  it('does without times', () => {
    const read = readPathFile('flight.gpx', gpx([FLIGHT], false), BEARING)
    expect(read.ok && read.path.timeS).equal(undefined)
    expect(read.ok && read.path.downM).have.length(FLIGHT.length)
  })

  it('is read from GeoJSON: a line, a collection, a bare geometry, points in their order', () => {
    const feature = line(FLIGHT)
    expectFlight('a.geojson', JSON.stringify(feature))
    expectFlight('a.json', JSON.stringify({ type: 'FeatureCollection', features: [feature] }))
    const bare = readPathFile('a.geojson', JSON.stringify(feature.geometry), BEARING)
    expect(bare.ok && bare.path.downM[3]).closeTo(84, 0.01)
    const points = FLIGHT.map((p, i) => ({
      type: 'Feature',
      geometry: { type: 'Point', coordinates: feature.geometry.coordinates[i] },
      properties: { t_s: 7 + p.t },
    }))
    expectFlight('a.geojson', JSON.stringify({ type: 'FeatureCollection', features: points }))
  })

  it('comes out the same wherever on earth and whichever way it was thrown', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -75, max: 75, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        (lat, lon, bearing) =>
          void expectFlight('a.geojson', JSON.stringify(line(FLIGHT, [lat, lon], bearing)), bearing),
      ),
      { numRuns: 100 },
    )
  })

  it('is turned by the bearing of the aim line, to the right of it', () => {
    const read = readPathFile('a.geojson', JSON.stringify(line(FLIGHT)), BEARING - 10)
    expect(read.ok && read.path.veerM[2]).closeTo(61 * Math.sin(0.1745) + 3 * Math.cos(0.1745), 0.02)
  })

  it('says what is wrong, and never throws', () => {
    expect(why('a.kml', '')).deep.equal([
      'A recorded path is a file ending in .csv, .gpx, .geojson or .json.',
    ])
    expect(readPathFile('a.gpx', gpx([FLIGHT]), undefined)).deep.include({ ok: false })
    expect(why('a.geojson', '{')[0]).match(/^This is not JSON/)
    expect(why('a.geojson', '{"type":"Polygon"}')[0]).match(/no GeoJSON of a LineString/)
    expect(
      why(
        'a.geojson',
        JSON.stringify({
          type: 'LineString',
          coordinates: [
            [0, 95],
            [0, 0],
          ],
        }),
      )[0],
    ).match(/degrees/)
    expect(why('a.geojson', JSON.stringify({ type: 'LineString', coordinates: [[0, 5]] }))).deep.equal([
      'A path needs at least two points.',
    ])
    expect(why('a.gpx', 'not xml')[0]).match(/^This is no GPX file/)
    expect(why('a.gpx', '<gpx></gpx>')).deep.equal(['This GPX file has no track.'])
    // thrown the other way than said: behind the thrower
    const behind = why('a.geojson', JSON.stringify(line(FLIGHT)), BEARING + 180)
    expect(behind[0]).match(/Point 2 comes out at −22 as down_m.*bearing of the aim line 25°/s)
    fc.assert(
      fc.property(fc.json(), fc.string(), (json, text) => {
        readPathFile('x.geojson', json, 10)
        readPathFile('x.gpx', text, 10)
      }),
      { numRuns: 200 },
    )
  })

  it('is refused where it has far too many points', () => {
    const points = '<trkpt lat="54.2" lon="-2.9"><ele>3</ele></trkpt>'.repeat(100_000)
    const read = readPathFile(
      'long.gpx',
      `<gpx version="1.1"><trk><trkseg>${points}</trkseg></trk></gpx>`,
      180,
    )
    expect(read.ok ? [] : read.problems.map((p) => p.message)).deep.equal([
      'The path has 100000 points; at most 10000 are read.',
    ])
  })
})
