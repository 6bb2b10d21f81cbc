import clsx from 'clsx'
import { countHints, hintsBetween } from '../../../core/judge/hints.ts'
import type { InspectedFlyer, HintVerdict } from '../../../core/judge/hints.ts'
import { sideOfRating } from '../../../contract/shelfPage.ts'
import type { InspectedDisc } from '../../../contract/shelfPage.ts'
import { percent } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'
import { shortName } from './RimCard.tsx'

const flyer = ({ inspection, row }: InspectedDisc): InspectedFlyer => ({
  measured: inspection,
  stability: row.rating && row.throws > 0 ? sideOfRating(row.rating).side : null,
  glide:
    row.rating && row.throws > 0
      ? { value: row.rating.glide, sd: Math.sqrt(row.rating.covariance[0]!) }
      : null,
})

const SAID: Record<HintVerdict, string> = {
  'borne out': 'borne out',
  'not borne out': 'not borne out',
  open: 'not settled',
  untold: '—',
}

interface HandSaidProps {
  readonly disc: InspectedDisc
  readonly beside: InspectedDisc
  readonly all: readonly InspectedDisc[]
}

/** What practitioners read from the rims, each a hint, and what the throws say to it. */
export function HandSaid({ disc, beside, all }: HandSaidProps) {
  const hints = hintsBetween(flyer(disc), flyer(beside))
  const flyers = all.map((d) => ({ class: d.row.mold.discClass, flyer: flyer(d) }))
  const counts = countHints(
    flyers.flatMap((a, i) =>
      // a putter beside a driver tells nothing of parting lines
      flyers
        .slice(i + 1)
        .filter((b) => b.class === a.class)
        .map((b) => [a.flyer, b.flyer] as const),
    ),
  )
  const counted = hints.flatMap((h) => counts.find((c) => c.key === h.rule.key && c.settled > 0) ?? [])
  return (
    <Card className="p-4" label="What the hand said, and what the throws said">
      <h2 className="text-lead">What the hand said, and what the throws said</h2>
      <p className="mb-1 text-note text-quiet">
        beside {shortName(beside.row)}; hints to test, never a result
      </p>
      {hints.length === 0 ? (
        <p className="py-2 text-quiet">The two measure alike: nothing to read from the rims.</p>
      ) : (
        <table className="w-full text-left">
          <tbody>
            {hints.map((h) => (
              <tr key={h.rule.key} className="border-b border-rule last:border-0">
                <th scope="row" className="py-2 pr-3 font-semibold">
                  {h.words}
                </th>
                <td className="pr-3 text-quiet">{h.usually}</td>
                <td
                  className={clsx(
                    'text-right',
                    (h.verdict === 'borne out' || h.verdict === 'not borne out') && 'font-semibold',
                    h.verdict === 'not borne out' && 'text-accent',
                  )}
                >
                  {h.verdict === 'open' && h.probability === null ? 'not thrown' : SAID[h.verdict]}
                  {h.probability !== null &&
                    `, ${percent(h.verdict === 'not borne out' ? 1 - h.probability : h.probability)}`}
                </td>
                <td className="figure w-24 pl-3 text-right text-quiet">
                  {counted.filter((c) => c.key === h.rule.key).map((c) => `${c.right} of ${c.settled}`)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {counted.length > 0 && (
        <p className="mt-1 text-note text-quiet">
          The last column: in how many pairs of one class, settled by throws, the hint pointed the right way
          on this shelf.
        </p>
      )}
    </Card>
  )
}
