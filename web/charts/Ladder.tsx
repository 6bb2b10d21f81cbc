import { scaleLinear } from 'd3'
import type { DiscOutcome } from '../../core/rating/outcome.ts'
import { figure } from '../data/units.ts'
import { hueOf } from '../strip/hues.ts'
import { Z90 } from '../../core/rating/normal.ts'

interface LadderProps {
  readonly discs: readonly DiscOutcome[]
  readonly name: (code: string) => string
  readonly place: (code: string) => number
}

/** Discs from most to least stable on turn + fade, each with its 90 % bar; 0 is straight. */
export function Ladder({ discs, name, place }: LadderProps) {
  const rows = [...discs].sort((a, b) => b.stability.value - a.stability.value)
  const ends = rows.flatMap((d) => [
    d.stability.value - Z90 * d.stability.sd,
    d.stability.value + Z90 * d.stability.sd,
  ])
  const x = scaleLinear([Math.min(-1, ...ends), Math.max(1, ...ends)], [0, 100]).nice()
  const marks = x.ticks(5)
  return (
    <div>
      <ul className="grid grid-cols-[minmax(0,9.5rem)_1fr_3rem] items-center gap-x-3">
        {rows.map((d) => {
          const hue = hueOf(place(d.disc))
          const [low, high] = [
            d.stability.value - Z90 * d.stability.sd,
            d.stability.value + Z90 * d.stability.sd,
          ]
          return (
            <li key={d.disc} className="contents">
              <span className="truncate font-medium">{name(d.disc)}</span>
              <svg height="34" className="w-full overflow-visible" aria-hidden>
                <line x1={`${x(0)}%`} x2={`${x(0)}%`} y1="0" y2="34" style={{ stroke: 'var(--edge)' }} />
                <rect
                  x={`${x(low)}%`}
                  width={`${x(high) - x(low)}%`}
                  y="11"
                  height="12"
                  rx="6"
                  fillOpacity="0.28"
                  style={{ fill: hue }}
                />
                <circle cx={`${x(d.stability.value)}%`} cy="17" r="7" style={{ fill: hue }} />
              </svg>
              <span className="figure text-right">{figure(d.stability.value, 1)}</span>
            </li>
          )
        })}
        <li className="contents" aria-hidden>
          <span className="text-note text-quiet">turn + fade</span>
          <svg height="20" className="figure w-full overflow-visible" fontSize="14">
            {marks.map((m) => (
              <text key={m} x={`${x(m)}%`} y="14" textAnchor="middle" style={{ fill: 'var(--quiet)' }}>
                {figure(m, 0)}
              </text>
            ))}
          </svg>
          <span />
        </li>
      </ul>
      <div className="mt-1 flex justify-between text-note font-semibold">
        <span className="text-accent">← understable</span>
        <span className="text-quiet">bars hold 90 %</span>
        <span className="text-water">overstable →</span>
      </div>
    </div>
  )
}
