import { scaleLinear } from 'd3'
import { HALF_NUMBER } from '../../core/flight/disc.ts'
import { figure } from '../data/units.ts'
import { Z90 } from '../../core/rating/normal.ts'

/** Half the width of the axis, in numbers: every axis is centred on its claim, so flags line up down a table. */
const HALF = 2

interface ClaimEvidenceProps {
  readonly what: string
  readonly published: number
  readonly observed: number
  readonly sd: number
  readonly hue: string
  readonly width?: number
  /** Shows the window in which the claim is true. */
  readonly window?: boolean
}

/** A published number as a black flag, the evidence a dot with its 90 % bar, on a short axis about the claim. */
export function ClaimEvidence({
  what,
  published,
  observed,
  sd,
  hue,
  width = 118,
  window = false,
}: ClaimEvidenceProps) {
  const x = scaleLinear([published - HALF, published + HALF], [7, width - 7]).clamp(true)
  const [low, high] = [observed - Z90 * sd, observed + Z90 * sd]
  return (
    <svg
      width={width}
      height="30"
      role="img"
      className="max-w-full"
      viewBox={`0 0 ${width} 30`}
      aria-label={`${what}: published ${figure(published, 1)}, seen ${figure(observed, 1)}, 90 % interval ${figure(low, 1)} to ${figure(high, 1)}`}
    >
      {window && (
        <rect
          x={x(published - HALF_NUMBER)}
          width={x(published + HALF_NUMBER) - x(published - HALF_NUMBER)}
          y="5"
          height="24"
          style={{ fill: 'var(--mown-2)' }}
        />
      )}
      <line x1="7" x2={width - 7} y1="17" y2="17" style={{ stroke: 'var(--rule)' }} strokeWidth="1.5" />
      {[-2, -1, 0, 1, 2].map((t) => (
        <line
          key={t}
          x1={x(published + t)}
          x2={x(published + t)}
          y1="13.5"
          y2="20.5"
          style={{ stroke: 'var(--edge)' }}
          strokeWidth="1"
        />
      ))}
      <rect
        x={x(low)}
        width={Math.max(2, x(high) - x(low))}
        y="12"
        height="10"
        rx="5"
        fillOpacity="0.3"
        style={{ fill: hue }}
      />
      <line
        x1={x(published)}
        x2={x(published)}
        y1="3"
        y2="28"
        strokeWidth="2"
        style={{ stroke: 'var(--ink)' }}
      />
      <path d={`M${x(published) - 5} 2h10l-5 6z`} style={{ fill: 'var(--ink)' }} />
      <circle cx={x(observed)} cy="17" r="5.5" style={{ fill: hue }} />
    </svg>
  )
}
