import { line, max, min, scaleLinear } from 'd3'
import type { ArmRow } from '../../core/judge/answers/picture.ts'
import type { PlanPoint } from '../../core/flight/path.ts'
import { Z90 } from '../../core/rating/normal.ts'
import { useUnits } from '../data/preferences.tsx'
import { capital } from '../../contract/words.ts'
import { besideLine, figure } from '../data/units.ts'
import { hueOf } from '../strip/hues.ts'
import type { Drawing } from './drawing.ts'

interface ArmsPictureProps extends Drawing {
  readonly disc: string
  readonly rows: readonly ArmRow[]
}

/** Room a strip of one arm has, px. */
const WIDE = 400
const LEAST = 30
const MOST = 110
const BAND_M = 10

/** A flight that goes no farther to the turn side does not turn, m. */
const NO_TURN_M = 0.05

/** A disc from the slowest arm to the fastest, a strip a row, all on one scale, with what it seems to be to each arm. */
export function ArmsPicture({ disc, rows, outcome, look }: ArmsPictureProps) {
  const units = useUnits()
  const { length, speed } = units
  const far = 1.03 * max(rows, (r) => max(r.path, (p) => p.x)!)!
  const hue = hueOf(look(disc))
  const up = outcome.fadeSide === 'right' ? -1 : 1
  const aside = (m: number) => besideLine(units, m, outcome.fadeSide)
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <thead className="text-note text-quiet max-md:sr-only">
          <tr>
            <th className="font-normal">Arm</th>
            <th className="font-normal">Flat, clean, in still air; bands of {length.show(BAND_M, 0)}</th>
            <th className="px-2 text-right font-normal">carry, {length.unit}</th>
            <th className="px-2 text-right font-normal max-md:hidden">widest turn</th>
            <th className="px-2 text-right font-normal">finish, {length.unit}</th>
            <th className="text-right font-normal">seems turn / fade</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr
              key={r.arm}
              className="border-t border-rule max-md:grid max-md:grid-cols-[1fr_auto_auto] max-md:items-baseline max-md:gap-x-3 max-md:pt-1"
            >
              <th scope="row" className="pr-3 font-medium whitespace-nowrap max-md:pr-0">
                {r.thrower ? capital(r.arm) : speed.show(r.armMps, 0)}
                {r.thrower && (
                  <span className="figure block text-note text-quiet max-md:ml-2 max-md:inline">
                    {speed.show(r.armMps)}
                  </span>
                )}
              </th>
              <td className="py-0.5 max-md:order-last max-md:col-span-full">
                <Lane path={r.path} far={far} up={up} hue={hue} />
              </td>
              <td className="figure px-2 text-right max-md:px-0">
                {figure(length.to(r.carry.value), 0)}
                <span className="md:hidden"> {length.unit}</span>
                <span className="block text-note text-quiet max-md:hidden">
                  ±{(length.to(Z90) * r.carry.sd).toFixed(0)}
                </span>
              </td>
              <td className="figure px-2 text-right whitespace-nowrap max-md:hidden">
                {Math.abs(r.turnedM) < NO_TURN_M ? 'none' : aside(r.turnedM)}
              </td>
              <td className="figure px-2 text-right whitespace-nowrap max-md:px-0">
                <span className="text-note text-quiet md:hidden">ends </span>
                {aside(r.finish.value)}
                <span className="block text-note text-quiet max-md:hidden">
                  ±{(length.to(Z90) * r.finish.sd).toFixed(1)}
                </span>
              </td>
              <td className="figure text-right whitespace-nowrap max-md:col-span-full max-md:text-left max-md:text-note">
                <span className="text-quiet md:hidden">seems turn / fade </span>
                {r.exact ? '' : 'about '}
                {figure(r.turn, 1)} / {figure(r.fade, 1)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** One flight on a narrow strip, as tall as it is wide of the line, both axes to one scale. */
function Lane({ path, far, up, hue }: { path: readonly PlanPoint[]; far: number; up: number; hue: string }) {
  const scale = WIDE / far
  const [low, high] = [
    Math.min(
      0,
      min(path, (p) => up * p.y)!,
    ),
    Math.max(
      0,
      max(path, (p) => up * p.y)!,
    ),
  ]
  const height = Math.min(MOST, Math.max(LEAST, (high - low) * scale + 16))
  const x = scaleLinear([0, far], [0, WIDE])
  const middle = (high + low) / 2
  const y = (m: number) => height / 2 - (m - middle) * scale
  const d = line<PlanPoint>()
    .x((p) => x(p.x))
    .y((p) => y(up * p.y))
  const end = path.at(-1)!
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${height}`}
      className="block w-full max-w-[40rem] min-w-56 rounded"
      aria-hidden
    >
      {Array.from({ length: Math.ceil(far / BAND_M) }, (_, i) => (
        <rect
          key={i}
          x={x(i * BAND_M)}
          width={x(BAND_M) + 0.5}
          height={height}
          style={{ fill: i % 2 ? 'var(--mown-2)' : 'var(--mown)' }}
        />
      ))}
      <line x1="0" x2={WIDE} y1={y(0)} y2={y(0)} strokeWidth="2.5" style={{ stroke: 'var(--chalk)' }} />
      <path d={d(path as PlanPoint[]) ?? ''} fill="none" strokeWidth="2.5" style={{ stroke: hue }} />
      <circle cx={x(end.x)} cy={y(up * end.y)} r="4.5" style={{ fill: hue }} />
    </svg>
  )
}
