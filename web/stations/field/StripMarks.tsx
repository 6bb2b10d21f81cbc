import clsx from 'clsx'
import type { ReactNode } from 'react'
import { Key } from '../../parts/Button.tsx'
import { Flight, LandingDot } from '../../strip/layers.tsx'
import { useScale } from '../../strip/Strip.tsx'
import type { Spot } from '../../strip/Strip.tsx'

/** What is drawn on the field for the throw being logged, and the two ways to look at it. */

/** A way to look at the field, on or off; on a phone its icon alone. */
export function LookSwitch({
  on,
  onClick,
  keyHint,
  label,
  children,
}: {
  on: boolean
  onClick: () => void
  keyHint: string
  label: string
  children: ReactNode
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={label}
      onClick={onClick}
      className={clsx(
        'flex min-h-8 items-center justify-center gap-1.5 rounded-lg border border-edge px-2 text-note phone:size-11',
        on ? 'bg-pick font-medium text-on-pick' : 'bg-card/90',
      )}
    >
      {children} <span className="phone:hidden">{label}</span> <Key onDark={on}>{keyHint}</Key>
    </button>
  )
}

export function ExpectedMark({
  at,
  path,
  hue,
  reach,
}: {
  at: Spot
  path: readonly Spot[]
  hue: string
  reach: number
}) {
  const scale = useScale()
  return (
    <>
      <Flight path={path} hue={hue} dashed width={2} />
      <text
        x={scale.x(at.down)}
        y={scale.y(at.left + reach) - 6}
        textAnchor="middle"
        fontSize="13"
        fontWeight="600"
        paintOrder="stroke"
        strokeWidth="4"
        style={{ fill: 'var(--ink)', stroke: 'var(--mown)' }}
      >
        2 in 3 land here
      </text>
    </>
  )
}

export function Bend({ at, set, hue }: { at: Spot; set: boolean; hue: string }) {
  const scale = useScale()
  return (
    <g className="cursor-grab">
      <circle
        cx={scale.x(at.down)}
        cy={scale.y(at.left)}
        r="8"
        strokeWidth="2.5"
        style={{ fill: set ? hue : 'var(--card)', stroke: set ? 'var(--card)' : hue }}
      />
      {!set && (
        <text
          x={scale.x(at.down)}
          y={scale.y(at.left) + 24}
          textAnchor="middle"
          fontSize="13"
          paintOrder="stroke"
          strokeWidth="4"
          style={{ fill: 'var(--ink)', stroke: 'var(--mown)' }}
        >
          drag the bend
        </text>
      )}
    </g>
  )
}

/** The landing being logged, with its figures on a slip that stays on the field. */
export function Landed({
  at,
  hue,
  words,
  leftOut,
}: {
  at: Spot
  hue: string
  words: readonly [string, string]
  leftOut: boolean
}) {
  const scale = useScale()
  const [x, y] = [scale.x(at.down), scale.y(at.left)]
  const width = 9 * Math.max(...words.map((w) => w.length)) + 20
  // the slip goes to the side of the dot with room for it
  const beside = x + 16 + width < scale.edge ? 16 : -16 - width
  const top = Math.max(14, y - 22)
  return (
    <>
      <LandingDot at={at} hue={hue} radius={9} leftOut={leftOut} />
      <g className="phone:hidden" transform={`translate(${x + beside}, ${top})`}>
        <rect width={width} height="44" rx="6" style={{ fill: 'var(--pick)' }} />
        <text className="figure" fontSize="14" style={{ fill: 'var(--on-pick)' }}>
          <tspan x="10" y="18">
            {words[0]}
          </tspan>
          <tspan x="10" y="36">
            {words[1]}
          </tspan>
        </text>
      </g>
    </>
  )
}
