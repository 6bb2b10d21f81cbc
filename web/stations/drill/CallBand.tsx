import { pointer, scaleLinear } from 'd3'
import type { ScaleLinear } from 'd3'
import { useRef } from 'react'
import type { KeyboardEvent, PointerEvent } from 'react'
import { useWidth } from '../../strip/useWidth.ts'

const HEIGHT = 92
const PAD = 22
/** The line the band lies on, and half as high the band is, px. */
const LINE = 40
const BAND = 15
/** A pointer this near an end of the band holds it, px; elsewhere the whole band is pulled. */
const NEAR_PX = 16

interface CallBandProps {
  readonly label: string
  readonly low: number
  readonly high: number
  readonly step: number
  /** The widest half of it there may be. */
  readonly widest: number
  /** Null: not said yet; keys then begin at the start. */
  readonly middle: number | null
  readonly start: number
  readonly half: number
  /** What was true, once it is told: nothing is pulled any more. */
  readonly truth?: number
  /** A figure as it is written. */
  readonly said: (v: number) => string
  /** What the ends of the scale are called. */
  readonly ends: readonly [string, string]
  readonly onPull: (part: { middle?: number; half?: number }) => void
}

/**
 * A range that is meant to hold what is true four times in five: the band is pulled to where it is, its ends to how wide it is; once
 * it is told, what was true stands on it.
 */
export function CallBand({
  label,
  low,
  high,
  step,
  widest,
  middle: called,
  start,
  half,
  truth,
  said,
  ends,
  onPull,
}: CallBandProps) {
  const { box, width } = useWidth()
  const held = useRef<'middle' | 'end'>('middle')
  const x = scaleLinear([low, high], [PAD, Math.max(PAD + 10, width - PAD)])
  const nearest = (v: number) => Number((Math.round(v / step) * step).toFixed(6))
  const within = (v: number, least: number, most: number) => Math.max(least, Math.min(most, nearest(v)))
  const toMiddle = (v: number) => onPull({ middle: within(v, low, high) })
  const toHalf = (v: number) => onPull({ half: within(v, step, widest) })
  const isOpen = truth === undefined
  const middle = called ?? start
  const pull = (e: PointerEvent<SVGSVGElement>) => {
    const [at] = pointer(e.nativeEvent, e.currentTarget)
    const away = Math.abs(at - x(middle))
    if (e.type === 'pointerdown')
      held.current =
        called !== null && Math.abs(away - (x(middle + half) - x(middle))) < NEAR_PX && away > NEAR_PX / 2
          ? 'end'
          : 'middle'
    if (held.current === 'end') toHalf(Math.abs(x.invert(at) - middle))
    else toMiddle(x.invert(at))
  }
  const keys = (to: (v: number) => void, v: number) => (e: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key]
    if (!by || !isOpen) return
    e.preventDefault()
    to(v + step * by)
  }
  const [from, to] = [x(Math.max(low, middle - half)), x(Math.min(high, middle + half))]
  const grip = (name: string, now: number, words: string, range: readonly [number, number]) =>
    ({
      role: 'slider',
      tabIndex: isOpen ? 0 : -1,
      'aria-label': name,
      'aria-valuemin': range[0],
      'aria-valuemax': range[1],
      'aria-valuenow': now,
      'aria-valuetext': words,
      'aria-disabled': !isOpen,
      className: 'outline-none focus-visible:outline-3 focus-visible:outline-water',
    }) as const
  return (
    <div ref={box} className="select-none" style={{ height: HEIGHT }}>
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          className={isOpen ? 'cursor-grab touch-none' : ''}
          {...(isOpen && {
            onPointerDown: (e) => {
              e.currentTarget.setPointerCapture(e.pointerId)
              pull(e)
            },
            onPointerMove: (e) => e.currentTarget.hasPointerCapture(e.pointerId) && pull(e),
          })}
        >
          <rect width={width} height={HEIGHT} fillOpacity="0" />
          <Ruler x={x} width={width} said={said} ends={ends} />
          {called !== null && (
            <rect
              x={from}
              width={Math.max(4, to - from)}
              y={LINE - BAND}
              height={2 * BAND}
              rx="6"
              fillOpacity="0.22"
              strokeWidth="2"
              style={{ fill: 'var(--water)', stroke: 'var(--water)' }}
            />
          )}
          {called !== null && (
            <g
              {...grip('Four times in five within', half, `± ${said(half)}`, [step, widest])}
              onKeyDown={keys(toHalf, half)}
            >
              {[from, to].map((at, i) => (
                <rect
                  key={i}
                  x={at - 4}
                  width="8"
                  y={LINE - BAND + 4}
                  height={2 * BAND - 8}
                  rx="4"
                  strokeWidth="2"
                  style={{ fill: 'var(--card)', stroke: 'var(--water)' }}
                />
              ))}
            </g>
          )}
          <g
            {...grip(label, middle, called === null ? 'not said yet' : said(called), [low, high])}
            onKeyDown={keys(toMiddle, middle)}
          >
            {called === null ? (
              <rect
                x={PAD}
                width={Math.max(0, width - 2 * PAD)}
                y={LINE - BAND}
                height={2 * BAND}
                fillOpacity="0"
              />
            ) : (
              <circle
                cx={x(called)}
                cy={LINE}
                r="10"
                strokeWidth="3"
                style={{ fill: 'var(--card)', stroke: 'var(--water)' }}
              />
            )}
          </g>
          {truth !== undefined && <Truth at={x(truth)} words={`it was ${said(truth)}`} width={width} />}
        </svg>
      )}
    </div>
  )
}

interface RulerProps extends Pick<CallBandProps, 'said' | 'ends'> {
  readonly x: ScaleLinear<number, number>
  readonly width: number
}

/** The line the band lies on, with its figures and what its ends are called. */
const Ruler = ({ x, width, said, ends }: RulerProps) => (
  <>
    <line x1={PAD} x2={width - PAD} y1={LINE} y2={LINE} strokeWidth="2" style={{ stroke: 'var(--edge)' }} />
    {x.ticks(Math.max(3, Math.floor(width / 90))).map((t) => (
      <g key={t}>
        <line x1={x(t)} x2={x(t)} y1={LINE - 5} y2={LINE + 5} style={{ stroke: 'var(--edge)' }} />
        <text
          x={x(t)}
          y={LINE + 32}
          fontSize="13"
          textAnchor="middle"
          className="figure"
          style={{ fill: 'var(--quiet)' }}
        >
          {said(t)}
        </text>
      </g>
    ))}
    <g fontSize="13" style={{ fill: 'var(--quiet)' }}>
      <text x={PAD} y={HEIGHT - 4}>
        {ends[0]}
      </text>
      <text x={width - PAD} y={HEIGHT - 4} textAnchor="end">
        {ends[1]}
      </text>
    </g>
  </>
)

/** What was true, where it lies. */
const Truth = ({ at, words, width }: { at: number; words: string; width: number }) => (
  <g>
    <line
      x1={at}
      x2={at}
      y1={LINE - BAND - 6}
      y2={LINE + BAND + 4}
      strokeWidth="4"
      strokeLinecap="round"
      style={{ stroke: 'var(--accent)' }}
    />
    <text
      x={at}
      y={13}
      fontSize="14"
      fontWeight="650"
      textAnchor={at > width - 60 ? 'end' : at < 60 ? 'start' : 'middle'}
      style={{ fill: 'var(--accent)' }}
    >
      {words}
    </text>
  </g>
)
