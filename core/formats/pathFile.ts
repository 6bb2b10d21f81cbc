import { PATH_FILES } from './pathFiles.ts'
import { readPathCsv } from './pathCsv.ts'
import type { PathRead } from './pathCsv.ts'
import { readPathGeoJson, readPathGpx } from './trackPath.ts'

/**
 * Reads a recorded path from a file: CSV in the frame of the throw, or a track on the earth as GPX or GeoJSON.
 *
 * @param bearingDeg compass bearing of the aim line as thrown; undefined where it is not known, and tracks cannot be placed
 * @returns the path with sides to the thrower's right, or every problem
 */
export function readPathFile(name: string, text: string, bearingDeg: number | undefined): PathRead {
  const ending = PATH_FILES.find((e) => name.toLowerCase().endsWith(e))
  if (ending === '.csv') return readPathCsv(text)
  const problem = (message: string): PathRead => ({
    ok: false,
    problems: [{ row: null, column: null, message }],
  })
  if (ending === undefined)
    return problem(
      `A recorded path is a file ending in ${PATH_FILES.slice(0, -1).join(', ')} or ${PATH_FILES.at(-1)!}.`,
    )
  if (bearingDeg === undefined)
    return problem('A track on the earth needs the bearing of the aim line; note it with the place.')
  return ending === '.gpx' ? readPathGpx(text, bearingDeg) : readPathGeoJson(text, bearingDeg)
}
