import { LABEL_FIGURES } from '../../core/plan/aims.ts'
import type { ClaimRow } from '../../core/judge/answers/picture.ts'
import { ClaimEvidence } from '../charts/ClaimEvidence.tsx'
import { figure, percent } from '../data/units.ts'
import { DiscHead } from '../parts/Disc.tsx'
import { hueOf } from '../strip/hues.ts'
import type { Drawing } from './drawing.ts'

const BIG = 208

/** Of a disc that is not in the state its label describes: in which it is read. */
const AsItWouldBe = ({ row: { readAs } }: { row: ClaimRow }) =>
  readAs && <span className="block text-note text-quiet">as it would be {readAs}</span>

/** Claims and evidence with the half-number window: how likely each figure lies in it, below it, above it. */
export function ClaimsPicture({ rows, name, look }: { rows: readonly ClaimRow[] } & Drawing) {
  const discs = [...new Set(rows.map((r) => r.disc))]
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <thead className="text-note text-quiet">
          <tr>
            <th className="font-normal">Disc</th>
            {LABEL_FIGURES.map((f) => (
              <th key={f} className="px-2 font-normal">
                {f === 'stability' ? 'turn + fade, as it flies' : f}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {discs.map((disc) => (
            <tr key={disc} className="border-t border-rule">
              <DiscHead look={look(disc)}>
                {name(disc)}
                <AsItWouldBe row={rows.find((r) => r.disc === disc)!} />
              </DiscHead>
              {LABEL_FIGURES.map((f) => {
                const row = rows.find((r) => r.disc === disc && r.figure === f)!
                return (
                  <td key={f} className="px-2 py-2">
                    <ClaimEvidence
                      what={`${name(disc)}, ${f}`}
                      published={row.published}
                      observed={row.seen.value}
                      sd={row.seen.sd}
                      hue={hueOf(look(disc))}
                      width={BIG}
                      window
                    />
                    <span className="figure block text-note text-quiet">
                      {figure(row.seen.value, 1)} for {figure(row.published, 1)}
                    </span>
                    <span className="block text-note">
                      below {percent(row.below)} · <strong>within {percent(row.within)}</strong> · above{' '}
                      {percent(row.above)}
                    </span>
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 border-t border-rule pt-2 text-note text-quiet">
        The flag is the label, the pale window half a number to either side of it, the dot what the throws say
        with its 90 % interval.
      </p>
    </div>
  )
}
