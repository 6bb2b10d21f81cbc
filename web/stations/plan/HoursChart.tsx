import { DEGREE } from '../../../core/flight/units.ts'
import { AxisText } from '../../charts/AxisText.tsx'
import { line, max as maxOf, scaleLinear, scalePoint } from 'd3'
import { alongAim } from '../../../core/plan/window.ts'
import type { ForecastHour, Window } from '../../../core/plan/window.ts'
import { useUnits } from '../../data/preferences.tsx'

const [WIDTH, HEIGHT] = [560, 134]
const PAD = { left: 40, right: 24, top: 24, bottom: 30 }

/** Wind and gusts over the day, the window marked. */
export function HoursChart({
  hours,
  window,
  bearing,
  source,
}: {
  hours: readonly ForecastHour[]
  window: Window
  bearing: number
  source: string
}) {
  const units = useUnits()
  const x = scalePoint(
    hours.map((h) => h.at),
    [PAD.left, WIDTH - PAD.right],
  )
  const top = maxOf(hours, (h) => units.speed.to(h.gustMps)) ?? 1
  const y = scaleLinear([0, top], [HEIGHT - PAD.bottom, PAD.top]).nice(3)
  const drawn = (of: (h: ForecastHour) => number) =>
    line<ForecastHour>()
      .x((h) => x(h.at)!)
      .y((h) => y(units.speed.to(of(h))))(hours as ForecastHour[]) ?? ''
  const [from, to] = [hours[window.from]!, hours[Math.min(hours.length - 1, window.from + window.hours)]!]
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mt-1 w-full"
      role="img"
      aria-label={`Wind by the hour, ${source}: ${hours
        .map(
          (h) => `${h.at.slice(11, 16)} ${units.speed.show(h.windMps)} gusts ${units.speed.show(h.gustMps)}`,
        )
        .join(', ')}`}
    >
      <rect
        x={x(from.at)}
        width={Math.max(8, x(to.at)! - x(from.at)!)}
        y={PAD.top}
        height={HEIGHT - PAD.top - PAD.bottom}
        fillOpacity="0.14"
        style={{ fill: 'var(--accent)' }}
      />
      {y.ticks(3).map((t) => (
        <g key={t}>
          <line x1={PAD.left} x2={WIDTH - PAD.right} y1={y(t)} y2={y(t)} style={{ stroke: 'var(--rule)' }} />
          <AxisText x={PAD.left - 6} y={y(t) + 4} anchor="end">
            {t}
          </AxisText>
        </g>
      ))}
      <AxisText x={2} y={11} anchor="start" words>
        {units.speed.unit}; dashed gusts
      </AxisText>
      <AxisText x={WIDTH - PAD.right} y={11} anchor="end" words>
        {source}
      </AxisText>
      <path
        d={drawn((h) => h.gustMps)}
        fill="none"
        strokeWidth="1.5"
        strokeDasharray="3 3"
        style={{ stroke: 'var(--water)' }}
      />
      <path d={drawn((h) => h.windMps)} fill="none" strokeWidth="2.5" style={{ stroke: 'var(--water)' }} />
      {hours.map((h, i) => {
        const { alongMps, acrossMps } = alongAim(h.windMps, h.fromDeg, bearing)
        return (
          <g key={h.at}>
            {i % 2 === 0 && (
              <AxisText x={x(h.at)} y={HEIGHT - 6}>
                {h.at.slice(11, 16)}
              </AxisText>
            )}
            <path
              d="M-5 0h8m-3 -3l3 3l-3 3"
              fill="none"
              strokeWidth="1.5"
              transform={`translate(${x(h.at)},${y(0) - 7}) rotate(${Math.atan2(acrossMps, alongMps) / DEGREE})`}
              style={{ stroke: 'var(--quiet)' }}
            />
            {h.rainMm > 0 && <circle cx={x(h.at)} cy={PAD.top + 4} r="3" style={{ fill: 'var(--water)' }} />}
          </g>
        )
      })}
    </svg>
  )
}
