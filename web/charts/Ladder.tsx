import type { DiscOutcome } from '../../core/rating/outcome.ts'
import { useUnits } from '../data/preferences.tsx'
import { figure } from '../data/units.ts'
import { hueOf } from '../strip/hues.ts'
import { Z90 } from '../../core/rating/normal.ts'
import { IntervalRows } from './IntervalRows.tsx'

interface LadderProps {
  readonly discs: readonly DiscOutcome[]
  readonly name: (code: string) => string
  readonly look: (code: string) => number
}

/** Discs from most to least stable by where they fly, each with its 90 % bar; 0 flies along the aim line on average. */
export function Ladder({ discs, name, look }: LadderProps) {
  const { length } = useUnits()
  const rows = [...discs].sort((a, b) => b.side.value - a.side.value)
  return (
    <IntervalRows
      rows={rows.map(({ disc, side: { value, sd } }) => ({
        id: disc,
        name: name(disc),
        hue: hueOf(look(disc)),
        value,
        low: value - Z90 * sd,
        high: value + Z90 * sd,
        words: figure(length.to(value), 1),
      }))}
      axis={`${length.unit} to the fade side`}
      mark={(m) => figure(length.to(m), 0)}
      ends={['understable', 'overstable']}
    />
  )
}
