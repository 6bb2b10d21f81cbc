import { CHANNELS } from '../flight/glimpses.ts'
import type { RecordedPath } from '../throw/recordedPath.ts'
import { backward, factorise, forward, inverse } from './cholesky.ts'

/** What a recorded path is worth to the fit. */
export interface PathEvidence {
  /** Distances at which the flight is compared, m, increasing. */
  readonly marks: Float64Array
  readonly channels: readonly {
    /** Place in {@link CHANNELS}. */
    readonly channel: number
    /** Factor L of the covariance of the values at the marks. */
    readonly factor: Float64Array
    /** L⁻¹ times the values: as many independent observations of variance 1. */
    readonly white: Float64Array
  }[]
}

/**
 * A recording is off in two ways: each point on its own, and a whole stretch together (a camera that stands askew, a
 * tracker that lags), for so many metres at a time. Side and height in m, time in s.
 */
export const RECORDING = {
  side: { stretch: 0.5, point: 0.3, overM: 30 },
  height: { stretch: 0.5, point: 0.3, overM: 30 },
  time: { stretch: 0.05, point: 0.03, overM: 200 },
} as const satisfies Record<(typeof CHANNELS)[number], object>

/** So many marks follow any flight to within centimetres (polynomial of one degree less). */
export const PATH_MARKS = 9
/** Points nearer to the one before say nothing more of where the path goes, m. */
const NEAREST = 0.1
/** What is known of a path before it is seen: hardly anything, so that a gap in a recording is only that (m⁻² or s⁻²). */
const UNSEEN = 1e-5
/** A longer recording is averaged by neighbours down to this many points. */
const MOST_POINTS = 160

/**
 * Condenses a recorded path: generalised least squares of all its points, with their correlated errors, onto the
 * path's values at a few marks. Nothing is lost but what no flight does, and neighbours are not counted twice.
 *
 * @returns undefined where the points say nothing of a path (fewer than two distances downrange)
 * @throws RangeError when the columns are not of one length
 */
export function condense(path: RecordedPath): PathEvidence | undefined {
  const given = [path.veerM, path.upM, path.timeS]
  for (const values of given)
    if (values !== undefined && values.length !== path.downM.length)
      throw new RangeError('A recorded path needs as many sides, heights and times as distances.')
  const forwardOnly = onward(path.downM)
  const groups = grouped(forwardOnly, Math.ceil(forwardOnly.length / MOST_POINTS))
  const at = (values: readonly number[]) =>
    groups.map((g) => g.reduce((s, i) => s + values[i]!, 0) / g.length)
  const x = at(path.downM)
  const [start, end] = [x[0]!, x[x.length - 1]!]
  if (x.length < 2 || !(end - start > 1)) return undefined
  const m = Math.min(PATH_MARKS, x.length)
  // Chebyshev's points, between which a polynomial does not swing
  const marks = Float64Array.from({ length: m }, (_, k) => {
    const c = Math.cos((Math.PI * (2 * (m - k) - 1)) / (2 * m))
    return start + ((end - start) * (1 + c)) / 2
  })
  const basis = x.map((v) => lagrange(marks, v))
  return {
    marks,
    channels: CHANNELS.flatMap((name, channel) => {
      const values = given[channel]
      if (values === undefined) return []
      return [{ channel, ...fitted(x, at(values), basis, m, RECORDING[name]) }]
    }),
  }
}

/** Places of the points that lie further downrange than all before them. */
function onward(downM: readonly number[]): number[] {
  let furthest = -Infinity
  return downM.flatMap((x, i) => {
    if (!(x >= furthest + NEAREST)) return []
    furthest = x
    return [i]
  })
}

const grouped = (places: readonly number[], size: number): number[][] =>
  Array.from({ length: Math.ceil(places.length / Math.max(1, size)) }, (_, g) =>
    places.slice(g * size, (g + 1) * size),
  )

/** Weights with which values at the marks make the value of their polynomial at x. */
const lagrange = (marks: Float64Array, x: number): number[] =>
  Array.from(marks, (own, k) =>
    marks.reduce((w, other, j) => (j === k ? w : (w * (x - other)) / (own - other)), 1),
  )

/** Generalised least squares: (BᵀR⁻¹B)⁻¹BᵀR⁻¹·values and the factor of its covariance, values whitened with it. */
function fitted(
  x: readonly number[],
  values: readonly number[],
  basis: readonly (readonly number[])[],
  m: number,
  sd: { readonly stretch: number; readonly point: number; readonly overM: number },
): { factor: Float64Array; white: Float64Array } {
  const n = x.length
  const noise = new Float64Array(n * n)
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++)
      noise[i * n + j] =
        sd.stretch ** 2 * Math.exp(-Math.abs(x[i]! - x[j]!) / sd.overM) + (i === j ? sd.point ** 2 : 0)
  factorise(noise, n)
  const rows = Float64Array.from(basis.flat())
  for (let k = 0; k < m; k++) forward(noise, n, rows, k, m)
  const seen = Float64Array.from(values)
  forward(noise, n, seen)
  const information = new Float64Array(m * m)
  const best = new Float64Array(m)
  for (let a = 0; a < m; a++) {
    for (let i = 0; i < n; i++) best[a]! += rows[i * m + a]! * seen[i]!
    for (let b = 0; b < m; b++)
      for (let i = 0; i < n; i++) information[a * m + b]! += rows[i * m + a]! * rows[i * m + b]!
  }
  for (let a = 0; a < m; a++) information[a * m + a]! += UNSEEN
  factorise(information, m)
  forward(information, m, best)
  backward(information, m, best)
  const factor = inverse(information, m)
  factorise(factor, m)
  const white = best.slice()
  forward(factor, m, white)
  return { factor, white }
}
