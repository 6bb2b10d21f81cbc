import clsx from 'clsx'
import { Z_SETTLED } from '../../../core/rating/normal.ts'
import type { TellingPlan } from '../../../core/plan/telling.ts'
import { percent } from '../../data/units.ts'
import { DiscDot } from '../../parts/Disc.tsx'
import { useUnits } from '../../data/preferences.tsx'
import { PER_M } from '../../../core/flight/side.ts'

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
  const units = useUnits()
  const pairOf = (a: string, b: string) =>
    worth.pairs.find((p) => (p.a === a && p.b === b) || (p.a === b && p.b === a))
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
                const pair = pairOf(row, column)
                const p = pair?.chanceSettled
                const least = pair && Z_SETTLED * pair.sdAfter
                return (
                  <td
                    key={column}
                    title={`${nameOf(row)} and ${nameOf(column)}: would separate a difference of ${least === undefined ? '–' : units.length.show(least)}`}
                    className="figure h-11 w-12 rounded-md text-center text-body font-semibold text-ink"
                    style={{
                      background: `color-mix(in oklab, var(--water) ${Math.round(8 + 42 * Math.max(0, 2 * (p ?? 0) - 1))}%, var(--card))`,
                    }}
                  >
                    <span className="sr-only">{nameOf(column)}: </span>
                    {p === undefined ? '–' : percent(p).replace(' %', '')}
                    {least !== undefined && (
                      <span className="block text-[12px] leading-none font-normal">
                        <span className="sr-only"> per cent; smallest difference told apart </span>
                        {units.length.to(least).toFixed(1)}
                      </span>
                    )}
                  </td>
                )
              })}
              <td className="h-11 w-12 text-center">
                <span className="inline-block align-middle">
                  <DiscDot place={placeOf(row)} />
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-note text-quiet">
        Small: the least difference of where they fly, in {units.length.unit} a flight of{' '}
        {units.length.show(PER_M, 0)}, it would tell apart at 90 %.
      </p>
    </div>
  )
}
