import { DEGREE } from '../../core/flight/units.ts'
import { extent, line, max, scaleLinear, ticks } from 'd3'
import type { ScaleLinear } from 'd3'
import { memo } from 'react'
import type { PointerEvent } from 'react'
import { EYES, fromBehind, instantOf } from '../../core/lab/flight.ts'
import type { LabFlight } from '../../core/lab/flight.ts'
import { RELEASE_HEIGHT } from '../../core/flight/release.ts'
import type { Obstacle } from '../../core/lab/field.ts'
import { useUnits } from '../data/preferences.tsx'
import { dashesOf, hueOf } from '../strip/hues.ts'
import { useWidth } from '../strip/useWidth.ts'
import type { Look } from '../strip/hues.ts'

/** A flight with the name of its disc. */
export interface ShownFlight {
  readonly name: string
  /** Where there is little room. */
  readonly brief?: string
  readonly look: Look
  readonly flight: LabFlight
}

interface ViewProps {
  readonly flights: readonly ShownFlight[]
  readonly before: ShownFlight | undefined
  readonly obstacles: readonly Obstacle[]
  readonly atS: number | undefined
}

const HEIGHT = 172
const PAD = { left: 34, right: 12, top: 8, bottom: 24 }
/** The handle that pulls the launch stands so far out, m. */
const HANDLE_M = 16

interface SideScale {
  readonly x: ScaleLinear<number, number>
  readonly y: ScaleLinear<number, number>
  /** The height that is shown, m. */
  readonly tall: number
}

/** Heights and distances in even figures of whoever reads; how far is shown, m. */
function SideAxes({
  x,
  y,
  tall,
  width,
  reach,
}: SideScale & { readonly width: number; readonly reach: number }) {
  const { length } = useUnits()
  /** Even figures in the unit of whoever reads, m. */
  const even = (to: number, count: number) => ticks(0, length.to(to), count).map(length.from)
  const heights = even(tall, 3)
  return (
    <g fontSize="13" className="figure" style={{ fill: 'var(--quiet)' }}>
      {heights.map((h) => (
        <g key={h}>
          <line x1={PAD.left} x2={width - PAD.right} y1={y(h)} y2={y(h)} style={{ stroke: 'var(--rule)' }} />
          <text x={PAD.left - 6} y={y(h) + 4} textAnchor="end">
            {length.to(h).toFixed(0)}
          </text>
        </g>
      ))}
      {even(reach, 4)
        .filter((d) => x(d) < width - 40)
        .map((d) => (
          <text key={d} x={x(d)} y={HEIGHT - 6} textAnchor="middle">
            {length.to(d).toFixed(0)}
          </text>
        ))}
      <text x={width - 4} y={HEIGHT - 6} textAnchor="end">
        {length.unit}
      </text>
    </g>
  )
}

/** Trees and ceilings from the side. */
function SideObstacles({ x, y, tall, obstacles }: SideScale & Pick<ViewProps, 'obstacles'>) {
  return obstacles.map((o, i) => {
    if (o.kind === 'tree')
      return (
        <rect
          key={i}
          x={x(o.at.downM - o.radiusM)}
          width={Math.max(2, x(2 * o.radiusM) - x(0))}
          y={Math.max(PAD.top, y(o.heightM))}
          height={y(0) - Math.max(PAD.top, y(o.heightM))}
          fillOpacity="0.4"
          style={{ fill: 'var(--hue-2)' }}
        />
      )
    if (o.kind === 'ceiling' && o.heightM < tall)
      return (
        <rect
          key={i}
          x={x(Math.min(o.fromM, o.toM))}
          width={Math.abs(x(o.toM) - x(o.fromM))}
          y={PAD.top}
          height={y(o.heightM) - PAD.top}
          fillOpacity="0.3"
          style={{ fill: 'var(--hue-2)' }}
        />
      )
    return null
  })
}

/** Flights from the side: how high, how far. The first part of the line is pulled up and down. */
export const FromSide = memo(function FromSide({
  flights,
  before,
  obstacles,
  atS,
  reach,
  launchDeg,
  onLaunch,
}: ViewProps & {
  readonly reach: number
  readonly launchDeg: number
  readonly onLaunch: (deg: number) => void
}) {
  const { box, width } = useWidth()
  const { length } = useUnits()
  const all = [...flights, ...(before ? [before] : [])]
  const tall = Math.max(
    6,
    1.15 * (max(all, (f) => f.flight.apexM) ?? 0),
    HANDLE_M * Math.tan(launchDeg * DEGREE) + 2,
  )
  const x = scaleLinear([0, reach], [PAD.left, Math.max(PAD.left + 10, width - PAD.right)])
  const y = scaleLinear([0, tall], [HEIGHT - PAD.bottom, PAD.top])
  const path = ({ downM, upM }: LabFlight) =>
    line<number>(
      (_, i) => x(downM[i]!),
      (_, i) => y(upM[i]!),
    )(downM as number[]) ?? ''
  const handle = {
    x: x(HANDLE_M),
    y: y(RELEASE_HEIGHT + HANDLE_M * Math.tan(launchDeg * DEGREE)),
  }
  const pull = (e: PointerEvent<SVGSVGElement>) => {
    const r = e.currentTarget.getBoundingClientRect()
    const up = y.invert(e.clientY - r.top) - RELEASE_HEIGHT
    const out = Math.max(4, x.invert(e.clientX - r.left))
    onLaunch(Math.atan2(up, out) / DEGREE)
  }
  return (
    <div ref={box} style={{ height: HEIGHT }} className="select-none">
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={`From the side: ${flights.map((f) => `${f.name} rises to ${length.show(f.flight.apexM)}`).join(', ')}. Launched at ${launchDeg.toFixed(1)}°; pull it here, or set it beside.`}
          className="touch-none"
          onPointerDown={(e) => {
            const r = e.currentTarget.getBoundingClientRect()
            if (Math.hypot(e.clientX - r.left - handle.x, e.clientY - r.top - handle.y) > 30) return
            e.currentTarget.setPointerCapture(e.pointerId)
            pull(e)
          }}
          onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && pull(e)}
        >
          <SideAxes x={x} y={y} width={width} reach={reach} tall={tall} />
          <SideObstacles x={x} y={y} obstacles={obstacles} tall={tall} />
          {before && (
            <path
              d={path(before.flight)}
              fill="none"
              strokeWidth="2"
              strokeDasharray="2 6"
              style={{ stroke: 'var(--quiet)' }}
            />
          )}
          {flights.map(({ name, look, flight }, i) => (
            <path
              key={name}
              d={path(flight)}
              fill="none"
              strokeWidth={i === 0 ? 3 : 2}
              strokeDasharray={dashesOf(look)}
              style={{ stroke: hueOf(look) }}
            />
          ))}
          <line
            x1={x(0)}
            y1={y(RELEASE_HEIGHT)}
            x2={handle.x}
            y2={handle.y}
            strokeDasharray="3 4"
            style={{ stroke: 'var(--ink)' }}
          />
          <circle
            cx={handle.x}
            cy={handle.y}
            r="7"
            strokeWidth="3"
            className="cursor-ns-resize"
            style={{ fill: 'var(--card)', stroke: 'var(--ink)' }}
          />
          {atS !== undefined &&
            flights.map(({ name, look, flight }) => {
              const at = instantOf(flight, atS)
              return (
                <circle
                  key={name}
                  cx={x(at.downM)}
                  cy={y(at.upM)}
                  r="6"
                  strokeWidth="2.5"
                  style={{ fill: hueOf(look), stroke: 'var(--card)' }}
                />
              )
            })}
        </svg>
      )}
    </div>
  )
})

/** Distances that are marked on the ground, by the unit of whoever reads; the first of them with their figure. */
const MARKS = { metric: [10, 20, 40, 80], imperial: [30, 60, 120, 240] } as const
const FIGURED = 2
/** A disc is so wide, m. */
const DISC_M = 0.22

/** A place on the ground as it is seen. */
const ground = (downM: number, sideM: number) => fromBehind({ downM, sideM, upM: 0 })

interface BehindScale {
  /** From the line of sight, as a share of the distance, to px. */
  readonly x: (across: number) => number
  readonly y: (above: number) => number
}

/** Lines across the ground at even distances, the nearest with their figures. */
function GroundMarks({
  width,
  height,
  y,
}: Pick<BehindScale, 'y'> & { readonly width: number; readonly height: number }) {
  const { kind, length } = useUnits()
  return MARKS[kind].map((mark, i) => {
    const m = length.from(mark)
    const { above } = ground(m, 0)
    return (
      y(above) < height - 4 && (
        <g key={m}>
          <line
            x1="0"
            x2={width}
            y1={y(above)}
            y2={y(above)}
            style={{ stroke: 'var(--mown)' }}
            strokeWidth="2"
          />
          {i < FIGURED && (
            <text x="6" y={y(above) - 3} fontSize="12" className="figure" style={{ fill: 'var(--quiet)' }}>
              {length.show(m, 0)}
            </text>
          )}
        </g>
      )
    )
  })
}

/** Trees from behind the tee. */
function Trees({
  obstacles,
  x,
  y,
  sign,
  scale,
}: BehindScale & Pick<ViewProps, 'obstacles'> & { readonly sign: 1 | -1; readonly scale: number }) {
  return obstacles.map((o, i) => {
    if (o.kind !== 'tree') return null
    const { across, above } = ground(o.at.downM, o.at.sideM)
    const crown = fromBehind({ ...o.at, upM: o.heightM })
    const wide = (2 * o.radiusM * scale) / (o.at.downM + EYES.behindM)
    return (
      <rect
        key={i}
        x={x(sign * across) - wide / 2}
        width={Math.max(2, wide)}
        y={y(crown.above)}
        height={Math.max(1, y(above) - y(crown.above))}
        fillOpacity="0.6"
        style={{ fill: 'var(--hue-2)' }}
      />
    )
  })
}

/** Flights as they are seen from behind the tee. */
export const FromBehind = memo(function FromBehind({
  flights,
  before,
  obstacles,
  atS,
  fade,
  untilS = Infinity,
  height: most = HEIGHT,
  discPx = 9,
}: ViewProps & {
  readonly fade: 'left' | 'right'
  /** No more of a flight is shown. */
  readonly untilS?: number
  readonly height?: number
  /** The disc is drawn at least so wide: its tilt is seen from farther than a screen shows. */
  readonly discPx?: number
}) {
  const { box, width } = useWidth()
  // a phone has room for little more than the flight
  const height = Math.min(most, Math.max(HEIGHT, 0.6 * width))
  // to the right as it is seen
  const sign = fade === 'right' ? 1 : -1
  const all = [...flights, ...(before ? [before] : [])]
  // the hand itself is too near to say anything of the flight
  const seen = (f: LabFlight) =>
    f.downM.flatMap((downM, i) => {
      if (downM < 2 || f.timeS[i]! > untilS) return []
      const { across, above } = fromBehind({ downM, sideM: f.sideM[i]!, upM: f.upM[i]! })
      return [{ across: sign * across, above }]
    })
  const lines = all.map((f) => seen(f.flight))
  const [low = -0.3, high = 0.3] = extent(lines.flat(), (p) => p.across)
  const half = Math.max(0.3, 1.15 * Math.max(-low, high))
  const top = Math.max(0.22, 1.15 * (max(lines.flat(), (p) => p.above) ?? 0))
  const foot = -0.14
  const scale = Math.min(width / (2 * half), height / (top - foot))
  const x = (across: number) => width / 2 + across * scale
  const y = (above: number) => height * (top / (top - foot)) - above * scale
  const d = (of: readonly { across: number; above: number }[]) =>
    line<{ across: number; above: number }>(
      (p) => x(p.across),
      (p) => y(p.above),
    )(of as { across: number; above: number }[]) ?? ''
  return (
    <div ref={box} style={{ height }} className="overflow-hidden rounded-lg select-none">
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label={`As seen from behind the tee, eyes ${EYES.heightM} m above the ground.`}
        >
          <rect width={width} height={y(0)} style={{ fill: 'var(--tint)' }} />
          <rect y={y(0)} width={width} height={height - y(0)} style={{ fill: 'var(--mown-2)' }} />
          <line
            x1={x(0)}
            y1={y(0)}
            x2={x(0)}
            y2={height}
            strokeWidth="2.5"
            style={{ stroke: 'var(--chalk)' }}
          />
          <GroundMarks width={width} height={height} y={y} />
          <Trees {...{ obstacles, x, y, sign, scale }} />
          {before && (
            <path
              d={d(lines.at(-1)!)}
              fill="none"
              strokeWidth="2"
              strokeDasharray="2 6"
              style={{ stroke: 'var(--quiet)' }}
            />
          )}
          {flights.map(({ name, look }, i) => (
            <path
              key={name}
              d={d(lines[i]!)}
              fill="none"
              strokeWidth={i === 0 ? 3 : 2}
              strokeLinecap="round"
              strokeDasharray={dashesOf(look)}
              style={{ stroke: hueOf(look) }}
            />
          ))}
          {atS !== undefined &&
            flights.map(({ name, look, flight }) => {
              const at = instantOf(flight, atS)
              const { across, above } = fromBehind(at)
              const wide = Math.max(discPx, (DISC_M * scale) / (at.downM + EYES.behindM))
              return (
                <ellipse
                  key={name}
                  cx={x(sign * across)}
                  cy={y(above)}
                  rx={wide / 2}
                  ry={wide / 7}
                  transform={`rotate(${sign * at.tiltDeg} ${x(sign * across)} ${y(above)})`}
                  strokeWidth="1.5"
                  style={{ fill: hueOf(look), stroke: 'var(--card)' }}
                />
              )
            })}
        </svg>
      )}
    </div>
  )
})
