import clsx from 'clsx'
import { useState } from 'react'
import type { ReactNode } from 'react'
import { ARMS } from '../../../../core/judge/answers/arms.ts'
import type { Likeness, FlightSpread } from '../../../../core/judge/likeness.ts'
import { tellsWords } from '../../../../core/judge/tellingShot.ts'
import { capital } from '../../../../contract/words.ts'
import { useShelf } from '../../../data/hooks.ts'
import { useLikeness } from '../../../data/shelfPage.ts'
import { useAsked } from '../../../data/useAsked.ts'
import { useUnits } from '../../../data/preferences.tsx'
import { wordingOf } from '../../../data/units.ts'
import { Card, Unanswered } from '../../../parts/Card.tsx'
import { DiscDot } from '../../../parts/Disc.tsx'

import { StationLink } from '../../../parts/StationLink.tsx'
import { askRating } from '../../../workers/rating.ts'
import type { ViewProps } from './viewProps.ts'
import { Select } from '../../../parts/Select.tsx'

/** How alike discs fly, of the trial and of the whole shelf, against what two throws of one disc differ by, at an arm of choice. */
export function LikenessView({ view, reading, ratingKey, name, look }: ViewProps) {
  const units = useUnits()
  const thrown = reading.outcome.discs.filter((d) => d.throws > 0).map((d) => d.disc)
  const [disc, setDisc] = useState(thrown[0])
  const [arm, setArm] = useState<number>()
  const others = thrown.filter((d) => d !== disc)
  const asked = useAsked(
    disc === undefined ? null : `${ratingKey} ${reading.serial} ${disc} ${arm}`,
    async () =>
      (
        await Promise.all(
          others.map(async (other) => ({
            other,
            like: await askRating((w) => w.like(ratingKey, disc!, other, arm)),
          })),
        )
      )
        .flatMap(({ other, like }) => (like ? [{ other, ...like }] : []))
        .sort((a, b) => a.distanceM - b.distanceM),
    { about: `${view.trial.id} ${disc}` },
  )
  if (disc === undefined) return <Card className="p-4">No throw counts yet.</Card>
  const shelved = view.discs.find((d) => d.disc.code === disc)!
  const first = asked.value?.[0]
  const far = Math.max(1, first?.spread.pathM ?? 0, ...(asked.value ?? []).map((o) => o.distanceM))
  const known = view.throwers.flatMap(({ name: who, backhandMps }) =>
    backhandMps === null ? [] : [{ name: who, armMps: backhandMps }],
  )
  return (
    <section aria-label="Likeness" className="grid gap-3">
      <Card className="flex flex-wrap items-end gap-3 p-4">
        <Select
          label="Flies like"
          className="w-56"
          value={disc}
          onChange={setDisc}
          options={thrown.map((d) => ({ value: d, words: name(d) }))}
        />
        <Select
          label="Thrown by"
          className="w-56"
          value={arm ?? null}
          onChange={(v) => setArm(v ?? undefined)}
          options={[
            { value: null, words: 'the arm that threw most' },
            ...[...known, ...ARMS].map((a) => ({
              value: a.armMps,
              words: known.includes(a)
                ? `${a.name}, ${units.speed.show(a.armMps)}`
                : units.speed.show(a.armMps),
            })),
          ]}
        />
        <p className="flex-1 basis-72 text-note text-quiet">
          Mean distance of their paths over hyzer, flat and anhyzer, into the wind, in still air and with it.{' '}
          {first &&
            `At ${units.speed.show(first.armMps)} two throws of one disc lie ${units.length.show(first.spread.pathM)} apart, where the line is.`}
        </p>
      </Card>
      <div className="grid items-start gap-3 lg:grid-cols-2">
        <Card className="p-4" label="Of this trial">
          <h2 className="text-lead">Of this trial</h2>
          {asked.error ? (
            <Unanswered asked={asked} />
          ) : others.length === 0 ? (
            <p className="mt-2 text-quiet">No other disc of it has a throw that counts.</p>
          ) : (
            <ul className="mt-2" aria-busy={asked.working}>
              {(asked.value ?? []).map((o) => (
                <Row
                  key={o.other}
                  like={o}
                  spread={o.spread}
                  far={far}
                  called={name(o.other)}
                  note={`${capital(tellsWords(o.shot, 'the one', 'the other', wordingOf(units, name)))}.`}
                >
                  <DiscDot look={look(o.other)} /> {name(o.other)}
                </Row>
              ))}
            </ul>
          )}
        </Card>
        <OnTheShelf key={`${disc} ${arm}`} discId={shelved.disc.id} armMps={arm ?? first?.armMps} />
      </div>
    </section>
  )
}

/** The likest of the whole shelf, as everything thrown so far has rated it. */
function OnTheShelf({ discId, armMps }: { discId: string; armMps: number | undefined }) {
  const { likeness, error } = useLikeness(discId, armMps)
  const { view: shelf } = useShelf()
  const found = (likeness?.most ?? []).flatMap((like) => {
    const on = shelf?.discs.find((d) => d.disc.id === like.discId)
    return on ? [{ like, on, called: `${on.mold.name}, ${on.plastic.name}` }] : []
  })
  const far = Math.max(1, likeness?.spread.pathM ?? 0, ...found.map((f) => f.like.distanceM))
  return (
    <Card className="p-4" label="On the whole shelf">
      <h2 className="text-lead">On the whole shelf</h2>
      {found.length === 0 ? (
        <p className="mt-2 text-quiet">
          {error
            ? 'The shelf cannot be asked just now.'
            : likeness === null
              ? 'Known once other discs of the shelf are thrown.'
              : 'Flying the others beside it …'}
        </p>
      ) : (
        <ul className="mt-2">
          {found.map(({ like, on, called }) => (
            <Row key={like.discId} like={like} spread={likeness!.spread} far={far} called={called}>
              <StationLink
                at="shelf/disc"
                params={{ discId: like.discId }}
                className="tap block min-w-0 underline-offset-4 hover:underline"
              >
                {called} <span className="text-note font-normal text-quiet">{on.disc.code}</span>
              </StationLink>
            </Row>
          ))}
        </ul>
      )}
    </Card>
  )
}

interface RowProps {
  readonly like: Likeness
  readonly spread: FlightSpread
  /** Where the bars end, m. */
  readonly far: number
  readonly called: string
  readonly note?: string
  readonly children: ReactNode
}

/** A disc by how far from another it flies. */
function Row({ like, spread, far, called, note, children }: RowProps) {
  const { length } = useUnits()
  const { overlaps, sameShape, sameDistance, fartherM, distanceM } = like
  const carries = `carries ${length.show(Math.abs(fartherM))} ${fartherM > 0 ? 'farther' : 'less far'}`
  return (
    <li className="grid grid-cols-[11rem_minmax(0,1fr)_5rem] items-center gap-x-3 gap-y-1 border-t border-rule py-2 max-md:grid-cols-[8rem_minmax(0,1fr)_5rem]">
      <span className="flex min-w-0 items-center gap-2 font-medium">{children}</span>
      <span className="relative block h-3.5 rounded bg-tint" aria-hidden>
        <span
          className={clsx('block h-full rounded', overlaps ? 'bg-water' : 'bg-quiet')}
          style={{ width: `${(100 * distanceM) / far}%` }}
        />
        <span
          className="absolute -inset-y-1 w-0.5 bg-ink"
          style={{ left: `${(100 * spread.pathM) / far}%` }}
        />
      </span>
      <span className="figure text-right">{length.show(distanceM)}</span>
      <span className="col-span-3 text-note text-quiet">
        {overlaps
          ? 'They overlap, in bend and in carry: an ordinary throw does not tell which it was.'
          : sameShape
            ? `They bend alike; ${called} ${carries}.`
            : sameDistance
              ? 'They carry alike and bend differently.'
              : `They bend differently, and ${called} ${carries}.`}{' '}
        {note}
      </span>
    </li>
  )
}
