import { useRef } from 'react'
import type { JobRow } from '../../../contract/rotation.ts'
import { Flight } from '../../strip/layers.tsx'
import { Strip, useScale } from '../../strip/Strip.tsx'
import type { Scale, Spot } from '../../strip/Strip.tsx'

interface WantedStripProps {
  readonly wanted: JobRow['wanted']
  readonly within: JobRow['within']
  readonly fade: 'left' | 'right'
  readonly onDraw: (wanted: JobRow['wanted']) => void
}

const LATE = 0.6
/** A pointer this near, px, holds a place. */
const NEAR_PX = 60

/** The wanted flight on the field: where it is at 60 % and where it finishes are dragged there. */
export function WantedStrip({ wanted, within, fade, onDraw }: WantedStripProps) {
  const held = useRef<'late' | 'end'>(undefined)
  const sign = fade === 'left' ? 1 : -1
  const spot = (down: number, toFade: number): Spot => ({ down, left: sign * toFade })
  const late = spot(LATE * wanted.carryM, wanted.at60M)
  const end = spot(wanted.carryM, wanted.finishM)
  const sides = Math.max(
    15,
    Math.abs(wanted.at60M) + within.at60M + 3,
    Math.abs(wanted.finishM) + within.finishM + 3,
  )
  const point = (at: Spot, phase: 'down' | 'move' | 'up', scale: Scale) => {
    const away = (s: Spot) =>
      Math.hypot(scale.x(s.down) - scale.x(at.down), scale.y(s.left) - scale.y(at.left))
    if (phase === 'down') {
      const nearest = away(late) < away(end) ? 'late' : 'end'
      held.current = away(nearest === 'late' ? late : end) < NEAR_PX ? nearest : undefined
    }
    if (held.current === 'late') onDraw({ ...wanted, at60M: sign * at.left })
    if (held.current === 'end')
      onDraw({ ...wanted, finishM: sign * at.left, carryM: Math.max(5, Math.min(200, at.down)) })
    if (phase === 'up') held.current = undefined
  }
  return (
    <div className="my-3">
      <Strip
        reach={{ down: 1.12 * wanted.carryM + 5, left: sides, right: sides }}
        fade={fade}
        height={230}
        label="The wanted flight. Drag where it is at 60 % of its carry, and where it finishes; the fields below do the same."
        onPoint={point}
      >
        <Gate at={late} half={within.at60M} />
        <Gate at={end} half={within.finishM} long={within.carryM} />
        <Flight
          path={[spot(0, 0), spot(0.3 * wanted.carryM, 0.4 * wanted.at60M), late, end]}
          hue="var(--ink)"
        />
        <Handle at={late} />
        <Handle at={end} />
      </Strip>
    </div>
  )
}

/** How far from a place is near enough. */
function Gate({ at, half, long = null }: { at: Spot; half: number; long?: number | null }) {
  const scale = useScale()
  const [top, bottom] = [scale.y(at.left + half), scale.y(at.left - half)]
  const [from, to] = [scale.x(at.down - (long ?? 2)), scale.x(at.down + (long ?? 2))]
  return (
    <rect
      x={from}
      width={to - from}
      y={Math.min(top, bottom)}
      height={Math.abs(bottom - top)}
      rx="6"
      fillOpacity="0.16"
      style={{ fill: 'var(--water)', stroke: 'var(--water)' }}
    />
  )
}

function Handle({ at }: { at: Spot }) {
  const scale = useScale()
  return (
    <circle
      cx={scale.x(at.down)}
      cy={scale.y(at.left)}
      r="8"
      strokeWidth="3"
      style={{ fill: 'var(--card)', stroke: 'var(--ink)' }}
    />
  )
}
