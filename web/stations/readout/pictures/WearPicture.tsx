import { AxisText } from '../../../charts/AxisText.tsx'
import { extent, scaleLinear } from 'd3'
import { WEAR_STATES } from '../../../../contract/shelf.ts'
import type { WearPoint } from '../../../../core/judge/answers/picture.ts'
import { boundsOf, STABILITY_WORDS } from '../../../../core/judge/words.ts'
import { Z90 } from '../../../../core/rating/normal.ts'
import type { Estimate } from '../../../../core/rating/outcome.ts'
import { figure } from '../../../data/units.ts'
import { hueOf } from '../../../strip/hues.ts'
import type { Drawing } from './drawing.ts'

interface WearPictureProps extends Drawing {
  readonly points: readonly WearPoint[]
  readonly change: Estimate
}

const WIDTH = 760
const HEIGHT = 320
const PAD = { left: 46, right: 150, top: 12, bottom: 34 }

/** Stability of every copy by its state, what wear does between them as a line, and the words it passes through. */
export function WearPicture({ points, change, name, place }: WearPictureProps) {
  const bounds = points.flatMap((p) => [
    p.stability.value - Z90 * p.stability.sd,
    p.stability.value + Z90 * p.stability.sd,
  ])
  const [low, high] = extent(bounds) as [number, number]
  const x = scaleLinear([-0.08, 1.08], [PAD.left, WIDTH - PAD.right])
  const y = scaleLinear([low, high], [HEIGHT - PAD.bottom, PAD.top]).nice()
  const [bottom, top] = y.domain() as [number, number]
  // the line goes through the copies’ middle, as steep as wear is
  const middle = (of: (p: WearPoint) => number) => points.reduce((s, p) => s + of(p), 0) / points.length
  const at = (w: number) => middle((p) => p.stability.value) + (w - middle((p) => p.wear)) * change.value
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
      {WEAR_STATES.map((state, i) => (
        <text
          key={state}
          x={x(i / (WEAR_STATES.length - 1))}
          y={HEIGHT - 10}
          textAnchor="middle"
          fontSize="14"
          style={{ fill: 'var(--ink)' }}
        >
          {state}
        </text>
      ))}
      <line
        x1={x(0)}
        x2={x(1)}
        y1={y(at(0))}
        y2={y(at(1))}
        strokeWidth="2"
        strokeDasharray="6 6"
        style={{ stroke: 'var(--quiet)' }}
      />
      {points.map((p) => {
        const hue = hueOf(place(p.disc))
        return (
          <g key={p.disc}>
            <line
              x1={x(p.wear)}
              x2={x(p.wear)}
              y1={y(p.stability.value - Z90 * p.stability.sd)}
              y2={y(p.stability.value + Z90 * p.stability.sd)}
              strokeWidth="9"
              strokeLinecap="round"
              strokeOpacity="0.28"
              style={{ stroke: hue }}
            />
            <circle cx={x(p.wear)} cy={y(p.stability.value)} r="7" style={{ fill: hue }} />
            <text
              x={x(p.wear) + (p.wear > 0.7 ? -12 : 12)}
              textAnchor={p.wear > 0.7 ? 'end' : 'start'}
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
