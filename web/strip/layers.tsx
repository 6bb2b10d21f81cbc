import { area, curveCatmullRom, line } from 'd3'
import { useScale } from './Strip.tsx'
import type { Spot } from './Strip.tsx'

interface FlightProps {
  readonly path: readonly Spot[]
  readonly hue: string
  readonly width?: number
  readonly opacity?: number
  readonly dashed?: boolean
  /** How it is dashed where another has its hue. */
  readonly dashes?: string | undefined
}

/** The line of a flight. */
export function Flight({ path, hue, width = 2.5, opacity = 1, dashed = false, dashes }: FlightProps) {
  const scale = useScale()
  const d = line<Spot>()
    .x((p) => scale.x(p.down))
    .y((p) => scale.y(p.left))
    .curve(curveCatmullRom)(path as Spot[])
  return (
    <path
      d={d ?? ''}
      fill="none"
      strokeWidth={width}
      strokeLinecap="round"
      strokeOpacity={opacity}
      strokeDasharray={dashed ? '2 6' : dashes}
      style={{ stroke: hue }}
    />
  )
}

/** The 90 % band a flight lies in. */
export function Band({
  band,
  hue,
}: {
  band: readonly { down: number; low: number; high: number }[]
  hue: string
}) {
  const scale = useScale()
  const d = area<{ down: number; low: number; high: number }>()
    .x((p) => scale.x(p.down))
    .y0((p) => scale.y(p.low))
    .y1((p) => scale.y(p.high))(band as { down: number; low: number; high: number }[])
  return <path d={d ?? ''} fillOpacity="0.15" style={{ fill: hue }} />
}

interface LandingProps {
  readonly at: Spot
  readonly hue: string
  readonly radius?: number
  readonly faded?: boolean
  /** Left out of the numbers: drawn hollow with a stroke through it. */
  readonly leftOut?: boolean
}

/** Where a disc landed. */
export function LandingDot({ at, hue, radius = 5, faded = false, leftOut = false }: LandingProps) {
  const scale = useScale()
  const [x, y] = [scale.x(at.down), scale.y(at.left)]
  return (
    <g opacity={faded ? 0.55 : 1}>
      <circle
        cx={x}
        cy={y}
        r={radius}
        strokeWidth={leftOut ? 2 : 1.5}
        style={{ fill: leftOut ? 'var(--card)' : hue, stroke: leftOut ? hue : 'var(--card)' }}
      />
      {leftOut && (
        <line
          x1={x - radius}
          x2={x + radius}
          y1={y + radius}
          y2={y - radius}
          strokeWidth="2"
          style={{ stroke: hue }}
        />
      )}
    </g>
  )
}

/** The ellipse two throws in three are expected to land in. */
export function Ellipse({
  at,
  covariance,
  hue,
}: {
  at: Spot
  /** var along, covariance along × left, var left, m². */
  covariance: readonly [number, number, number]
  hue: string
}) {
  const scale = useScale()
  const [xx, xy, yy] = covariance
  // Gaussian in the plane: two thirds lie within √(2 ln 3) standard deviations
  const reach = Math.sqrt(2 * Math.log(3))
  const ring = Array.from({ length: 49 }, (_, i) => {
    const angle = (i / 48) * 2 * Math.PI
    const l11 = Math.sqrt(xx)
    const l21 = xy / l11
    const l22 = Math.sqrt(Math.max(0, yy - l21 * l21))
    const [c, s] = [Math.cos(angle), Math.sin(angle)]
    return `${scale.x(at.down + reach * l11 * c)},${scale.y(at.left + reach * (l21 * c + l22 * s))}`
  })
  return <polygon points={ring.join(' ')} fillOpacity="0.16" style={{ fill: hue }} />
}

interface End {
  readonly at: Spot
  readonly hue: string
  readonly words: string
}
/** Lines of labels stand this far apart, px. */
const LINE = 17

/** Where flights end, each with its name; names that would cover one another move apart. */
export function EndLabels({ ends }: { ends: readonly End[] }) {
  const scale = useScale()
  const placed: { x: number; y: number; end: End }[] = []
  const sorted = [...ends].sort((a, b) => b.at.left - a.at.left)
  for (const end of sorted) {
    const x = scale.x(end.at.down)
    let y = scale.y(end.at.left)
    for (const p of placed) if (Math.abs(p.x - x) < 90 && y - p.y < LINE) y = p.y + LINE
    placed.push({ x, y, end })
  }
  // names pushed off the foot of the field push back
  let foot = scale.foot - 9
  for (const p of [...placed].reverse()) {
    if (p.y <= foot) break
    p.y = foot
    foot -= LINE
  }
  return placed.map(({ x, y, end }) => (
    <g key={end.words}>
      <LandingDot at={end.at} hue={end.hue} />
      <text
        x={x + 11}
        y={y + 5}
        fontSize="14"
        fontWeight="650"
        paintOrder="stroke"
        strokeWidth="4"
        strokeLinejoin="round"
        style={{ fill: end.hue, stroke: 'var(--mown)' }}
      >
        {end.words}
      </text>
    </g>
  ))
}
