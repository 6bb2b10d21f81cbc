import { gramsOf } from '../../../../contract/sheet.ts'
import { lineage } from '../../../../contract/naming.ts'
import { numbersLine } from '../../../data/units.ts'
import { DiscHead } from '../../../parts/Disc.tsx'
import { Heads } from '../../../parts/Heads.tsx'
import type { Source } from '../sources.tsx'

/** The discs, where they come from and what is printed on them. */
export const DiscsBlock = ({ source: { view, name, look } }: { readonly source: Source }) => (
  <table className="w-full text-left">
    <Heads names={['Disc', 'what it is', 'state', 'weight', 'published']} />
    <tbody>
      {view.discs.map((d) => {
        const grams = gramsOf(d.disc)
        return (
          <tr key={d.disc.id} className="border-t border-rule">
            <DiscHead look={look(d.disc.code)}>{name(d.disc.code)}</DiscHead>
            <td className="px-2 text-right">{lineage(d)}</td>
            <td className="px-2 text-right">{d.disc.wear}</td>
            <td className="figure px-2 text-right whitespace-nowrap">
              {grams === null ? '–' : `${grams.toFixed(0)} g`}
            </td>
            <td className="figure px-2 text-right whitespace-nowrap">{numbersLine(d.inForce.numbers)}</td>
          </tr>
        )
      })}
    </tbody>
  </table>
)
