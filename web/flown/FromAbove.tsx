import { useRef } from 'react'
import type { KeyboardEvent } from 'react'
import type { FieldPlace } from '../../core/lab/field.ts'
import { FATES } from '../../core/lab/field.ts'
import { instantOf } from '../../core/lab/flight.ts'
import type { LabFlight } from '../../core/lab/flight.ts'
import type { LabObstacle } from '../../contract/lab.ts'
import { dashesOf, hueOf } from '../strip/hues.ts'
import { EndLabels, Flight } from '../strip/layers.tsx'
import { Strip, useScale } from '../strip/Strip.tsx'
import type { Scale, Spot } from '../strip/Strip.tsx'
import type { ShownFlight } from './Views.tsx'
import { TARGET_M } from './words.ts'
import type { FlownCloud } from '../workers/lab.ts'

interface FromAboveProps {
  readonly flights: readonly ShownFlight[]
  /** What the first is compared with. */
  readonly before: ShownFlight | undefined
  /** Where throws scatter: of each flight, and of what the first is compared with. */
  readonly clouds: {
    readonly of: readonly (FlownCloud | undefined)[]
    readonly before: FlownCloud | undefined
  }
  readonly obstacles: readonly LabObstacle[]
  readonly fade: 'left' | 'right'
  readonly atS: number | undefined
  readonly reach: { readonly down: number; readonly left: number; readonly right: number }
  /** The landing and what stands there are dragged; without them it is a picture. */
  readonly onLand?: (at: FieldPlace) => void
  readonly onMove?: (place: number, obstacle: LabObstacle) => void
}

/** A pointer this near, px, holds something. */
const NEAR_PX = 34
const STEP_M = 1

/** An obstacle whose centre, or whose nearer end, is at another place. */
function movedTo(o: LabObstacle, at: FieldPlace, by: FieldPlace): LabObstacle {
  const add = (p: FieldPlace): FieldPlace => ({ downM: p.downM + by.downM, sideM: p.sideM + by.sideM })
  if (o.kind === 'ceiling') return { ...o, fromM: o.fromM + by.downM, toM: o.toM + by.downM }
  if (o.kind === 'line') return { ...o, from: add(o.from), to: add(o.to) }
  return { ...o, at }
}
const middleOf = (o: LabObstacle): FieldPlace => {
  if (o.kind === 'ceiling') return { downM: (o.fromM + o.toM) / 2, sideM: 0 }
  if (o.kind === 'line')
    return { downM: (o.from.downM + o.to.downM) / 2, sideM: (o.from.sideM + o.to.sideM) / 2 }
  return o.at
}

/** The field from above: flights, where throws scatter, and what stands there; the landing and obstacles are dragged. */
export function FromAbove({
  flights,
  before,
  clouds,
  obstacles,
  fade,
  atS,
  reach,
  onLand,
  onMove,
}: FromAboveProps) {
  const sign = fade === 'left' ? 1 : -1
  const spot = ({ downM, sideM }: FieldPlace): Spot => ({ down: downM, left: sign * sideM })
  const place = ({ down, left }: Spot): FieldPlace => ({ downM: down, sideM: sign * left })
  const held = useRef<{ obstacle: number; from: FieldPlace; was: LabObstacle } | 'landing'>(undefined)
  const landed = flights[0]?.flight.landed
  /** What lies at a spot: how far away the landing is, px, and the obstacle that is nearest. */
  const lying = (at: Spot, scale: Scale) => {
    const away = (p: FieldPlace) =>
      Math.hypot(scale.x(p.downM) - scale.x(at.down), scale.y(sign * p.sideM) - scale.y(at.left))
    const nearest = obstacles
      .map((was, obstacle) => ({ was, obstacle, away: away(middleOf(was)) }))
      .sort((a, b) => a.away - b.away)[0]
    return { nearest, landing: landed ? away(landed) : Infinity }
  }
  const holds = (at: Spot, scale: Scale) => {
    const { nearest, landing } = lying(at, scale)
    return Math.min(landing, nearest?.away ?? Infinity) < NEAR_PX
  }
  const point = (at: Spot, phase: 'down' | 'move' | 'up', scale: Scale) => {
    const here = place(at)
    if (phase === 'down') {
      const { nearest, landing } = lying(at, scale)
      if (nearest && nearest.away < Math.min(NEAR_PX, landing))
        held.current = { obstacle: nearest.obstacle, from: here, was: nearest.was }
      else held.current = 'landing'
    }
    if (held.current === 'landing') onLand?.(here)
    else if (held.current) {
      const { obstacle, from, was } = held.current
      onMove?.(
        obstacle,
        movedTo(was, here, { downM: here.downM - from.downM, sideM: here.sideM - from.sideM }),
      )
    }
    if (phase === 'up') held.current = undefined
  }
  const key = (e: KeyboardEvent) => {
    const by = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key]
    if (!by || !landed || !onLand) return
    e.preventDefault()
    onLand({ downM: landed.downM + STEP_M * by[0]!, sideM: landed.sideM + sign * STEP_M * by[1]! })
  }
  // beside others it has its own hue; alone it is told what becomes of it
  const firstLooks =
    flights.length > 1 || clouds.before
      ? {
          ...FATE_LOOK,
          in: { hue: hueOf(flights[0]?.look ?? 0), opacity: 0.4 },
          'off the zone': { hue: hueOf(flights[0]?.look ?? 0), opacity: 0.2 },
        }
      : FATE_LOOK
  const pathOf = ({ downM, sideM }: LabFlight): Spot[] =>
    downM.map((d, i) => spot({ downM: d, sideM: sideM[i]! }))
  return (
    <Strip
      reach={reach}
      fade={fade}
      names={flights.map((f) => f.brief ?? f.name)}
      height={320}
      label={
        onLand
          ? 'The field from above. Drag the landing to find the power and aim that bring it there; drag what stands on the field.'
          : 'The field from above: flights, where throws scatter, and what stands there'
      }
      {...(onLand && { onPoint: point, holds, onKeyDown: key })}
    >
      {obstacles.map((o, i) => (
        <OnField key={i} o={o} sign={sign} />
      ))}
      {clouds.before && (
        <CloudDots cloud={clouds.before} sign={sign} looks={cloudLooks('var(--quiet)', 0.18)} />
      )}
      {clouds.of.map(
        (cloud, i) =>
          i > 0 &&
          cloud && (
            <CloudDots key={i} cloud={cloud} sign={sign} looks={cloudLooks(hueOf(flights[i]!.look), 0.3)} />
          ),
      )}
      <g data-testid="cloud">
        {clouds.of[0] && <CloudDots cloud={clouds.of[0]} sign={sign} looks={firstLooks} />}
      </g>
      {before && <Flight path={pathOf(before.flight)} hue="var(--quiet)" dashed width={2.5} />}
      {flights.map(({ name, look, flight }, i) => (
        <Flight
          key={name}
          path={pathOf(flight)}
          hue={hueOf(look)}
          dashes={dashesOf(look)}
          width={i === 0 ? 3.5 : 2.5}
        />
      ))}
      <EndLabels
        ends={flights.map(({ name, brief, look, flight }) => ({
          at: spot(flight.landed),
          hue: hueOf(look),
          words: brief ?? name,
        }))}
      />
      {atS !== undefined &&
        flights.map(({ name, look, flight }) => (
          <At key={name} at={spot(instantOf(flight, atS))} hue={hueOf(look)} />
        ))}
    </Strip>
  )
}

function At({ at, hue }: { at: Spot; hue: string }) {
  const scale = useScale()
  return (
    <circle
      cx={scale.x(at.down)}
      cy={scale.y(at.left)}
      r="8"
      strokeWidth="3"
      style={{ fill: hue, stroke: 'var(--card)' }}
    />
  )
}

type Looks = Record<(typeof FATES)[number], { readonly hue: string; readonly opacity: number }>
/** How what becomes of throws is drawn; what stays in is quiet. */
const FATE_LOOK: Looks = {
  in: { hue: 'var(--ink)', opacity: 0.28 },
  stopped: { hue: 'var(--accent)', opacity: 0.5 },
  out: { hue: 'var(--water)', opacity: 0.5 },
  'off the zone': { hue: 'var(--ink)', opacity: 0.12 },
}
/** The same in the hue of a disc beside others: what does not do it is paler. */
const cloudLooks = (hue: string, opacity: number): Looks => ({
  in: { hue, opacity },
  stopped: { hue, opacity: opacity / 2 },
  out: { hue, opacity: opacity / 2 },
  'off the zone': { hue, opacity: opacity / 2 },
})

/** Wide and high; without round ends thousands of them are drawn at once. */
const DOT_PX = 2.4
/** Where throws come down or are stopped, a dot each; one path by fate, so that thousands follow the hand. */
function CloudDots({
  cloud: { down, side, fate },
  sign,
  looks,
}: {
  cloud: FlownCloud
  sign: 1 | -1
  looks: Looks
}) {
  const scale = useScale()
  return FATES.map((name, f) => {
    let d = ''
    for (let i = 0; i < down.length; i++)
      if (fate[i] === f)
        d += `M${(scale.x(down[i]!) - DOT_PX / 2).toFixed(1)} ${scale.y(sign * side[i]!).toFixed(1)}h${DOT_PX}`
    const { hue, opacity } = looks[name]
    return (
      d !== '' && (
        <path key={name} d={d} strokeWidth={DOT_PX} strokeOpacity={opacity} style={{ stroke: hue }} />
      )
    )
  })
}

/** Something on the field. */
function OnField({ o, sign }: { o: LabObstacle; sign: 1 | -1 }) {
  const scale = useScale()
  const [x, y] = [(p: FieldPlace) => scale.x(p.downM), (p: FieldPlace) => scale.y(sign * p.sideM)]
  switch (o.kind) {
    case 'tree':
      return (
        <g>
          <circle
            cx={x(o.at)}
            cy={y(o.at)}
            r={Math.max(5, o.radiusM * scale.along)}
            fillOpacity="0.75"
            strokeWidth="1.5"
            style={{ fill: 'var(--hue-2)', stroke: 'var(--card)' }}
          />
          <circle cx={x(o.at)} cy={y(o.at)} r="2" style={{ fill: 'var(--card)' }} />
        </g>
      )
    case 'ceiling':
      return (
        <rect
          x={scale.x(Math.min(o.fromM, o.toM))}
          width={Math.abs(scale.x(o.toM) - scale.x(o.fromM))}
          y="0"
          height={scale.foot}
          fillOpacity="0.22"
          strokeDasharray="5 4"
          style={{ fill: 'var(--hue-2)', stroke: 'var(--hue-2)' }}
        />
      )
    case 'line': {
      // on to the edges of the field
      const [dx, dy] = [x(o.to) - x(o.from), y(o.to) - y(o.from)]
      const far = 3000 / (Math.hypot(dx, dy) || 1)
      // beyond it, seen from the tee, is what is out
      const beyond = (scale.x(0) - x(o.from)) * -dy + (scale.y(0) - y(o.from)) * dx > 0 ? -far : far
      const corners = [
        [-far, 0],
        [far, 0],
        [far, beyond],
        [-far, beyond],
      ].map(([along, out]) => [x(o.from) + along! * dx - out! * dy, y(o.from) + along! * dy + out! * dx])
      return (
        <g style={{ stroke: o.water ? 'var(--water)' : 'var(--accent)' }}>
          <polygon
            points={corners.map((c) => c.join()).join(' ')}
            stroke="none"
            fillOpacity={o.water ? 0.2 : 0.12}
            style={{ fill: o.water ? 'var(--water)' : 'var(--accent)' }}
          />
          <line
            x1={x(o.from) - far * dx}
            y1={y(o.from) - far * dy}
            x2={x(o.to) + far * dx}
            y2={y(o.to) + far * dy}
            strokeWidth="3"
            strokeDasharray={o.water ? undefined : '9 5'}
          />
          {[o.from, o.to].map((p, i) => (
            <circle key={i} cx={x(p)} cy={y(p)} r="4" strokeWidth="2" style={{ fill: 'var(--card)' }} />
          ))}
        </g>
      )
    }
    case 'pond':
    case 'zone':
      return (
        <g>
          <circle
            cx={x(o.at)}
            cy={y(o.at)}
            r={o.radiusM * scale.along}
            strokeWidth="2"
            {...(o.kind === 'pond'
              ? { fillOpacity: 0.3, style: { fill: 'var(--water)', stroke: 'var(--water)' } }
              : { fillOpacity: 0.4, style: { fill: 'var(--chalk)', stroke: 'var(--ink)' } })}
          />
          {o.kind === 'zone' && o.radiusM <= TARGET_M && (
            <circle cx={x(o.at)} cy={y(o.at)} r="4" style={{ fill: 'var(--ink)' }} />
          )}
        </g>
      )
  }
}
