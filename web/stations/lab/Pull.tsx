import { pointer } from 'd3'
import type { KeyboardEvent, PointerEvent, ReactNode } from 'react'

/** A place in a picture, in its own units: right of its middle, and above it. */
export interface Pulled {
  readonly right: number
  readonly up: number
}

/** What the arrow keys ask for: so many steps to the right and up. */
const STEPS: Record<string, Pulled> = {
  ArrowRight: { right: 1, up: 0 },
  ArrowLeft: { right: -1, up: 0 },
  ArrowUp: { right: 0, up: 1 },
  ArrowDown: { right: 0, up: -1 },
}

interface PullProps {
  /** What is pulled, and how the keys do it. */
  readonly label: string
  /** Where one figure alone is pulled: its least, its most, what it is, and that in words. */
  readonly slider?: {
    readonly least: number
    readonly most: number
    readonly now: number
    readonly words: string
  }
  /** Half as wide and as high as the picture, in its own units. */
  readonly half: { readonly right: number; readonly up: number }
  readonly onPull: (at: Pulled, begins: boolean) => void
  readonly onStep: (by: Pulled) => void
  /** Keys besides the arrows. */
  readonly onKey?: (key: string) => void
  readonly children: ReactNode
}

/** A small picture that is pulled by mouse, by finger and by the arrow keys. */
export function Pull({ label, slider, half, onPull, onStep, onKey, children }: PullProps) {
  const pull = (e: PointerEvent<HTMLElement>) => {
    const { clientWidth, clientHeight } = e.currentTarget
    const [x, y] = pointer(e.nativeEvent, e.currentTarget)
    const begins = e.type === 'pointerdown'
    onPull(
      { right: half.right * ((2 * x) / clientWidth - 1), up: half.up * (1 - (2 * y) / clientHeight) },
      begins,
    )
  }
  const keys = (e: KeyboardEvent) => {
    const by = STEPS[e.key]
    if (by) onStep(by)
    else if (onKey && OTHER_KEYS.includes(e.key)) onKey(e.key)
    else return
    e.preventDefault()
  }
  return (
    <div
      role={slider ? 'slider' : 'application'}
      tabIndex={0}
      aria-label={label}
      {...(slider && {
        'aria-valuemin': slider.least,
        'aria-valuemax': slider.most,
        'aria-valuenow': slider.now,
        'aria-valuetext': slider.words,
      })}
      className="w-full max-w-28 cursor-grab touch-none rounded-lg outline-none focus-visible:outline-3 focus-visible:outline-water"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        pull(e)
      }}
      onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && pull(e)}
      // what was pulled by hand lets the keys of the screen go on
      onPointerUp={(e) => e.currentTarget.blur()}
      onKeyDown={keys}
    >
      <svg
        viewBox={`${-half.right} ${-half.up} ${2 * half.right} ${2 * half.up}`}
        aria-hidden
        className="block w-full"
      >
        {children}
      </svg>
    </div>
  )
}
const OTHER_KEYS = ['PageUp', 'PageDown']

/** What is held of a picture. */
export const Grip = ({ x, y, r = 6 }: { x: number; y: number; r?: number }) => (
  <circle cx={x} cy={y} r={r} strokeWidth="2.5" style={{ fill: 'var(--card)', stroke: 'var(--water)' }} />
)
