import { line } from 'd3'
import type { RimPoint, RimSection } from '../../core/shelf/rim.ts'
import { hueOf } from '../strip/hues.ts'

export interface DrawnRim {
  readonly section: RimSection
  readonly look: number
}

export type Align = 'parting line' | 'base'

/** How much of the flight plate inside the rim is shown, mm. */
const INSIDE_MM = 26
const PAD = { left: 4, right: 62, top: 12, bottom: 22 }
const WIDTH = 620

/** Rims to scale, laid over each other; the thrower’s hand would be on the right. */
export function RimDrawing({ rims, align }: { rims: readonly DrawnRim[]; align: Align }) {
  const lift = (s: RimSection) => (align === 'base' ? 0 : rims[0]!.section.partingLineMm - s.partingLineMm)
  const out = Math.max(...rims.map((r) => r.section.radiusMm))
  const widest = Math.max(...rims.map((r) => r.section.radiusMm - r.section.innerMm))
  const from = out - widest - INSIDE_MM
  const top = Math.max(...rims.map((r) => r.section.heightMm + lift(r.section)))
  const low = Math.min(...rims.map((r) => lift(r.section)))
  const scale = (WIDTH - PAD.left - PAD.right) / (out - from)
  const height = (top - low) * scale + PAD.top + PAD.bottom
  // rims are shown edge on edge: the nose of each at the same place
  const x = (s: RimSection, mm: number) => PAD.left + (mm + out - s.radiusMm - from) * scale
  const y = (s: RimSection, mm: number) => PAD.top + (top - mm - lift(s)) * scale
  const labels = spread(rims.map((r) => y(r.section, r.section.partingLineMm)))
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      className="w-full"
      role="img"
      aria-label={`Rims to scale, aligned at the ${align}: parting lines at ${rims
        .map((r) => `${r.section.partingLineMm} mm`)
        .join(' and ')}`}
    >
      <clipPath id="rim-cut">
        <rect x={PAD.left} width={WIDTH} height={height} />
      </clipPath>
      <g clipPath="url(#rim-cut)">
        {[...rims].reverse().map(({ section: s, look }) => {
          const d = line<RimPoint>()
            .x((p) => x(s, p[0]))
            .y((p) => y(s, p[1]))(s.outline as RimPoint[])
          return (
            <path
              key={look}
              d={d ?? ''}
              fillOpacity="0.12"
              strokeWidth="2.5"
              strokeLinejoin="round"
              style={{ fill: hueOf(look), stroke: hueOf(look) }}
            />
          )
        })}
      </g>
      {rims.map(({ section: s, look }, i) => {
        const at = y(s, s.partingLineMm)
        return (
          <g key={look}>
            <line
              x1={x(s, s.radiusMm) - 190}
              x2={WIDTH - PAD.right + 8}
              y1={at}
              y2={at}
              strokeDasharray="3 3"
              strokeWidth="1.5"
              style={{ stroke: hueOf(look) }}
            />
            <text
              x={WIDTH - PAD.right + 12}
              y={labels[i]! + 5}
              className="figure"
              fontSize="14"
              style={{ fill: hueOf(look) }}
            >
              {s.partingLineMm.toFixed(1)}
            </text>
          </g>
        )
      })}
      <g style={{ stroke: 'var(--ink)', fill: 'var(--quiet)' }}>
        <line
          x1={PAD.left + 8}
          x2={PAD.left + 8 + 10 * scale}
          y1={height - 8}
          y2={height - 8}
          strokeWidth="2"
        />
        <text x={PAD.left + 16 + 10 * scale} y={height - 4} fontSize="13" stroke="none">
          10 mm
        </text>
      </g>
    </svg>
  )
}

/** Labels that would cover one another move apart. */
function spread(ys: readonly number[]): number[] {
  const order = ys.map((_, i) => i).sort((a, b) => ys[a]! - ys[b]!)
  const placed = [...ys]
  order.forEach((i, k) => {
    const above = order[k - 1]
    if (above !== undefined) placed[i] = Math.max(placed[i]!, placed[above]! + 18)
  })
  return placed
}
