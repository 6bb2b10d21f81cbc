import { ticks } from 'd3'
import { createContext, useContext, useEffect, useId, useMemo, useState } from 'react'
import type { KeyboardEvent, PointerEvent, ReactNode } from 'react'
import { useUnits } from '../data/preferences.tsx'
import { useWidth } from './useWidth.ts'

/** A place on the field, m: downrange along the aim line, and to the thrower's left of it (up on the strip). */
export interface Spot {
  readonly down: number
  readonly left: number
}

/** Metres to pixels of the strip a layer is drawn on. */
export interface Scale {
  readonly x: (down: number) => number
  readonly y: (left: number) => number
  readonly spot: (px: number, py: number) => Spot
  /** Right edge of the field, px. */
  readonly edge: number
  /** Lower edge of the field, px. */
  readonly foot: number
  /** Pixels a metre, along and across. */
  readonly along: number
  readonly across: number
}
const ScaleContext = createContext<Scale | undefined>(undefined)
export function useScale(): Scale {
  const scale = useContext(ScaleContext)
  if (!scale) throw new Error('a strip layer outside a strip')
  return scale
}

export interface StripProps {
  /**
   * What there is to see, m: how far downrange, and to either side of the aim line. A strip that looks closer starts
   * further downrange than the tee, and may leave out the line.
   */
  readonly reach: {
    readonly from?: number
    readonly down: number
    readonly left: number
    readonly right: number
  }
  /** Which side is named the fade side; mixed hands leave it to fade and turn alone. */
  readonly fade: 'left' | 'right' | 'up'
  readonly stretch?: number
  /** Names that must find room right of where flights end. */
  readonly names?: readonly string[]
  /** Height in px at most; a strip that is only looked at is no taller than what there is to see. */
  readonly height: number
  readonly label: string
  readonly children: ReactNode
  /** Pointer down or dragging over the field; a finger that only swipes over it scrolls the page and is not told. */
  readonly onPoint?: (spot: Spot, phase: 'down' | 'move' | 'up', scale: Scale, by: 'finger' | 'mouse') => void
  /** Only the ground and its figures: neither side is named, nothing is stretched. */
  readonly bare?: boolean
  /** Whether a finger put down there takes hold of something, and drags it instead of scrolling. */
  readonly holds?: (spot: Spot, scale: Scale) => boolean
  readonly onKeyDown?: (e: KeyboardEvent) => void
}

const PAD = { left: 14, right: 14, top: 8, bottom: 30 }
/** A mown band is so deep, in the unit of whoever reads, as the axis counts them. */
const BAND = { metric: 10, imperial: 50 } as const
/** No closer than this, m downrange and across. */
const CLOSEST = { down: 20, sides: 8 }
/** On a screen narrower than this, px, what is only looked at has its side drawn larger to be at least so tall, within reason. */
const NARROW_PX = 480
const TALL_PX = 240
const MOST_STRETCHED = 3
/** A letter of a name is about this wide. */
const LETTER_PX = 7.6

interface FieldScale extends Scale {
  /** Where the field begins and how much of it there is, m. */
  readonly start: number
  readonly fieldDown: number
}

interface FieldBox {
  /** px of the field, without its margins; of the whole drawing; kept free at the right for names. */
  readonly wide: number
  readonly height: number
  readonly room: number
  /** m that must fit downrange, from where they begin, and across, of them so many to the left. */
  readonly long: number
  readonly start: number
  readonly sides: number
  readonly high: number
  readonly stretch: number
}

/** The scale at which a field fits both ways; what is left over shows more field. */
function useFieldScale({ wide, height, room, long, start, high, sides, stretch }: FieldBox) {
  return useMemo<FieldScale>(() => {
    const h = Math.max(50, height - PAD.top - PAD.bottom)
    const along = Math.min((wide - room) / long, h / (sides * stretch))
    const across = along * stretch
    const fieldDown = wide / along
    const from = start > 0 ? Math.max(0, start - (fieldDown - long) / 2) : 0
    const top = high + (h / across - sides) / 2
    return {
      along,
      across,
      edge: PAD.left + wide,
      foot: PAD.top + h,
      start: from,
      fieldDown,
      x: (down) => PAD.left + (down - from) * along,
      y: (left) => PAD.top + (top - left) * across,
      spot: (px, py) => ({ down: from + (px - PAD.left) / along, left: top - (py - PAD.top) / across }),
    }
  }, [wide, height, room, long, start, high, sides, stretch])
}

/** A finger that moved farther than this did not tap, px. */
const TAP_PX = 10

/** Pointers over a strip: a mouse points and drags at once; a finger taps, drags what it takes hold of, and scrolls otherwise. */
function usePointing(scale: FieldScale, onPoint: StripProps['onPoint'], holds: StripProps['holds']) {
  const [touched, setTouched] = useState<{ readonly x: number; readonly y: number; readonly held: boolean }>()
  const [field, setField] = useState<SVGSVGElement | null>(null)
  const spotAt = (at: { readonly clientX: number; readonly clientY: number }, on: Element): Spot => {
    const r = on.getBoundingClientRect()
    return scale.spot(at.clientX - r.left, at.clientY - r.top)
  }
  useEffect(() => {
    if (!field || !holds) return
    // what is taken hold of must not scroll the page; React's own listeners cannot say so
    const hold = (e: TouchEvent) => {
      const [finger] = e.touches
      if (finger && e.touches.length === 1 && holds(spotAt(finger, field), scale)) e.preventDefault()
    }
    field.addEventListener('touchstart', hold, { passive: false })
    return () => field.removeEventListener('touchstart', hold)
  })
  if (!onPoint) return { setField, handlers: {} }
  const tell = (e: PointerEvent<SVGSVGElement>, phase: 'down' | 'move' | 'up') =>
    onPoint(spotAt(e, e.currentTarget), phase, scale, e.pointerType === 'touch' ? 'finger' : 'mouse')
  return {
    setField,
    handlers: {
      onPointerDown(e: PointerEvent<SVGSVGElement>) {
        const held = e.pointerType !== 'touch' || holds?.(spotAt(e, e.currentTarget), scale) === true
        setTouched({ x: e.clientX, y: e.clientY, held })
        if (!held) return
        e.currentTarget.setPointerCapture(e.pointerId)
        tell(e, 'down')
      },
      onPointerMove(e: PointerEvent<SVGSVGElement>) {
        if (touched?.held && e.currentTarget.hasPointerCapture(e.pointerId)) tell(e, 'move')
      },
      onPointerUp(e: PointerEvent<SVGSVGElement>) {
        if (!touched) return
        setTouched(undefined)
        const isTap = Math.hypot(e.clientX - touched.x, e.clientY - touched.y) < TAP_PX
        if (!touched.held && !isTap) return
        if (!touched.held) tell(e, 'down')
        tell(e, 'up')
      },
      // the page scrolls
      onPointerCancel() {
        setTouched(undefined)
      },
    },
  }
}

/** What either side of the aim line is called. */
function SideNames({ fade, height }: Pick<StripProps, 'fade'> & { readonly height: number }) {
  const [upper, lower] = fade === 'right' ? ['turn', 'fade'] : ['fade', 'turn']
  return (
    <g fontSize="13" fontWeight="600">
      <text
        x={PAD.left + 10}
        y={PAD.top + 19}
        style={{ fill: upper === 'fade' ? 'var(--water)' : 'var(--accent)' }}
      >
        {fade === 'up' ? 'fade side' : `left · ${upper} side`}
      </text>
      <text
        x={PAD.left + 10}
        y={height - PAD.bottom - 9}
        style={{ fill: lower === 'fade' ? 'var(--water)' : 'var(--accent)' }}
      >
        {fade === 'up' ? 'turn side' : `right · ${lower} side`}
      </text>
    </g>
  )
}

/** The field as it is mown. */
function Bands({ scale, height }: { readonly scale: FieldScale; readonly height: number }) {
  const units = useUnits()
  const end = scale.start + scale.fieldDown
  const bandM = units.length.from(BAND[units.kind])
  const firstBand = Math.floor(scale.start / bandM)
  const bands = Array.from({ length: Math.ceil(end / bandM) - firstBand }, (_, i) => firstBand + i)
  return bands.map((b) => (
    <rect
      key={b}
      x={scale.x(b * bandM)}
      width={bandM * scale.along + 0.5}
      y={PAD.top}
      height={height - PAD.top - PAD.bottom}
      style={{ fill: b % 2 ? 'var(--mown-2)' : 'var(--mown)' }}
    />
  ))
}

/**
 * The strip: a mown field from above, thrower at the left, the aim line in chalk, bands of ten metres or fifty feet, both axes
 * to the same scale unless the side is stretched. Layers are its children.
 */
export function Strip({
  reach,
  fade,
  stretch: asked = 1,
  names = [],
  height: most,
  label,
  children,
  onPoint,
  holds,
  bare = false,
  onKeyDown,
}: StripProps) {
  const room = Math.max(0, ...names.map((n) => n.length * LETTER_PX + 16))
  const units = useUnits()
  const { box, width } = useWidth()
  const clip = useId()

  const wide = Math.max(50, width - PAD.left - PAD.right)
  const { from: start = 0, left: high, right: low } = reach
  const sides = Math.max(CLOSEST.sides, high + low)
  const long = Math.max(CLOSEST.down, reach.down - start)
  const drawn = (1.15 * sides * (wide - room)) / long
  const stretch =
    width >= NARROW_PX || onPoint || bare
      ? asked
      : Math.max(asked, Math.min(MOST_STRETCHED, (TALL_PX - PAD.top - PAD.bottom) / drawn))
  const needed = PAD.top + PAD.bottom + stretch * drawn
  const height = onPoint ? most : Math.min(most, Math.max(118, Math.ceil(needed)))

  const scale = useFieldScale({ wide, height, room, long, start, high, sides, stretch })

  const { setField, handlers } = usePointing(scale, onPoint, holds)
  const end = scale.start + scale.fieldDown
  const marks = ticks(
    units.length.to(scale.start),
    units.length.to(end),
    Math.max(2, Math.floor(width / 110)),
  ).filter((t) => t >= 0)
  const right = scale.x(end)

  return (
    <div ref={box} className="relative w-full select-none" style={{ height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role={onPoint ? 'application' : 'img'}
          aria-label={label}
          aria-roledescription={onPoint ? 'field; arrow keys move the landing' : undefined}
          tabIndex={onPoint ? 0 : undefined}
          ref={setField}
          className={
            onPoint
              ? 'cursor-crosshair touch-pan-y rounded-lg outline-none focus-visible:outline-3 focus-visible:outline-water'
              : ''
          }
          onKeyDown={onKeyDown}
          {...handlers}
        >
          <clipPath id={clip}>
            <rect x={PAD.left} y={PAD.top} width={right - PAD.left} height={height - PAD.top - PAD.bottom} />
          </clipPath>
          <g clipPath={`url(#${clip})`}>
            <Bands scale={scale} height={height} />
            <line
              x1={PAD.left}
              x2={right}
              y1={scale.y(0)}
              y2={scale.y(0)}
              strokeWidth="3.5"
              style={{ stroke: 'var(--chalk)' }}
            />
            <ScaleContext value={scale}>{children}</ScaleContext>
          </g>
          {!bare && <SideNames fade={fade} height={height} />}
          {stretch > asked && (
            <text
              x={right - 8}
              y={PAD.top + 17}
              textAnchor="end"
              fontSize="13"
              style={{ fill: 'var(--ink)' }}
            >
              side × {stretch.toFixed(1)}
            </text>
          )}
          <g className="figure" fontSize="14" style={{ fill: 'var(--quiet)' }}>
            {marks.map((t, i) => (
              <text
                key={t}
                x={scale.x(units.length.from(t))}
                y={height - 10}
                textAnchor={i === 0 ? 'start' : scale.x(units.length.from(t)) > right - 20 ? 'end' : 'middle'}
              >
                {t}
                {i === marks.length - 1 ? ` ${units.length.unit}` : ''}
              </text>
            ))}
          </g>
        </svg>
      )}
    </div>
  )
}
