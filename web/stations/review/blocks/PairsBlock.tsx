import { pairOf } from '../../../../core/rating/outcome.ts'
import { percent } from '../../../data/units.ts'
import { DiscDot } from '../../../parts/Disc.tsx'
import type { Source } from '../sources.tsx'

/** How sure it is that the disc of a row is more stable than that of a column. */
export function PairsBlock({ source: { reading, name, place } }: { readonly source: Source }) {
  const { outcome } = reading
  const ladder = [...outcome.discs].sort((a, b) => b.side.value - a.side.value).map((d) => d.disc)
  return (
    <div className="overflow-x-auto">
      <table className="border-separate border-spacing-1">
        <thead>
          <tr>
            <td />
            {ladder.slice(1).map((d) => (
              <th key={d} scope="col" className="px-1 text-note font-semibold">
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
                  <DiscDot place={place(row)} /> {name(row)}
                </span>
              </th>
              {ladder.slice(1).map((column, j) => {
                if (j < i) return <td key={column} />
                const pair = pairOf(outcome, row, column)
                const p = pair.a === row ? pair.pAMoreStable : 1 - pair.pAMoreStable
                return (
                  <td
                    key={column}
                    className="figure h-10 min-w-16 rounded-md text-center font-semibold"
                    style={{
                      background: `color-mix(in oklab, var(--water) ${Math.round(6 + 40 * Math.max(0, 2 * p - 1.2))}%, var(--card))`,
                    }}
                  >
                    {percent(p)}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
