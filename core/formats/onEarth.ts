import { DEGREE } from '../flight/units.ts'
import { DOMImplementation, XMLSerializer } from '@xmldom/xmldom'
import type { Element } from '@xmldom/xmldom'
import { plainXml } from './plainXml.ts'
import type { Feature, FeatureCollection, Position } from 'geojson'
import geodesic from 'geographiclib-geodesic'
import type { Leg } from '../throw/leg.ts'

/** Where one throws: the throwing mark, and where the aim line runs from it. */
export interface AimLine {
  readonly place: string
  readonly latDeg: number
  readonly lonDeg: number
  /** Compass bearing on the way out. */
  readonly bearingDeg: number
  /** From the mark to the far end, where throws back begin; undefined where nobody measured it. */
  readonly lengthM: number | undefined
}

/** A throw, as it is laid on the earth. */
export interface EarthThrow {
  readonly id: string
  /** What a person calls it: “12, HS-021”. */
  readonly name: string
  readonly aim: AimLine
  readonly leg: Leg
  /** ISO 8601. */
  readonly thrownAt: string
  readonly carryM: number
  readonly rightM: number
  /** Points of the path, metres from the mark and seconds from the release; times and heights where they were recorded. */
  readonly path?: {
    readonly timeS: readonly number[]
    readonly downM: readonly number[]
    readonly rightM: readonly number[]
    readonly upM: readonly number[]
  }
  /** What is said of it besides, by name. */
  readonly facts: Readonly<Record<string, string | number | boolean | null>>
}

const WGS84 = geodesic.Geodesic.WGS84
/** A centimetre on the ground, as digits of a degree. */
const DIGITS = 7
const rounded = (v: number, digits = DIGITS) => Number(v.toFixed(digits))

/** A point some metres along a bearing, [longitude, latitude] in degrees. */
function along(latDeg: number, lonDeg: number, bearingDeg: number, farM: number): [number, number] {
  const { lat2, lon2 } = WGS84.Direct(latDeg, lonDeg, bearingDeg, farM)
  return [rounded(lon2!), rounded(lat2!)]
}

/** The mark throws of a leg begin at, and their bearing; undefined of throws back where nobody knows how far the field goes. */
function begins({ aim, leg }: EarthThrow): Pick<AimLine, 'latDeg' | 'lonDeg' | 'bearingDeg'> | undefined {
  if (leg === 'out') return aim
  if (aim.lengthM === undefined) return undefined
  const [lonDeg, latDeg] = along(aim.latDeg, aim.lonDeg, aim.bearingDeg, aim.lengthM)
  return { latDeg, lonDeg, bearingDeg: (aim.bearingDeg + 180) % 360 }
}

/**
 * A spot of the frame of a throw on the earth: the geodesic on WGS 84 (C. F. F. Karney, Algorithms for geodesics, 2013).
 *
 * @param downM along the aim line as thrown
 * @param rightM to its right
 */
function laid(
  from: Pick<AimLine, 'latDeg' | 'lonDeg' | 'bearingDeg'>,
  downM: number,
  rightM: number,
): [number, number] {
  const bearing = from.bearingDeg + Math.atan2(rightM, downM) / DEGREE
  return along(from.latDeg, from.lonDeg, bearing, Math.hypot(downM, rightM))
}

interface Laid {
  readonly thrown: EarthThrow
  readonly landing: Position
  /** With heights where they were recorded. */
  readonly path: readonly Position[]
  /** ISO 8601, one a point; none where times were not recorded. */
  readonly times: readonly string[]
}

function laidOnEarth(thrown: EarthThrow): Laid | undefined {
  const from = begins(thrown)
  if (!from) return undefined
  const { path } = thrown
  const points = (path?.downM ?? []).map((down, i): Position => {
    const spot = laid(from, down, path!.rightM[i]!)
    const up = path!.upM[i]
    return up === undefined ? spot : [...spot, rounded(up, 2)]
  })
  return {
    thrown,
    landing: laid(from, thrown.carryM, thrown.rightM),
    path: points,
    times: (path?.timeS ?? []).map((s) =>
      new Date(Date.parse(thrown.thrownAt) + Math.round(1000 * s)).toISOString(),
    ),
  }
}

/** Throws that can be laid on the earth, and how many cannot: those back over a field whose length nobody measured. */
function all(throws: readonly EarthThrow[]) {
  const list = throws.map(laidOnEarth)
  const there = list.filter((l) => l !== undefined)
  return { there, leftOut: list.length - there.length }
}

const aimsOf = (throws: readonly EarthThrow[]) => [
  ...new Map(throws.map((t) => [t.aim.place, t.aim])).values(),
]
/** An aim line that ends nowhere is drawn so far, m. */
const DRAWN_M = 100

/**
 * Landings, recorded paths and aim lines as GeoJSON (RFC 7946): a point a landing, a LineString a path with its `times`, a
 * LineString an aim line; what is said of each stands in its properties. `leftOut` counts throws that cannot be placed.
 */
export function throwsGeoJson(throws: readonly EarthThrow[]): string {
  const { there, leftOut } = all(throws)
  const features: Feature[] = [
    ...aimsOf(throws).map((aim): Feature => ({
      type: 'Feature',
      geometry: {
        type: 'LineString',
        coordinates: [
          [rounded(aim.lonDeg), rounded(aim.latDeg)],
          along(aim.latDeg, aim.lonDeg, aim.bearingDeg, aim.lengthM ?? DRAWN_M),
        ],
      },
      properties: {
        kind: 'aim line',
        place: aim.place,
        bearing_deg: aim.bearingDeg,
        length_m: aim.lengthM ?? null,
      },
    })),
    ...there.flatMap(({ thrown, landing, path, times }): Feature[] => {
      const said = {
        throw: thrown.id,
        name: thrown.name,
        thrown_at: thrown.thrownAt,
        leg: thrown.leg,
        ...thrown.facts,
      }
      return [
        {
          type: 'Feature',
          geometry: { type: 'Point', coordinates: landing },
          properties: { kind: 'landing', ...said, carry_m: thrown.carryM, right_m: thrown.rightM },
        },
        ...(path.length < 2
          ? []
          : [
              {
                type: 'Feature' as const,
                geometry: { type: 'LineString' as const, coordinates: [...path] },
                properties: { kind: 'path', ...said, ...(times.length > 0 && { times: [...times] }) },
              },
            ]),
      ]
    }),
  ]
  const collection: FeatureCollection & { leftOut: number } = { type: 'FeatureCollection', leftOut, features }
  return JSON.stringify(collection, null, 1)
}

const GPX = 'http://www.topografix.com/GPX/1/1'

/** The same as GPX 1.1: a waypoint a landing and each end of an aim line, a track a recorded path. */
export function throwsGpx(throws: readonly EarthThrow[], name: string): string {
  const { there, leftOut } = all(throws)
  const doc = new DOMImplementation().createDocument(GPX, 'gpx', null)
  const root = doc.documentElement!
  root.setAttribute('version', '1.1')
  root.setAttribute('creator', 'Veer Line')
  const add = (to: Element, tag: string, text?: string): Element => {
    const made = doc.createElementNS(GPX, tag)
    if (text !== undefined) made.appendChild(doc.createTextNode(plainXml(text)))
    to.appendChild(made)
    return made
  }
  const point = (to: Element, tag: string, [lon, lat, up]: Position, time?: string): Element => {
    const made = add(to, tag)
    made.setAttribute('lat', String(lat))
    made.setAttribute('lon', String(lon))
    if (up !== undefined) add(made, 'ele', String(up))
    if (time !== undefined) add(made, 'time', time)
    return made
  }
  const about = add(root, 'metadata')
  add(about, 'name', name)
  if (leftOut > 0)
    add(
      about,
      'desc',
      `Throws back that are left out, for nobody measured how long the field is: ${leftOut}.`,
    )
  for (const { thrown, landing } of there) {
    const at = point(root, 'wpt', landing, thrown.thrownAt)
    add(at, 'name', thrown.name)
    add(at, 'desc', `${thrown.carryM} m down, ${thrown.rightM} m right`)
  }
  // a route would be taken for a path by whoever reads one from this file
  for (const aim of aimsOf(throws)) {
    const mark = point(root, 'wpt', [rounded(aim.lonDeg), rounded(aim.latDeg)])
    add(mark, 'name', `Throwing mark, ${aim.place}`)
    add(mark, 'desc', `The aim line runs along ${aim.bearingDeg}°.`)
    const end = along(aim.latDeg, aim.lonDeg, aim.bearingDeg, aim.lengthM ?? DRAWN_M)
    add(point(root, 'wpt', end), 'name', `Along the aim line, ${aim.place}`)
  }
  for (const { thrown, path, times } of there.filter((l) => l.path.length > 1)) {
    const track = add(root, 'trk')
    add(track, 'name', thrown.name)
    const segment = add(track, 'trkseg')
    path.forEach((p, i) => point(segment, 'trkpt', p, times[i]))
  }
  return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(doc)}\n`
}
