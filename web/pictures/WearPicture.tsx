import { AxisText } from '../charts/AxisText.tsx'
import { extent, max, min, scaleLinear } from 'd3'
import { WEAR_STATES } from '../../contract/shelf.ts'
import type { WearPoint } from '../../core/judge/answers/picture.ts'
import { boundsOf, STABILITY_WORDS } from '../../core/judge/words.ts'
import { Z90 } from '../../core/rating/normal.ts'
import type { Estimate } from '../../core/rating/outcome.ts'
import { figure } from '../data/units.ts'
import { hueOf } from '../strip/hues.ts'
import type { Drawing } from './drawing.ts'

interface WearPictureProps extends Drawing {
  readonly points: readonly WearPoint[]
  readonly change: Estimate
}

const WIDTH = 760
const HEIGHT = 320
const PAD = { left: 46, right: 150, top: 12, bottom: 34 }

/** Copies nearer to each other than this, in throws, are shown by their states. */
const LEAST_THROWS = 50

/**
 * Stability of every copy by what it has been through, or by its state where that is not counted; what wear does between them as a
 * line, the copies joined, and the words it passes through.
 */
export function WearPicture({ points, change, name, look }: WearPictureProps) {
  const bounds = points.flatMap((p) => [
    p.stability.value - Z90 * p.stability.sd,
    p.stability.value + Z90 * p.stability.sd,
  ])
  const [low, high] = extent(bounds) as [number, number]
  const counts = points.flatMap((p) => p.through ?? [])
  const most = max(counts) ?? 0
  const counted = counts.length === points.length && most - min(counts)! >= LEAST_THROWS
  const x = scaleLinear(counted ? [-0.06 * most, 1.08 * most] : [-0.08, 1.08], [PAD.left, WIDTH - PAD.right])
  const along = (p: WearPoint) => (counted ? p.through! : p.wear)
  const sorted = [...points].sort((a, b) => along(a) - along(b))
  const [first, last] = [sorted[0]!, sorted.at(-1)!]
  /** What wear does a unit of the axis. */
  const slope = (change.value * (last.wear - first.wear)) / (along(last) - along(first))
  const y = scaleLinear([low, high], [HEIGHT - PAD.bottom, PAD.top]).nice()
  const [bottom, top] = y.domain() as [number, number]
  // the line goes through the copies’ middle, as steep as wear is
  const middle = (of: (p: WearPoint) => number) => points.reduce((s, p) => s + of(p), 0) / points.length
  const at = (w: number) => middle((p) => p.stability.value) + (w - middle(along)) * slope
  const [begins, ends] = counted ? [0, most] : [0, 1]
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label="Stability by wear">
      {STABILITY_WORDS.map((word) => {
        const b = boundsOf(word)
        const [from, to] = [Math.max(bottom, b.low), Math.min(top, b.high)]
        if (to <= from) return null
        return (
          <g key={word}>
            <line
              x1={PAD.left}
              x2={WIDTH - PAD.right}
              y1={y(from)}
              y2={y(from)}
              style={{ stroke: 'var(--rule)' }}
            />
            {y(from) - y(to) > 14 && (
              <AxisText x={WIDTH - PAD.right + 10} y={(y(from) + y(to)) / 2 + 5} anchor="start" words>
                {word}
              </AxisText>
            )}
          </g>
        )
      })}
      {y.ticks(5).map((t) => (
        <AxisText key={t} x={PAD.left - 8} y={y(t) + 5} anchor="end">
          {figure(t, 1)}
        </AxisText>
      ))}
      {(counted
        ? x.ticks(5).map((n) => [n, String(n)] as const)
        : WEAR_STATES.map((state, i) => [i / (WEAR_STATES.length - 1), state] as const)
      ).map(([at, text]) => (
        <AxisText key={text} x={x(at)} y={HEIGHT - 10} words>
          {text}
        </AxisText>
      ))}
      {counted && (
        <AxisText x={WIDTH - PAD.right + 10} y={HEIGHT - 10} anchor="start" words>
          throws been through
        </AxisText>
      )}
      <polyline
        points={sorted.map((p) => `${x(along(p))},${y(p.stability.value)}`).join(' ')}
        fill="none"
        strokeWidth="1.5"
        style={{ stroke: 'var(--rule)' }}
      />
      <line
        x1={x(begins)}
        x2={x(ends)}
        y1={y(at(begins))}
        y2={y(at(ends))}
        strokeWidth="2"
        strokeDasharray="6 6"
        style={{ stroke: 'var(--quiet)' }}
      />
      {points.map((p) => {
        const hue = hueOf(look(p.disc))
        return (
          <g key={p.disc}>
            <line
              x1={x(along(p))}
              x2={x(along(p))}
              y1={y(p.stability.value - Z90 * p.stability.sd)}
              y2={y(p.stability.value + Z90 * p.stability.sd)}
              strokeWidth="9"
              strokeLinecap="round"
              strokeOpacity="0.28"
              style={{ stroke: hue }}
            />
            <circle cx={x(along(p))} cy={y(p.stability.value)} r="7" style={{ fill: hue }} />
            <text
              x={x(along(p)) + (x(along(p)) > WIDTH - PAD.right - 160 ? -12 : 12)}
              textAnchor={x(along(p)) > WIDTH - PAD.right - 160 ? 'end' : 'start'}
              y={y(p.stability.value) - 8}
              fontSize="14"
              fontWeight="650"
              style={{ fill: hue }}
            >
              {name(p.disc)}
            </text>
          </g>
        )
      })}
    </svg>
  )
}
