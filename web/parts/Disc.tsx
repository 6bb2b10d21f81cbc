import { DEGREE } from '../../core/flight/units.ts'
import type { PointerEvent, ReactNode } from 'react'
import { hueOf, patternOf } from '../strip/hues.ts'
import type { Look } from '../strip/hues.ts'

/** A disc from above, in its hue, with the last figures of its code. */
export function DiscDot({ look, size = 18, code }: { look: Look; size?: number; code?: string }) {
  const figures = code?.match(/(\d{1,3})\D*$/)?.[1]?.replace(/^0+(?=\d)/, '')
  const pattern = patternOf(look)
  return (
    <svg width={size} height={size} viewBox="0 0 40 40" aria-hidden className="shrink-0">
      <circle cx="20" cy="20" r="19.5" style={{ fill: hueOf(look) }} />
      {size >= 30 && (
        <circle cx="20" cy="20" r="15.5" fill="none" style={{ stroke: 'var(--card)' }} strokeOpacity="0.55" />
      )}
      {pattern > 0 && <PatternMark pattern={pattern} isLarge={size >= 30} />}
      {size >= 30 && figures && (
        <text
          x="20"
          y="25"
          textAnchor="middle"
          fontSize="13"
          fontWeight="700"
          style={{ fill: 'var(--card)' }}
        >
          {figures}
        </text>
      )}
    </svg>
  )
}

/** What tells a disc from one of its hue: a ring, then a ring within it. */
const PatternMark = ({ pattern, isLarge }: { pattern: number; isLarge: boolean }) =>
  Array.from({ length: Math.min(2, pattern) }, (_, i) => (
    <circle
      key={i}
      cx="20"
      cy="20"
      r={(isLarge ? 17.5 : 12) - i * (isLarge ? 4 : 7)}
      fill="none"
      strokeWidth={isLarge ? 3 : 5}
      strokeDasharray={isLarge ? '5 3' : undefined}
      style={{ stroke: 'var(--card)' }}
    />
  ))

interface OnEdgeProps {
  /** Degrees; hyzer tilts toward the fade side. */
  readonly hyzerDeg: number
  /** The fade side is drawn on this side. */
  readonly fadeSide: 'left' | 'right'
  readonly look?: Look
  readonly width?: number
}

interface OnEdgeDialProps extends OnEdgeProps {
  readonly label: string
  /** The angle in words. */
  readonly words: string
  /** How far it may be turned, and by how much at a time, degrees. */
  readonly range?: readonly [number, number]
  readonly step?: number
  readonly onTurn: (hyzerDeg: number) => void
}

/** Steepest angles that are called. */
const STEEPEST = [-45, 45] as const

/** The disc on edge as a dial: drag its rim, or turn it with the arrow keys. */
export function OnEdgeDial({ label, words, range = STEEPEST, step = 1, onTurn, ...edge }: OnEdgeDialProps) {
  const clamp = (deg: number) => Math.max(range[0], Math.min(range[1], step * Math.round(deg / step)))
  const point = (e: PointerEvent<HTMLElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const [right, down] = [e.clientX - box.left - box.width / 2, e.clientY - box.top - box.height / 2]
    // either end of the rim may be held
    const tilt = Math.atan2(down * Math.sign(right || 1), Math.abs(right)) / DEGREE
    onTurn(clamp((edge.fadeSide === 'left' ? -1 : 1) * tilt))
  }
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={range[0]}
      aria-valuemax={range[1]}
      aria-valuenow={edge.hyzerDeg}
      aria-valuetext={words}
      className="cursor-grab touch-none rounded-lg outline-none phone:py-1.5 focus-visible:outline-3 focus-visible:outline-water"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        point(e)
      }}
      onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && point(e)}
      // a dial that was turned by hand lets the keys of the screen go on
      onPointerUp={(e) => e.currentTarget.blur()}
      onKeyDown={(e) => {
        const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key]
        if (by === undefined) return
        e.preventDefault()
        onTurn(clamp(edge.hyzerDeg + step * by))
      }}
    >
      <DiscOnEdge {...edge} />
    </div>
  )
}

/** The disc on edge, as the thrower sees it leave: tilted by its release angle against a level line. */
export function DiscOnEdge({ hyzerDeg, fadeSide, look, width = 150 }: OnEdgeProps) {
  // seen from behind, hyzer lowers the rim on the fade side
  const turn = (fadeSide === 'left' ? -1 : 1) * hyzerDeg
  return (
    <svg width={width} height={width * 0.46} viewBox="-60 -28 120 55" aria-hidden className="max-w-full">
      <line x1="-58" x2="58" y1="4" y2="4" style={{ stroke: 'var(--edge)' }} strokeDasharray="2 4" />
      <g transform={`rotate(${turn})`}>
        <path
          d="M-42 6 C-42 -2 -34 -4 -26 -6 C-12 -9 12 -9 26 -6 C34 -4 42 -2 42 6 C42 10 36 11 33 7 C31 3 26 2 20 1.5 C8 0.5 -8 0.5 -20 1.5 C-26 2 -31 3 -33 7 C-36 11 -42 10 -42 6 Z"
          style={{ fill: look === undefined ? 'var(--ink)' : hueOf(look) }}
        />
      </g>
    </svg>
  )
}

/** A disc as the head of a row of figures. */
export const DiscHead = ({ look, children }: { look: Look; children: ReactNode }) => (
  <th scope="row" className="py-1.5 pr-2 font-medium">
    <span className="flex items-center gap-2">
      <DiscDot look={look} /> <span>{children}</span>
    </span>
  </th>
)
