import type { DiscOutcome } from '../../core/rating/outcome.ts'
import { figure } from '../data/units.ts'
import { hueOf } from '../strip/hues.ts'
import { Z90 } from '../../core/rating/normal.ts'
import { IntervalRows } from './IntervalRows.tsx'

interface LadderProps {
  readonly discs: readonly DiscOutcome[]
  readonly name: (code: string) => string
  readonly place: (code: string) => number
}

/** Discs from most to least stable on turn + fade, each with its 90 % bar; 0 is straight. */
export function Ladder({ discs, name, place }: LadderProps) {
  const rows = [...discs].sort((a, b) => b.stability.value - a.stability.value)
  return (
    <IntervalRows
      rows={rows.map(({ disc, stability: { value, sd } }) => ({
        id: disc,
        name: name(disc),
        hue: hueOf(place(disc)),
        value,
        low: value - Z90 * sd,
        high: value + Z90 * sd,
        words: figure(value, 1),
      }))}
      axis="turn + fade"
      mark={(m) => figure(m, 0)}
      ends={['understable', 'overstable']}
    />
  )
}
