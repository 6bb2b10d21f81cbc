import { DEGREE } from '../flight/units.ts'
import { gpx } from '@tmcw/togeojson'
import { DOMParser } from '@xmldom/xmldom'
import geodesic from 'geographiclib-geodesic'
import type { FeatureCollection, Position as LonLat } from 'geojson'
import { z } from 'zod'
import { RELEASE_HEIGHT } from '../flight/release.ts'
import { PATH_RANGE } from '../throw/ranges.ts'
import { PATH_COLUMNS, MOST_POINTS, MOST_PROBLEMS, pathOf } from './pathCsv.ts'
import type { PathColumns, PathRead } from './pathCsv.ts'
import { plainFigure, Problems } from './csvCells.ts'

/** A point of a track, WGS 84. */
interface TrackPoint {
  readonly lonDeg: number
  readonly latDeg: number
  /** Above some level of the tracker's own, m. */
  readonly heightM: number | undefined
  /** Since some moment of the tracker's own, s. */
  readonly timeS: number | undefined
}

/** Seconds of a time: ISO 8601, or a number of seconds. */
const Time = z.union([z.number(), z.iso.datetime({ offset: true }).transform((t) => Date.parse(t) / 1000)])
const Position = z
  .array(z.number())
  .min(2)
  .refine(([lon, lat]) => Math.abs(lon!) <= 180 && Math.abs(lat!) <= 90, {
    error: 'longitude and latitude in degrees are wanted, in this order',
  })
const Times = z.array(Time).optional()
const Feature = z.object({
  type: z.literal('Feature'),
  geometry: z.discriminatedUnion('type', [
    z.object({ type: z.literal('Point'), coordinates: Position }),
    z.object({ type: z.literal('LineString'), coordinates: z.array(Position) }),
  ]),
  properties: z
    .object({
      time: Time.optional(),
      t_s: z.number().optional(),
      times: Times,
      coordinateProperties: z.object({ times: Times }).optional(),
    })
    .nullish(),
})
type Feature = z.infer<typeof Feature>
const GeoJson = z.union([
  z.object({ type: z.literal('FeatureCollection'), features: z.array(Feature).min(1) }),
  Feature.transform((f) => ({ features: [f] })),
  Feature.shape.geometry.transform((geometry): { features: Feature[] } => ({
    features: [{ type: 'Feature', geometry, properties: null }],
  })),
])

const place = ([lon, lat, height]: readonly number[], timeS: number | undefined): TrackPoint => ({
  lonDeg: lon!,
  latDeg: lat!,
  heightM: height,
  timeS,
})

function pointsOf({ geometry, properties }: Feature): TrackPoint[] {
  if (geometry.type === 'Point') return [place(geometry.coordinates, properties?.t_s ?? properties?.time)]
  const times = properties?.coordinateProperties?.times ?? properties?.times
  return geometry.coordinates.map((c, i) => place(c, times?.[i]))
}

const WGS84 = geodesic.Geodesic.WGS84
const { AZIMUTH, DISTANCE } = geodesic.Geodesic

/**
 * A track of points on the earth as a path in the frame of the throw: its first point is the release, at release height,
 * and the aim line runs from there along its bearing. Distances and bearings are those of the geodesic on WGS 84
 * (C. F. F. Karney, Algorithms for geodesics, 2013). Heights and times count when every point has them.
 *
 * @param bearingDeg compass bearing of the aim line as thrown
 */
function laidAlong(track: readonly TrackPoint[], bearingDeg: number): PathRead {
  const problems = new Problems(MOST_PROBLEMS)
  const [first] = track
  if (!first || track.length < 2) problems.report(null, null, 'A path needs at least two points.')
  if (track.length > MOST_POINTS)
    problems.report(null, null, `The path has ${track.length} points; at most ${MOST_POINTS} are read.`)
  if (!first || problems.list.length > 0) return { ok: false, problems: problems.told() }
  const polar = track.map((p) => {
    const { s12, azi1 } = WGS84.Inverse(first.latDeg, first.lonDeg, p.latDeg, p.lonDeg, DISTANCE | AZIMUTH)
    return { far: s12!, aside: (azi1! - bearingDeg) * DEGREE }
  })
  const since = (key: 'heightM' | 'timeS', start: number) =>
    track.every((p) => p[key] !== undefined) ? track.map((p) => start + p[key]! - first[key]!) : undefined
  const columns: PathColumns = {
    t_s: since('timeS', 0),
    down_m: polar.map(({ far, aside }) => far * Math.cos(aside)),
    right_m: polar.map(({ far, aside }) => far * Math.sin(aside)),
    up_m: since('heightM', RELEASE_HEIGHT),
  }
  for (const name of PATH_COLUMNS) {
    const [low, high] = PATH_RANGE[name]
    columns[name]?.forEach((value, i) => {
      if (!(value >= low && value <= high))
        problems.report(
          i + 1,
          name,
          `Point ${i + 1} comes out at ${plainFigure(value)} as ${name}; a flight lies from ${low} to ${high}. The first point must be the release, and the bearing of the aim line ${Math.round(bearingDeg % 360)}°.`,
        )
    })
  }
  return pathOf(columns, problems)
}

const refused = (message: string): PathRead => ({
  ok: false,
  problems: [{ row: null, column: null, message }],
})

/**
 * Reads a recorded path from GeoJSON: a LineString, or points in their order, with heights as the third coordinate and
 * times in `times`, `coordinateProperties.times`, or for points `time` or `t_s`.
 */
export function readPathGeoJson(text: string, bearingDeg: number): PathRead {
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch (e) {
    return refused(`This is not JSON: ${(e as Error).message}.`)
  }
  const read = GeoJson.safeParse(json)
  if (!read.success)
    return refused('This is no GeoJSON of a LineString or of points, with longitude and latitude in degrees.')
  return laidAlong(read.data.features.flatMap(pointsOf), bearingDeg)
}

/** Reads a recorded path from the tracks of a GPX file. */
export function readPathGpx(text: string, bearingDeg: number): PathRead {
  // counted before it is taken apart, which takes a long one seconds
  const points = text.match(/<trkpt\b/g)?.length ?? 0
  if (points > MOST_POINTS) {
    const message = `The path has ${points} points; at most ${MOST_POINTS} are read.`
    return { ok: false, problems: [{ row: null, column: null, message }] }
  }
  let found: FeatureCollection
  try {
    const parser = new DOMParser({
      onError: (level, message) => {
        if (level !== 'warning') throw new Error(message)
      },
    })
    found = gpx(parser.parseFromString(text, 'text/xml') as unknown as Document) as FeatureCollection
  } catch (e) {
    return refused(`This is no GPX file: ${(e as Error).message.split('\n')[0]}.`)
  }
  const line = (coordinates: readonly LonLat[], times: unknown) => ({
    type: 'Feature',
    geometry: { type: 'LineString', coordinates },
    properties: { times },
  })
  const lines = found.features.flatMap(({ geometry, properties }) => {
    const { times } = (properties?.['coordinateProperties'] ?? {}) as { times?: string[] | string[][] }
    if (geometry.type === 'LineString') return [line(geometry.coordinates, times)]
    // a track in several pieces is one flight with gaps
    return geometry.type === 'MultiLineString' ? [line(geometry.coordinates.flat(), times?.flat())] : []
  })
  if (lines.length === 0) return refused('This GPX file has no track.')
  return readPathGeoJson(JSON.stringify({ type: 'FeatureCollection', features: lines }), bearingDeg)
}
