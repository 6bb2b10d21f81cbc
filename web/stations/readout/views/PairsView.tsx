import type { Estimate } from '../../../../core/rating/outcome.ts'
import clsx from 'clsx'
import { mean } from 'd3'
import { useState } from 'react'
import { pairOf } from '../../../../core/rating/outcome.ts'
import { alikeProbability } from '../../../../core/judge/resolve.ts'
import { PER_M } from '../../../../core/flight/side.ts'
import { farther } from '../../../../core/judge/statements.ts'
import { Z90 } from '../../../../core/rating/normal.ts'
import { useUnits } from '../../../data/preferences.tsx'
import { DEGREE } from '../../../../core/flight/units.ts'
import { angleWords, besideLine, figure, percent } from '../../../data/units.ts'
import { groundOf, ladderIn, PairTable } from '../../../charts/PairTable.tsx'
import { Card } from '../../../parts/Card.tsx'
import { useAsked } from '../../../data/useAsked.ts'
import { askRating } from '../../../workers/rating.ts'
import { WhyCard } from '../Why.tsx'
import type { ViewProps } from './viewProps.ts'

/** How sure each disc is to be the more stable of each two, and one pair looked at closely. */
export function PairsView({ view, reading, ratingKey, name, look }: ViewProps) {
  const { outcome } = reading
  const ladder = ladderIn(outcome)
  const [chosen, setChosen] = useState<readonly [string, string] | undefined>(
    ladder.length > 1 ? [ladder[0]!, ladder[1]!] : undefined,
  )
  if (!chosen) return <Card className="p-4">One disc has no pair.</Card>
  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <Card className="overflow-x-auto p-4" label="Pairs">
        <h2 className="text-lead">How sure is it that one is more stable than the other?</h2>
        <div className="mt-2">
          <PairTable
            {...{ outcome, name, look }}
            cell={(row, column, p) => {
              const here = chosen.includes(row) && chosen.includes(column)
              return (
                <button
                  type="button"
                  aria-pressed={here}
                  aria-label={`${name(row)} more stable than ${name(column)}: ${percent(p)}`}
                  onClick={() => setChosen([row, column])}
                  className={clsx(
                    'figure h-11 w-full min-w-16 rounded-md text-center font-semibold',
                    here && 'outline-2 outline-ink',
                  )}
                  style={{ background: groundOf(p) }}
                >
                  {percent(p).replace(' %', '')}
                </button>
              )
            }}
          />
        </div>
        <p className="mt-2 text-note text-quiet">
          Per cent that the disc of the row is more stable than that of the column. From 90 on it is settled.
        </p>
      </Card>
      <OnePair key={chosen.join()} pair={chosen} {...{ reading, ratingKey, name, look }} />
      <Matched pair={chosen} {...{ view, reading, ratingKey, name }} />
    </div>
  )
}

/** Two discs side by side. */
function OnePair({
  pair: [a, b],
  reading,
  ratingKey,
  name,
}: Pick<ViewProps, 'reading' | 'ratingKey' | 'name' | 'look'> & { pair: readonly [string, string] }) {
  const { length } = useUnits()
  const { outcome } = reading
  const found = pairOf(outcome, a, b)
  const sign = found.a === a ? 1 : -1
  const [one, other] = [a, b].map((id) => outcome.discs.find((d) => d.disc === id)!)
  const aside = ({ value, sd }: Estimate) =>
    `${length.show(Math.abs(value))} ${farther(outcome.fadeSide, sign * value >= 0)}, ±${(length.to(Z90) * sd).toFixed(1)}, in ${length.show(PER_M, 0)}`
  const like = useAsked(
    `${ratingKey} ${reading.serial} ${a} ${b}`,
    () => askRating((w) => w.like(ratingKey, a, b)),
    {
      about: `${a} ${b}`,
    },
  )
  const rows: readonly (readonly [string, string])[] = [
    ['Flies, on the whole', aside(found.difference)],
    ['Finishes', aside(found.finish)],
    ['More stable', percent(sign === 1 ? found.pAMoreStable : 1 - found.pAMoreStable)],
    [
      'Alike, to half a number',
      percent(alikeProbability(found.difference, one!.published, other!.published)),
    ],
    ...(like.value
      ? [
          ['Paths apart', length.show(like.value.distanceM)] as const,
          ['Two throws of one disc', `${length.show(like.value.spread.pathM)} apart`] as const,
          [
            'Overlap',
            like.value.overlaps
              ? 'yes: one throw does not tell them apart'
              : like.value.sameShape
                ? 'they bend alike, and carry differently'
                : like.value.sameDistance
                  ? 'they carry alike, and bend differently'
                  : 'no',
          ] as const,
        ]
      : []),
    [
      'Glide, turn, fade',
      `${(['glide', 'turn', 'fade'] as const).map((n) => figure(one!.observed[n] - other!.observed[n], 1)).join(', ')} apart`,
    ],
    ['Throws', `${one!.throws} and ${other!.throws}`],
  ]
  return (
    <Card className="p-4" label="One pair">
      <h2 className="text-lead">
        {name(a)} against {name(b)} <WhyCard of={`${name(a)} against ${name(b)}`} discs={[a, b]} />
      </h2>
      <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-4">
        {rows.map(([what, says]) => (
          <div key={what} className="col-span-2 grid grid-cols-subgrid border-t border-rule py-1.5">
            <dt className="text-note text-quiet">{what}</dt>
            <dd className="figure text-right">{says}</dd>
          </div>
        ))}
      </dl>
    </Card>
  )
}

/** Throws of the two that were meant alike, one beside the other: how far apart they came down, and had they come out as meant. */
function Matched({
  pair: [a, b],
  view,
  reading,
  ratingKey,
  name,
}: Pick<ViewProps, 'view' | 'reading' | 'ratingKey' | 'name'> & { pair: readonly [string, string] }) {
  const units = useUnits()
  const { length, speed } = units
  const { value } = useAsked(
    `${ratingKey} ${reading.serial} ${a} ${b}`,
    () => askRating((w) => w.matched(ratingKey, a, b)),
    { about: `${a} ${b}` },
  )
  if (!value) return null
  const number = new Map(view.throws.map((t, i) => [t.id, i + 1]))
  const aside = (m: number) => besideLine(units, m, reading.outcome.fadeSide)
  const down = (m: number) => `${length.to(Math.abs(m)).toFixed(1)} ${m >= 0 ? 'long' : 'short'}`
  const of = (key: 'landed' | 'corrected', part: 'carryM' | 'veerM') => mean(value, (m) => m[key][part]) ?? 0
  const cell = 'figure px-2 py-1 text-right whitespace-nowrap'
  return (
    <Card className="overflow-x-auto p-4 lg:col-span-2" label="Throws matched">
      <h2 className="text-lead">
        {name(a)} beside {name(b)}, throw by throw
      </h2>
      <p className="text-note text-quiet">
        Throws meant alike, matched by angle, wind and time: where {name(a)} came down beside {name(b)},{' '}
        {length.unit}; then with angle, power, aim, wind and air taken out of both.
      </p>
      {value.length === 0 ? (
        <p className="mt-2 text-quiet">No throw of one was meant like a throw of the other.</p>
      ) : (
        <table className="mt-2 w-full text-left">
          <thead className="text-note text-quiet">
            <tr>
              <th className="font-normal">Throws</th>
              <th className="px-2 font-normal">Meant</th>
              <th className="px-2 font-normal max-md:hidden">Wind</th>
              <th className="px-2 text-right font-normal" colSpan={2}>
                as landed
              </th>
              <th className="px-2 text-right font-normal" colSpan={2}>
                corrected
              </th>
            </tr>
          </thead>
          <tbody>
            {value.map((m) => (
              <tr key={m.a} className="border-t border-rule">
                <th scope="row" className="figure py-1 font-normal">
                  {number.get(m.a) ?? '?'} and {number.get(m.b) ?? '?'}
                </th>
                <td className="px-2">{angleWords(m.hyzerRad / DEGREE)}</td>
                <td className="figure px-2 max-md:hidden">
                  {speed.show(Math.abs(m.windAlongMps))} {m.windAlongMps < 0 ? 'head' : 'tail'}
                </td>
                <td className={cell}>{down(m.landed.carryM)}</td>
                <td className={cell}>{aside(m.landed.veerM)}</td>
                <td className={cell}>{down(m.corrected.carryM)}</td>
                <td className={cell}>{aside(m.corrected.veerM)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="border-t-2 border-edge font-semibold">
              <th scope="row" className="py-1">
                on average
              </th>
              <td />
              <td className="max-md:hidden" />
              <td className={cell}>{down(of('landed', 'carryM'))}</td>
              <td className={cell}>{aside(of('landed', 'veerM'))}</td>
              <td className={cell}>{down(of('corrected', 'carryM'))}</td>
              <td className={cell}>{aside(of('corrected', 'veerM'))}</td>
            </tr>
          </tfoot>
        </table>
      )}
    </Card>
  )
}
