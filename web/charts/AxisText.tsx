import type { ReactNode } from 'react'

interface AxisTextProps {
  readonly x: number | undefined
  readonly y: number
  readonly children: ReactNode
  readonly anchor?: 'start' | 'middle' | 'end'
  /** Words, not figures. */
  readonly words?: boolean
}

/** What stands at an axis of a chart. */
export const AxisText = ({ x, y, children, anchor = 'middle', words = false }: AxisTextProps) => (
  <text
    x={x}
    y={y}
    textAnchor={anchor}
    fontSize={words ? 13 : 14}
    className={words ? undefined : 'figure'}
    style={{ fill: 'var(--quiet)' }}
  >
    {children}
  </text>
)
