import { DEGREE } from '../../../core/flight/units.ts'
import { arc, contours, geoPath, range, scaleLinear } from 'd3'
import { useRef } from 'react'
import { airDensity } from '../../../core/flight/air.ts'
import type { LeftOrRight } from '../../../core/flight/hand.ts'
import { LAB_RANGE } from '../../../contract/lab.ts'
import type { Weather } from '../../../contract/lab.ts'
import { Grip, Pull } from './Pull.tsx'

type Range = readonly [number, number]
export const clamp = (v: number, [low, high]: Range) => Math.max(low, Math.min(high, v))
/** To the nearest of so many to one. */
const toNearest = (v: number, perOne: number) => Math.round(v * perOne) / perOne

/** Half as wide and as high as a picture is drawn. */
const HALF = { right: 54, up: 42 }

/** The vane’s rim is so much wind, m/s. */
const RIM_MPS = 10
const RIM = 38
const WIND_STEP_MPS = 0.5

interface VaneProps {
  readonly alongMps: number
  readonly toRightMps: number
  readonly onPull: (alongMps: number, toRightMps: number) => void
}

/** The wind over the ground, seen from above with the aim line upward: pulled by its tip. */
export function Vane({ alongMps, toRightMps, onPull }: VaneProps) {
  const to = (v: number) => clamp(v, LAB_RANGE.windAlongMps)
  const [x, y] = [(RIM * toRightMps) / RIM_MPS, (-RIM * alongMps) / RIM_MPS]
  return (
    <Pull
      label="Wind over the ground, the aim line upward; arrow keys pull it"
      half={HALF}
      onPull={({ right, up }) =>
        onPull(to(toNearest((up * RIM_MPS) / RIM, 2)), to(toNearest((right * RIM_MPS) / RIM, 2)))
      }
      onStep={({ right, up }) =>
        onPull(to(alongMps + WIND_STEP_MPS * up), to(toRightMps + WIND_STEP_MPS * right))
      }
    >
      <circle r={RIM} style={{ fill: 'var(--mown)', stroke: 'var(--edge)' }} />
      <circle r={RIM / 2} fill="none" strokeDasharray="2 4" style={{ stroke: 'var(--edge)' }} />
      <line y1={RIM} y2={-RIM} strokeWidth="3" style={{ stroke: 'var(--chalk)' }} />
      <line x2={x} y2={y} strokeWidth="5" strokeLinecap="round" style={{ stroke: 'var(--water)' }} />
      <Grip x={x} y={y} />
    </Pull>
  )
}

/** Where the tee stands in the picture of the arm, and so much of it is a metre a second. */
const TEE = 38
const PER_MPS = 1.75
/** The arm is held beside where anybody aims, degrees to the right. */
const ARM_GRIP_DEG = 56
const POWER_STEP = 0.01
const AIM_STEP_DEG = 0.5
const ARM_STEP_MPS = 0.2

interface ArmProps {
  readonly armMps: number
  readonly power: number
  readonly aimDeg: number
  readonly fade: LeftOrRight
  readonly words: string
  readonly onPull: (part: { armMps?: number; power?: number; aimDeg?: number }) => void
}

/** The throw from above: the arrow is pulled for power and aim, the end of the arc for the arm. */
export function ArmDial({ armMps, power, aimDeg, fade, words, onPull }: ArmProps) {
  const sign = fade === 'right' ? 1 : -1
  const held = useRef<'arm' | 'arrow'>('arrow')
  const full = PER_MPS * armMps
  const at = (far: number, rightDeg: number) => ({
    x: far * Math.sin(rightDeg * DEGREE),
    y: TEE - far * Math.cos(rightDeg * DEGREE),
  })
  const tip = at(full * power, sign * aimDeg)
  const grip = at(full, ARM_GRIP_DEG)
  return (
    <Pull
      label={`Power and aim: ${words}; arrow keys pull them, page up and page down the arm`}
      half={HALF}
      onPull={({ right, up }, begins) => {
        const [x, y] = [right, -up]
        const to = (p: { x: number; y: number }) => Math.hypot(x - p.x, y - p.y)
        if (begins) held.current = to(grip) < Math.min(to(tip), 22) ? 'arm' : 'arrow'
        const far = Math.hypot(x, TEE - y)
        if (held.current === 'arm') onPull({ armMps: clamp(toNearest(far / PER_MPS, 5), LAB_RANGE.armMps) })
        else
          onPull({
            power: clamp(toNearest(far / full, 100), LAB_RANGE.power),
            aimDeg: clamp(toNearest((sign * Math.atan2(x, TEE - y)) / DEGREE, 2), LAB_RANGE.aimDeg),
          })
      }}
      onStep={({ right, up }) =>
        onPull({
          power: clamp(toNearest(power + POWER_STEP * up, 100), LAB_RANGE.power),
          aimDeg: clamp(aimDeg + sign * AIM_STEP_DEG * right, LAB_RANGE.aimDeg),
        })
      }
      onKey={(key) =>
        onPull({ armMps: clamp(armMps + ARM_STEP_MPS * (key === 'PageUp' ? 1 : -1), LAB_RANGE.armMps) })
      }
    >
      <g transform={`translate(0 ${TEE})`}>
        <path
          d={arc()({
            innerRadius: 0,
            outerRadius: full,
            startAngle: -ARM_GRIP_DEG * DEGREE,
            endAngle: ARM_GRIP_DEG * DEGREE,
          })!}
          style={{ fill: 'var(--mown)', stroke: 'var(--edge)' }}
        />
        <line y2={-full} strokeWidth="3" style={{ stroke: 'var(--chalk)' }} />
      </g>
      <line
        x1="0"
        y1={TEE}
        x2={tip.x}
        y2={tip.y}
        strokeWidth="5"
        strokeLinecap="round"
        style={{ stroke: 'var(--ink)' }}
      />
      <Grip x={grip.x} y={grip.y} r={5} />
      <circle
        cx={tip.x}
        cy={tip.y}
        r="6"
        strokeWidth="2.5"
        style={{ fill: 'var(--card)', stroke: 'var(--ink)' }}
      />
    </Pull>
  )
}

/** Half a turn of the arrow is the spin that goes with the speed. */
const HALF_TURN = Math.PI
const DISC = 32
const SPIN_STEP = 0.01

interface SpinProps {
  readonly spin: number
  readonly fade: LeftOrRight
  readonly words: string
  readonly onPull: (spin: number) => void
}

/** The disc from above, turning toward where it will fade: the arrow is pulled around it. */
export function SpinDial({ spin, fade, words, onPull }: SpinProps) {
  // seen from above a disc that fades left turns with the clock
  const sign = fade === 'left' ? 1 : -1
  const turned = (of: number) => sign * of * HALF_TURN
  const on = (of: number, r: number) => ({ x: r * Math.sin(turned(of)), y: -r * Math.cos(turned(of)) })
  const around = arc()({
    innerRadius: DISC + 2,
    outerRadius: DISC + 6,
    startAngle: Math.min(0, turned(spin)),
    endAngle: Math.max(0, turned(spin)),
  })!
  const tip = on(spin, DISC + 4)
  return (
    <Pull
      label="Spin"
      slider={{
        least: 100 * LAB_RANGE.spin[0],
        most: 100 * LAB_RANGE.spin[1],
        now: Math.round(100 * spin),
        words,
      }}
      half={HALF}
      onPull={({ right, up }) => {
        const angle = sign * Math.atan2(right, up)
        // past the most, short of a whole turn, is the most
        const share = (angle < 0 ? angle + 2 * Math.PI : angle) / HALF_TURN
        onPull(share > 1.75 ? LAB_RANGE.spin[0] : clamp(toNearest(share, 100), LAB_RANGE.spin))
      }}
      onStep={({ right, up }) =>
        onPull(clamp(toNearest(spin + SPIN_STEP * (right + up), 100), LAB_RANGE.spin))
      }
    >
      <circle r={DISC} style={{ fill: 'var(--ink)' }} />
      <circle r={DISC - 6} fill="none" strokeOpacity="0.4" style={{ stroke: 'var(--card)' }} />
      {[LAB_RANGE.spin[0], 1, LAB_RANGE.spin[1]].map((of) => {
        const [from, to] = [on(of, DISC), on(of, DISC + (of === 1 ? 9 : 6))]
        return (
          <line
            key={of}
            {...{ x1: from.x, y1: from.y, x2: to.x, y2: to.y }}
            strokeWidth="2"
            style={{ stroke: 'var(--edge)' }}
          />
        )
      })}
      <path d={around} style={{ fill: 'var(--water)' }} />
      <Grip x={tip.x} y={tip.y} />
    </Pull>
  )
}

/** The air that is drawn: warmth to the right, height above the sea upward. */
const WARMTH_C: Range = [-10, 40]
const HEIGHT_M: Range = [0, 3000]
const warmth = scaleLinear(WARMTH_C, [-46, 46])
const height = scaleLinear(HEIGHT_M, [34, -34])
/** Each shade is so much thinner. */
const SHADE_KG_M3 = 0.08
const GRID = { across: 24, down: 18 }
const shades = (() => {
  const density = range(GRID.across * GRID.down).map((i) =>
    airDensity(
      warmth.invert(-46 + (92 * ((i % GRID.across) + 0.5)) / GRID.across),
      height.invert(-34 + (68 * (Math.floor(i / GRID.across) + 0.5)) / GRID.down),
    ),
  )
  const thin = Math.min(...density)
  const steps = range(thin, Math.max(...density), SHADE_KG_M3)
  return contours()
    .size([GRID.across, GRID.down])
    .thresholds(steps)(density)
    .map((shape) => geoPath()(shape) ?? '')
})()
const TEMPERATURE_STEP_C = 1
const ALTITUDE_STEP_M = 50

interface AirProps {
  readonly weather: Pick<Weather, 'temperatureC' | 'altitudeM'>
  readonly words: string
  readonly onPull: (part: { temperatureC: number; altitudeM: number }) => void
}

/** The air: pulled to the right it is warmer, upward it is higher above the sea; the paler, the thinner. */
export function AirDial({ weather: { temperatureC, altitudeM }, words, onPull }: AirProps) {
  const put = (c: number, m: number) =>
    onPull({
      temperatureC: clamp(Math.round(c), LAB_RANGE.temperatureC),
      altitudeM: clamp(Math.round(m), LAB_RANGE.altitudeM),
    })
  const [x, y] = [warmth(clamp(temperatureC, WARMTH_C)), height(clamp(altitudeM, HEIGHT_M))]
  return (
    <Pull
      label={`Air: ${words}; arrow keys to the right warm it, upward lift it above the sea`}
      half={HALF}
      onPull={({ right, up }) =>
        put(
          clamp(warmth.invert(right), WARMTH_C),
          ALTITUDE_STEP_M * Math.round(clamp(height.invert(-up), HEIGHT_M) / ALTITUDE_STEP_M),
        )
      }
      onStep={({ right, up }) =>
        put(temperatureC + TEMPERATURE_STEP_C * right, altitudeM + ALTITUDE_STEP_M * up)
      }
    >
      <rect
        x="-46"
        y="-34"
        width="92"
        height="68"
        rx="6"
        style={{ fill: 'var(--card)', stroke: 'var(--edge)' }}
      />
      <g transform={`translate(-46 -34) scale(${92 / GRID.across} ${68 / GRID.down})`}>
        {shades.map((d, i) => (
          <path key={i} d={d} fillOpacity="0.13" style={{ fill: 'var(--water)' }} />
        ))}
      </g>
      <g fontSize="12" style={{ fill: 'var(--ink)' }}>
        <text x="-42" y="-22">
          high
        </text>
        <text x="42" y="29" textAnchor="end">
          warm
        </text>
      </g>
      <Grip x={x} y={y} />
    </Pull>
  )
}
