import clsx from 'clsx'
import type { TellingPlan } from '../../../core/plan/telling.ts'
import { percent } from '../../data/units.ts'
import { DiscDot } from '../../parts/Disc.tsx'

interface SettlesProps {
  /** Codes of the discs asked about, in the order they are expected. */
  readonly codes: readonly string[]
  readonly nameOf: (code: string) => string
  readonly placeOf: (code: string) => number
  readonly worth: TellingPlan
  readonly working: boolean
}

/** Chance of every pair to be settled, as a triangle of figures. */
export function Settles({ codes, nameOf, placeOf, worth, working }: SettlesProps) {
  const chance = (a: string, b: string) =>
    worth.pairs.find((p) => (p.a === a && p.b === b) || (p.a === b && p.b === a))?.chanceSettled
  return (
    <div className="overflow-x-auto">
      <table className={clsx('border-separate border-spacing-1 transition-opacity', working && 'opacity-60')}>
        <caption className="sr-only">Chance, in per cent, that the plan settles each pair</caption>
        <tbody>
          {codes.map((row, i) => (
            <tr key={row}>
              <th scope="row" className="max-w-32 truncate pr-1.5 text-right text-note font-semibold">
                {nameOf(row)}
              </th>
              {codes.slice(0, i).map((column) => {
                const p = chance(row, column)
                return (
                  <td
                    key={column}
                    title={`${nameOf(row)} and ${nameOf(column)}`}
                    className="figure h-9 w-11 rounded-md text-center text-body font-semibold text-ink"
                    style={{
                      background: `color-mix(in oklab, var(--water) ${Math.round(8 + 42 * Math.max(0, 2 * (p ?? 0) - 1))}%, var(--card))`,
                    }}
                  >
                    <span className="sr-only">{nameOf(column)}: </span>
                    {p === undefined ? '–' : percent(p).replace(' %', '')}
                  </td>
                )
              })}
              <td className="h-9 w-11 text-center">
                <span className="inline-block align-middle">
                  <DiscDot place={placeOf(row)} />
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
