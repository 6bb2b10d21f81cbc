import { scaleLinear } from 'd3'

export interface IntervalRow {
  readonly id: string
  readonly name: string
  readonly hue: string
  readonly value: number
  /** 90 % bar. */
  readonly low: number
  readonly high: number
  /** The value as it is said. */
  readonly words: string
  /** Single values behind it. */
  readonly ticks?: readonly number[]
}

interface IntervalRowsProps {
  readonly rows: readonly IntervalRow[]
  /** What the axis measures. */
  readonly axis: string
  readonly mark: (value: number) => string
  /** What lies at either end. */
  readonly ends: readonly [low: string, high: string]
  /** Closer to zero than this is alike: a pale window. */
  readonly alike?: number
}

/** A value with its 90 % bar a row, on one axis with a line at zero; the figures stand beside it. */
export function IntervalRows({ rows, axis, mark, ends: [low, high], alike }: IntervalRowsProps) {
  const all = rows.flatMap((r) => [r.low, r.high, ...(r.ticks ?? [])])
  const x = scaleLinear([Math.min(-1, ...all), Math.max(1, ...all)], [0, 100]).nice()
  const width = Math.max(...rows.map((r) => r.words.length))
  // a mark that would read like its neighbour is left out
  const marks = x.ticks(4).filter((m, i, all) => i === 0 || mark(m) !== mark(all[i - 1]!))
  return (
    <div>
      <ul
        className="grid items-center gap-x-3"
        style={{ gridTemplateColumns: `minmax(0, 9.5rem) 1fr ${Math.max(3, 0.55 * width + 0.5)}rem` }}
      >
        {rows.map((r) => (
          <li key={r.id} className="contents">
            <span className="truncate font-medium">{r.name}</span>
            <svg height="34" className="w-full overflow-visible" aria-hidden>
              {alike !== undefined && (
                <rect
                  x={`${x(-alike)}%`}
                  width={`${x(alike) - x(-alike)}%`}
                  y="0"
                  height="34"
                  style={{ fill: 'var(--tint)' }}
                />
              )}
              <line x1={`${x(0)}%`} x2={`${x(0)}%`} y1="0" y2="34" style={{ stroke: 'var(--edge)' }} />
              <rect
                x={`${x(r.low)}%`}
                width={`${x(r.high) - x(r.low)}%`}
                y="11"
                height="12"
                rx="6"
                fillOpacity="0.28"
                style={{ fill: r.hue }}
              />
              {r.ticks?.map((t, i) => (
                <line
                  key={i}
                  x1={`${x(t)}%`}
                  x2={`${x(t)}%`}
                  y1="7"
                  y2="27"
                  strokeWidth="2"
                  style={{ stroke: r.hue }}
                />
              ))}
              <circle cx={`${x(r.value)}%`} cy="17" r="7" style={{ fill: r.hue }} />
            </svg>
            <span className="figure text-right">{r.words}</span>
          </li>
        ))}
        <li className="contents" aria-hidden>
          <span className="text-note text-quiet">{axis}</span>
          <svg height="20" className="figure w-full overflow-visible" fontSize="14">
            {marks.map((m) => (
              <text key={m} x={`${x(m)}%`} y="14" textAnchor="middle" style={{ fill: 'var(--quiet)' }}>
                {mark(m)}
              </text>
            ))}
          </svg>
          <span />
        </li>
      </ul>
      <div className="mt-1 flex justify-between text-note font-semibold">
        <span className="text-accent">← {low}</span>
        <span className="text-quiet">90 % interval</span>
        <span className="text-water">{high} →</span>
      </div>
    </div>
  )
}
