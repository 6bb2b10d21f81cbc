import { extent, scaleLinear } from 'd3'
import type { DotRow } from '../../core/judge/answers/picture.ts'
import { useUnits } from '../data/preferences.tsx'
import { figure } from '../data/units.ts'
import { DiscDot } from '../parts/Disc.tsx'
import { hueOf } from '../strip/hues.ts'
import type { Drawing } from './drawing.ts'

interface DotsProps extends Drawing {
  readonly unit: 'm' | ''
  readonly zero: string
  readonly rows: readonly DotRow[]
}

const HEIGHT = 46

/** Every throw of the short game as a dot, disc by disc, with the mean and its interval. */
export function DotsPicture({ unit, zero, rows, name, look }: DotsProps) {
  const { length } = useUnits()
  const shown = (v: number) => (unit === 'm' ? figure(length.to(v), 1) : figure(v, 1))
  const [low, high] = extent([
    0,
    1,
    ...rows.flatMap((r) => [...r.values, r.mean?.low ?? 0, r.mean?.high ?? 0]),
  ])
  const x = scaleLinear([low!, high!], [2, 98]).nice()
  return (
    <div>
      <ul className="grid grid-cols-[minmax(0,9.5rem)_1fr_9rem] items-center gap-x-3">
        {rows.map((r) => (
          <li key={r.disc} className="contents">
            <span className="flex items-center gap-2 truncate font-medium">
              <DiscDot look={look(r.disc)} /> {name(r.disc)}
            </span>
            <svg
              height={HEIGHT}
              className="w-full overflow-visible"
              role="img"
              aria-label={`${name(r.disc)}: ${r.values.map(shown).join(', ')}`}
            >
              <line x1="0%" x2="100%" y1="32" y2="32" style={{ stroke: 'var(--rule)' }} />
              <line
                x1={`${x(0)}%`}
                x2={`${x(0)}%`}
                y1="2"
                y2={HEIGHT - 2}
                style={{ stroke: 'var(--edge)' }}
              />
              {r.mean && (
                <rect
                  x={`${x(r.mean.low)}%`}
                  width={`${x(r.mean.high) - x(r.mean.low)}%`}
                  y="26"
                  height="12"
                  rx="6"
                  fillOpacity="0.28"
                  style={{ fill: hueOf(look(r.disc)) }}
                />
              )}
              {r.values.map((v, i) => (
                <circle
                  key={i}
                  cx={`${x(v)}%`}
                  cy={8 + 5 * (i % 3)}
                  r="4"
                  fillOpacity="0.55"
                  style={{ fill: hueOf(look(r.disc)) }}
                />
              ))}
              {r.mean && (
                <circle cx={`${x(r.mean.value)}%`} cy="32" r="7" style={{ fill: hueOf(look(r.disc)) }} />
              )}
            </svg>
            <span className="figure text-right text-note">
              {r.mean
                ? `${shown(r.mean.value)} (${shown(r.mean.low)} to ${shown(r.mean.high)})`
                : r.values.map(shown).join(', ')}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-note text-quiet">
        Every throw a dot; the large one is their mean with its 90 % interval
        {unit === 'm' && `, ${length.unit}`}. 0 is {zero || 'none'}.
      </p>
    </div>
  )
}
