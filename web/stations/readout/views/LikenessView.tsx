import clsx from 'clsx'
import { useState } from 'react'
import { useAsked } from '../../../data/useAsked.ts'
import { useUnits } from '../../../data/preferences.tsx'
import { Card, Unanswered } from '../../../parts/Card.tsx'
import { DiscDot } from '../../../parts/Disc.tsx'
import { SelectInput } from '../../../parts/Inputs.tsx'
import { StationLink } from '../../../parts/StationLink.tsx'
import { askRating } from '../../../workers/rating.ts'
import type { ViewProps } from './viewProps.ts'

/** How alike the discs of a trial fly, whole paths compared, against what two throws of one disc differ by. */
export function LikenessView({ view, reading, ratingKey, name, place }: ViewProps) {
  const { length } = useUnits()
  const thrown = reading.outcome.discs.filter((d) => d.throws > 0).map((d) => d.disc)
  const [disc, setDisc] = useState(thrown[0])
  const others = thrown.filter((d) => d !== disc)
  const asked = useAsked(
    disc === undefined ? null : `${ratingKey} ${reading.serial} ${disc}`,
    async () =>
      (
        await Promise.all(
          others.map(async (other) => ({
            other,
            like: await askRating((w) => w.like(ratingKey, disc!, other)),
          })),
        )
      )
        .flatMap(({ other, like }) => (like ? [{ other, ...like }] : []))
        .sort((a, b) => a.distanceM - b.distanceM),
    { about: `${view.trial.id} ${disc}` },
  )
  if (disc === undefined) return <Card className="p-4">No throw counts yet.</Card>
  const shelved = view.discs.find((d) => d.disc.code === disc)!
  const spread = asked.value?.[0]?.spread
  const far = Math.max(1, spread?.pathM ?? 0, ...(asked.value ?? []).map((o) => o.distanceM))
  return (
    <Card className="p-4" label="Likeness">
      <div className="flex flex-wrap items-end gap-3">
        <SelectInput
          label="Flies like"
          className="w-56"
          value={disc}
          onChange={(e) => setDisc(e.target.value)}
        >
          {thrown.map((d) => (
            <option key={d} value={d}>
              {name(d)}
            </option>
          ))}
        </SelectInput>
        <p className="flex-1 basis-72 text-note text-quiet">
          Mean distance of their paths over hyzer, flat and anhyzer, into the wind, in still air and with it,
          at the arm that threw most.{' '}
          {spread &&
            `Two throws of one disc by that arm lie ${length.show(spread.pathM)} apart, where the line is.`}
        </p>
        <StationLink
          at="shelf/disc"
          params={{ discId: shelved.disc.id }}
          className="underline underline-offset-4"
        >
          The whole shelf
        </StationLink>
      </div>
      {asked.error ? (
        <Unanswered asked={asked} />
      ) : (
        <ul className="mt-3" aria-busy={asked.working}>
          {(asked.value ?? []).map((o) => (
            <li
              key={o.other}
              className="grid grid-cols-[11rem_minmax(0,1fr)_6rem] items-center gap-3 border-t border-rule py-2 max-md:grid-cols-[8rem_minmax(0,1fr)_5rem]"
            >
              <span className="flex items-center gap-2 font-medium">
                <DiscDot place={place(o.other)} /> {name(o.other)}
              </span>
              <span className="relative block h-3.5 rounded bg-tint" aria-hidden>
                <span
                  className={clsx('block h-full rounded', o.overlaps ? 'bg-water' : 'bg-quiet')}
                  style={{ width: `${(100 * o.distanceM) / far}%` }}
                />
                <span
                  className="absolute -inset-y-1 w-0.5 bg-ink"
                  style={{ left: `${(100 * o.spread.pathM) / far}%` }}
                />
              </span>
              <span className="figure text-right">{length.show(o.distanceM)}</span>
              <span className="col-span-3 text-note text-quiet">
                {o.overlaps
                  ? 'They overlap: which of them was thrown cannot be seen from a throw.'
                  : o.sameShape
                    ? `They bend alike; ${name(o.other)} carries ${length.show(Math.abs(o.fartherM))} ${o.fartherM > 0 ? 'farther' : 'less far'}.`
                    : o.sameDistance
                      ? 'They carry alike and bend differently.'
                      : `They bend differently, and ${name(o.other)} carries ${length.show(Math.abs(o.fartherM))} ${o.fartherM > 0 ? 'farther' : 'less far'}.`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </Card>
  )
}
