import type { ReactNode } from 'react'
import { pairOf } from '../../core/rating/outcome.ts'
import type { Outcome } from '../../core/rating/outcome.ts'
import { DiscDot } from '../parts/Disc.tsx'

interface PairTableProps {
  readonly outcome: Outcome
  readonly name: (code: string) => string
  readonly look: (code: string) => number
  /** What stands in a cell: the disc of the row is the more stable one with this probability. */
  readonly cell: (row: string, column: string, p: number) => ReactNode
}

/** Discs from the most to the least stable. */
export const ladderIn = ({ discs }: Outcome): string[] =>
  [...discs].sort((a, b) => b.side.value - a.side.value).map((d) => d.disc)

/** How dark the ground of a cell is: the surer the darker. */
export const groundOf = (p: number): string =>
  `color-mix(in oklab, var(--water) ${Math.round(6 + 40 * Math.max(0, 2 * p - 1.2))}%, var(--card))`

/** Every pair of discs once, the more stable in the row. */
export function PairTable({ outcome, name, look, cell }: PairTableProps) {
  const ladder = ladderIn(outcome)
  return (
    <table className="border-separate border-spacing-1">
      <thead>
        <tr>
          <td />
          {ladder.slice(1).map((d) => (
            <th
              key={d}
              scope="col"
              className="max-w-24 truncate px-1 text-note font-semibold"
              title={name(d)}
            >
              {name(d)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ladder.slice(0, -1).map((row, i) => (
          <tr key={row}>
            <th scope="row" className="pr-2 text-left font-semibold whitespace-nowrap">
              <span className="flex items-center gap-2">
                <DiscDot look={look(row)} /> {name(row)}
              </span>
            </th>
            {ladder.slice(1).map((column, j) => {
              // the half below says the same the other way round
              if (j < i) return <td key={column} />
              const pair = pairOf(outcome, row, column)
              const p = pair.a === row ? pair.pAMoreStable : 1 - pair.pAMoreStable
              return (
                <td key={column} className="p-0">
                  {cell(row, column, p)}
                </td>
              )
            })}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
