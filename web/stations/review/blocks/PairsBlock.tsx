import { groundOf, PairTable } from '../../../charts/PairTable.tsx'
import { percent } from '../../../data/units.ts'
import type { Source } from '../sources.tsx'

/** How sure it is that the disc of a row is more stable than that of a column. */
export const PairsBlock = ({ source: { reading, name, look } }: { readonly source: Source }) => (
  <div className="overflow-x-auto">
    <PairTable
      outcome={reading.outcome}
      {...{ name, look }}
      cell={(_row, _column, p) => (
        <span
          className="figure block min-w-16 rounded-md py-2 text-center font-semibold"
          style={{ background: groundOf(p) }}
        >
          {percent(p)}
        </span>
      )}
    />
  </div>
)
