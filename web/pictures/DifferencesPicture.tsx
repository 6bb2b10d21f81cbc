import type { DifferenceRow } from '../../core/judge/answers/picture.ts'
import { Z90 } from '../../core/rating/normal.ts'
import { PER_M } from '../../core/flight/side.ts'
import { IntervalRows } from '../charts/IntervalRows.tsx'
import { useUnits } from '../data/preferences.tsx'
import { figure, percent } from '../data/units.ts'
import { hueOf } from '../strip/hues.ts'
import type { Drawing } from './drawing.ts'

interface DifferencesProps extends Drawing {
  readonly base: string
  readonly rows: readonly DifferenceRow[]
  readonly alikeM: number
}

/** Groups of discs against the one named first, their single discs as ticks, and how far each flies. */
export function DifferencesPicture({ base, rows, alikeM, look }: DifferencesProps) {
  const { length } = useUnits()
  const sorted = [...rows].sort((a, b) => b.side.value - a.side.value)
  return (
    <div>
      <IntervalRows
        rows={sorted.map(({ name, discs, side: { value, sd }, ticks }) => ({
          id: name,
          name,
          hue: hueOf(look(discs[0]!)),
          value,
          low: value - Z90 * sd,
          high: value + Z90 * sd,
          words: name === base ? 'base' : figure(length.to(value), 1),
          ticks: ticks.length > 1 ? ticks.map((t) => t.value) : [],
        }))}
        alike={alikeM}
        axis={`${length.unit} to the fade side of ${base}`}
        mark={(m) => figure(length.to(m), 0)}
        ends={['less stable', 'more stable']}
      />
      <table className="mt-3 w-full text-left">
        <thead className="text-note text-quiet">
          <tr>
            <th className="font-normal">Against {base}</th>
            <th className="text-right font-normal">more stable</th>
            <th className="text-right font-normal">
              finish, {length.unit} in {length.show(PER_M, 0)}
            </th>
            <th className="text-right font-normal">carry, {length.unit}</th>
          </tr>
        </thead>
        <tbody className="figure">
          {sorted
            .filter((r) => r.name !== base)
            .map((r) => (
              <tr key={r.name} className="border-t border-rule">
                <th scope="row" className="py-1 font-sans font-medium">
                  {r.name}
                </th>
                <td className="text-right">{percent(r.pMoreStable)}</td>
                <td className="text-right">
                  {figure(length.to(r.finish.value), 1)}
                  <Half of={length.to(Z90) * r.finish.sd} />
                </td>
                <td className="text-right">
                  {figure(length.to(r.carry.value), 1)}
                  <Half of={length.to(Z90) * r.carry.sd} />
                </td>
              </tr>
            ))}
        </tbody>
      </table>
      <p className="mt-2 text-note text-quiet">
        Averaged over hyzer, flat and anhyzer in a flight of {length.show(PER_M, 0)}; the pale window is half
        a number. ± holds it nine times in ten.
      </p>
    </div>
  )
}

/** Half of a 90 % interval: beside the figure, below it on a phone. */
const Half = ({ of }: { of: number }) => (
  <span className="text-quiet max-md:block max-md:text-note"> ± {of.toFixed(1)}</span>
)
