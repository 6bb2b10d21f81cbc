import { DEGREE } from '../flight/units.ts'
import type { Measured } from './inspection.ts'

/** A point of a half cross-section, mm: out from the middle, up from the base of the rim. */
export type RimPoint = readonly [outMm: number, upMm: number]

/** Half a disc cut through its middle, drawn from what was measured. */
export interface RimSection {
  /** Closed outline, from the middle of the top outward, around the rim and back under the flight plate. */
  readonly outline: readonly RimPoint[]
  readonly radiusMm: number
  /** Where the rim begins, from the middle. */
  readonly innerMm: number
  readonly heightMm: number
  readonly partingLineMm: number
  /** What was not measured and is drawn as is usual. */
  readonly assumed: readonly string[]
}

/** A section cannot be drawn: what is still to be measured, or what does not fit together. */
export interface NoSection {
  readonly missing: readonly string[]
  readonly conflict?: string
}

/** What is drawn where nobody measured. */
const USUAL = { domeMm: 2, noseDeg: 35, edge: 2 } as const
/** Radius of the nose from a blunt edge to a sharp one, mm. */
const NOSE_RADIUS = [2.6, 2, 1.5, 1, 0.5] as const
/** Fillet between the inner wall and the flight plate, and at the foot of the rim, mm. */
const FILLET = 2.2
/** A bead stands out by this much, mm. */
const BEAD = 1
const STEPS = 14

/** Points of a cubic Bézier curve, its start left out. */
const curve = (a: RimPoint, b: RimPoint, c: RimPoint, d: RimPoint): RimPoint[] =>
  Array.from({ length: STEPS }, (_, i) => {
    const t = (i + 1) / STEPS
    const s = 1 - t
    const at = (k: 0 | 1) => s * s * s * a[k] + 3 * s * s * t * b[k] + 3 * s * t * t * c[k] + t * t * t * d[k]
    return [at(0), at(1)]
  })

/**
 * The half cross-section of a disc to scale. Diameter, height, rim depth, rim width and parting line must be measured;
 * dome, nose and edge are drawn as is usual where they are not, and said to be. The outline passes through every figure
 * measured: the parting line at the full radius, the foot at the rim's width, the plate's underside at the rim's depth,
 * the middle of the top at the height.
 */
export function rimSection(m: Measured): RimSection | NoSection {
  const missing = (
    [
      ['diameter', m.diameterMm],
      ['height', m.heightMm],
      ['rim depth', m.rimDepthMm],
      ['rim width', m.rimWidthMm],
      ['parting line', m.partingLineMm],
    ] as const
  ).flatMap(([name, value]) => (value === null ? [name] : []))
  if (missing.length > 0) return { missing }
  const [radius, height, depth, width, parting] = [
    m.diameterMm! / 2,
    m.heightMm!,
    m.rimDepthMm!,
    m.rimWidthMm!,
    m.partingLineMm!,
  ]
  const assumed: string[] = []
  const given = <K extends keyof typeof USUAL>(key: K, name: string): number => {
    if (m[key] === null) assumed.push(name)
    return m[key] ?? USUAL[key]
  }
  const dome = given('domeMm', 'dome')
  const slope = given('noseDeg', 'nose angle') * DEGREE
  const nose = NOSE_RADIUS[given('edge', 'edge')] ?? NOSE_RADIUS[2]
  const shoulder = height - Math.max(0, dome)
  const conflict =
    depth >= height
      ? `the rim is ${depth} mm deep but the disc only ${height} mm high`
      : parting >= shoulder
        ? `the parting line at ${parting} mm lies above the shoulder at ${shoulder} mm`
        : width >= radius
          ? `the rim is ${width} mm wide, more than half the disc`
          : undefined
  if (conflict !== undefined) return { missing: [], conflict }

  const inner = radius - width
  const tip: RimPoint = [radius, parting]
  // the lower face falls from the parting line at the nose's slope until it meets the foot
  const run = Math.min(0.75 * width, parting / Math.tan(slope))
  const foot: RimPoint = [radius - run, 0]
  const above: RimPoint = [inner, shoulder]
  const middle: RimPoint = [0, height]
  const plate = Math.max(depth, 0)
  const fillet = Math.min(FILLET, width / 3, depth / 3)
  const bead = m.bead ? Math.min(BEAD, run / 2) : 0
  const outline: RimPoint[] = [
    middle,
    // the dome, level in the middle
    ...curve(middle, [inner / 2, height], [0.8 * inner, shoulder + 0.35 * (height - shoulder)], above),
    // over the shoulder and down to the nose, which is round to its radius
    ...curve(
      above,
      [inner + 0.45 * width, shoulder - 0.06 * (shoulder - parting)],
      [radius, parting + Math.min(0.75 * (shoulder - parting), 1.2 * nose + 0.25 * (shoulder - parting))],
      tip,
    ),
    ...curve(
      tip,
      [radius, parting - Math.min(0.6 * parting, nose)],
      [foot[0] + 0.3 * run, 0.22 * parting],
      [foot[0] + bead, bead * 0.6],
    ),
    ...(bead > 0
      ? curve([foot[0] + bead, bead * 0.6], [foot[0] + 1.7 * bead, 0], [foot[0] + bead, 0], foot)
      : [foot]),
    // along the base, up the inner wall and under the plate
    [inner + fillet, 0],
    ...curve([inner + fillet, 0], [inner + 0.4 * fillet, 0], [inner, 0.4 * fillet], [inner, fillet]),
    [inner, plate - fillet],
    ...curve(
      [inner, plate - fillet],
      [inner, plate - 0.4 * fillet],
      [inner - 0.4 * fillet, plate],
      [inner - fillet, plate],
    ),
    ...curve(
      [inner - fillet, plate],
      [0.8 * inner, plate + 0.35 * Math.max(0, dome)],
      [inner / 2, plate + Math.max(0, dome)],
      [0, plate + Math.max(0, dome)],
    ),
  ]
  return { outline, radiusMm: radius, innerMm: inner, heightMm: height, partingLineMm: parting, assumed }
}
