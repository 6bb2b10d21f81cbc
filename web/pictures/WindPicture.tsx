import { AxisText } from '../charts/AxisText.tsx'
import { area, extent, line, scaleLinear } from 'd3'
import { useState } from 'react'
import type { WindPoint, WindRow } from '../../core/judge/answers/picture.ts'
import { HEADWIND } from '../../core/plan/aims.ts'
import { Z90 } from '../../core/rating/normal.ts'
import { useUnits } from '../data/preferences.tsx'
import { figure, percent } from '../data/units.ts'
import { Choice } from '../parts/Choice.tsx'
import { DiscHead } from '../parts/Disc.tsx'
import { EndLabels, Flight } from '../strip/layers.tsx'
import { Strip } from '../strip/Strip.tsx'
import { dashesOf, hueOf } from '../strip/hues.ts'
import type { Drawing } from './drawing.ts'

const WIDTH = 360
const HEIGHT = 300
const PAD = { left: 40, right: 8, top: 26, bottom: 34 }

/** Flights in a wind that is pulled, and where each disc finishes in every wind along the line. */
export function WindPicture({ rows, outcome, name, look }: { rows: readonly WindRow[] } & Drawing) {
  const { length, speed } = useUnits()
  const [wind, setWind] = useState(-4)
  const [across, setAcross] = useState(false)
  const up = outcome.fadeSide === 'right' ? -1 : 1
  const along = (r: WindRow) => r.points.filter((p) => p.toFadeMps === 0)
  const winds = along(rows[0]!).map((p) => p.alongMps)
  const at = (r: WindRow) =>
    r.points.find((p) =>
      across ? p.toFadeMps === wind && p.alongMps === 0 : p.alongMps === wind && p.toFadeMps === 0,
    )!
  const all = rows.flatMap((r) => r.points.flatMap((p) => p.path))
  const [low, high] = extent(all, (p) => up * p.y) as [number, number]
  const words =
    wind === 0
      ? 'still air'
      : across
        ? `${speed.show(Math.abs(wind), 0)} toward the ${wind < 0 ? 'turn' : 'fade'} side`
        : `${speed.show(Math.abs(wind), 0)} ${wind < 0 ? 'headwind' : 'tailwind'}`
  return (
    <div>
      <div className="mb-1 flex flex-wrap items-center gap-x-3 gap-y-1">
        <Choice
          label="Wind"
          value={across ? 'across' : 'along'}
          onChange={(v) => setAcross(v === 'across')}
          options={[
            { value: 'along', label: 'Along the line' },
            { value: 'across', label: 'Across it' },
          ]}
        />
        <input
          aria-label={across ? 'Wind across the line' : 'Wind along the line'}
          type="range"
          className="min-h-10 w-56 accent-[var(--water)]"
          min={winds[0]}
          max={winds.at(-1)}
          step={2}
          value={wind}
          aria-valuetext={words}
          onChange={(e) => setWind(Number(e.target.value))}
        />
        <strong className="figure">{words}</strong>
      </div>
      <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_auto]">
        <Strip
          height={300}
          fade={outcome.fadeSide ?? 'up'}
          names={rows.map((r) => name(r.disc))}
          reach={{
            down: 1.03 * Math.max(...all.map((p) => p.x)),
            left: Math.max(6, high) + 2,
            right: Math.max(6, -low) + 2,
          }}
          label={`Flights in ${words}, seen from above; the table says the same in figures`}
        >
          {rows.map((r) => (
            <Flight
              key={r.disc}
              hue={hueOf(look(r.disc))}
              dashes={dashesOf(look(r.disc))}
              path={at(r).path.map((p) => ({ down: p.x, left: up * p.y }))}
            />
          ))}
          <EndLabels
            ends={rows.map((r) => {
              const end = at(r).path.at(-1)!
              return { at: { down: end.x, left: up * end.y }, hue: hueOf(look(r.disc)), words: name(r.disc) }
            })}
          />
        </Strip>
        <FinishByWind rows={rows} along={along} look={look} />
      </div>
      <table className="mt-3 w-full text-left">
        <thead className="text-note text-quiet">
          <tr>
            <th className="font-normal">Disc</th>
            <th className="text-right font-normal">finish moved by {speed.show(HEADWIND, 0)} of headwind</th>
            <th className="text-right font-normal max-md:hidden">across, {speed.show(4, 0)}</th>
            <th className="text-right font-normal">holds best</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => {
            const across = r.points.filter((p) => Math.abs(p.toFadeMps) === 4)
            const moved = (across[1]!.finish.value - across[0]!.finish.value) / 2
            return (
              <tr key={r.disc} className="border-t border-rule">
                <DiscHead look={look(r.disc)}>{name(r.disc)}</DiscHead>
                <td className="figure text-right">
                  {figure(length.to(HEADWIND * Math.abs(r.turnPerMps.value)), 1)}{' '}
                  {r.turnPerMps.value > 0 ? 'turn' : 'fade'}
                  <span className="text-note text-quiet max-md:block">
                    ±{(length.to(HEADWIND * Z90) * r.turnPerMps.sd).toFixed(1)} {length.unit}
                  </span>
                </td>
                <td className="figure text-right max-md:hidden">{length.show(Math.abs(moved))}</td>
                <td className="figure text-right">{percent(r.pHoldsBest)}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </div>
  )
}

/** Finish against the wind along the line, a line a disc with its 90 % band. */
function FinishByWind({
  rows,
  along,
  look,
}: {
  rows: readonly WindRow[]
  along: (r: WindRow) => readonly WindPoint[]
  look: (code: string) => number
}) {
  const { length, speed } = useUnits()
  const points = rows.flatMap((r) => along(r))
  const x = scaleLinear(extent(points, (p) => p.alongMps) as [number, number], [PAD.left, WIDTH - PAD.right])
  const y = scaleLinear(
    extent(
      points.flatMap((p) => [p.finish.value - Z90 * p.finish.sd, p.finish.value + Z90 * p.finish.sd]),
    ) as [number, number],
    [HEIGHT - PAD.bottom, PAD.top],
  ).nice(4)
  const path = line<WindPoint>()
    .x((p) => x(p.alongMps))
    .y((p) => y(p.finish.value))
  const band = area<WindPoint>()
    .x((p) => x(p.alongMps))
    .y0((p) => y(p.finish.value - Z90 * p.finish.sd))
    .y1((p) => y(p.finish.value + Z90 * p.finish.sd))
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="max-w-full"
      role="img"
      aria-label="Finish by wind along the line"
    >
      {y.ticks(4).map((t) => (
        <g key={t}>
          <line x1={PAD.left} x2={WIDTH - PAD.right} y1={y(t)} y2={y(t)} style={{ stroke: 'var(--rule)' }} />
          <AxisText x={PAD.left - 6} y={y(t) + 5} anchor="end">
            {figure(length.to(t), 0)}
          </AxisText>
        </g>
      ))}
      <AxisText x={PAD.left} y={14} anchor="start" words>
        finish, {length.unit}; the fade side up
      </AxisText>
      {[-8, -4, 0, 4, 8].map((t) => (
        <AxisText key={t} x={x(t)} y={HEIGHT - 18}>
          {figure(speed.to(Math.abs(t)), 0)}
        </AxisText>
      ))}
      <AxisText x={x(-6)} y={HEIGHT - 2} words>
        head
      </AxisText>
      <AxisText x={x(0)} y={HEIGHT - 2} words>
        {speed.unit}
      </AxisText>
      <AxisText x={x(6)} y={HEIGHT - 2} words>
        tail
      </AxisText>
      {rows.map((r) => (
        <g key={r.disc}>
          <path
            d={band(along(r) as WindPoint[]) ?? ''}
            fillOpacity="0.14"
            style={{ fill: hueOf(look(r.disc)) }}
          />
          <path
            d={path(along(r) as WindPoint[]) ?? ''}
            fill="none"
            strokeWidth="2.5"
            style={{ stroke: hueOf(look(r.disc)) }}
          />
        </g>
      ))}
    </svg>
  )
}
