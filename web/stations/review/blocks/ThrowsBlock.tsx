import { useUnits } from '../../../data/preferences.tsx'
import { angleWords, aside, windWords } from '../../../data/units.ts'
import { DiscHead } from '../../../parts/Disc.tsx'
import { Heads } from '../../../parts/Heads.tsx'
import { isSimulated } from '../../../../core/throw/simulated.ts'
import type { Source } from '../sources.tsx'

/** Every throw that counted, or every one that did not and why. */
export function ThrowsBlock({ source, counted }: { readonly source: Source; readonly counted: boolean }) {
  const units = useUnits()
  const { view, name, look } = source
  const rows = view.throws.flatMap((t, i) => (t.counts === counted ? [{ t, number: i + 1 }] : []))
  if (rows.length === 0)
    return (
      <p className="text-note text-quiet">{counted ? 'No throw counts yet.' : 'No throw was left out.'}</p>
    )
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <Heads names={['Disc', 'throw', 'angle', 'wind', 'landed', ...(counted ? [] : ['why left out'])]} />
        <tbody>
          {rows.map(({ t, number }) => {
            const code = view.discs.find((d) => d.disc.id === t.discId)?.disc.code ?? '?'
            return (
              <tr key={t.id} className="border-t border-rule">
                <DiscHead look={look(code)}>{name(code)}</DiscHead>
                <td className="figure px-2 text-right">
                  {number}
                  {isSimulated(t) && <span className="font-sans text-note text-quiet"> simulated</span>}
                </td>
                <td className="px-2 text-right">{angleWords(t.hyzerDeg)}</td>
                <td className="figure px-2 text-right">
                  {t.windAlongMps === null ? '–' : windWords(t.windAlongMps, units.speed.to)}
                </td>
                <td className="figure px-2 text-right whitespace-nowrap">
                  {units.length.show(t.carryM)}, {aside(units, t.rightM)}
                </td>
                {!counted && <td className="px-2 text-right">{t.whyNot ?? 'no reason noted'}</td>}
              </tr>
            )
          })}
        </tbody>
      </table>
    </div>
  )
}
