import clsx from 'clsx'
import { formatDistanceToNow } from 'date-fns'
import { Plus } from 'lucide-react'
import { lazy, Suspense, useState } from 'react'
import type { ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import { statements } from '../../../core/judge/statements.ts'
import type { TrialSummary } from '../../../contract/trials.ts'
import { Sentences } from '../../charts/Sentences.tsx'
import { useShelf, useTrial, useTrials } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../data/naming.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, Trouble, Waiting } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { Band, EndLabels, Flight } from '../../strip/layers.tsx'
import { Strip } from '../../strip/Strip.tsx'
import { hueOf } from '../../strip/hues.ts'
import { useRating, weighing } from '../../workers/rating.ts'
import type { RatingState } from '../../workers/rating.ts'
import { StationLink } from '../../parts/StationLink.tsx'

import { DemoNote } from './DemoNote.tsx'

const StartTrial = lazy(() => import('./StartTrial.tsx'))

export default function Bench() {
  const { trials, error } = useTrials()
  const [starting, setStarting] = useState(false)
  const [params, setParams] = useSearchParams()
  // discs chosen on the shelf come in the address
  const chosen = params.get('start')
  if (error && !trials) return <Trouble error={error} />
  if (!trials) return <Waiting what="the bench" />
  const start = (
    <Button kind="primary" onClick={() => setStarting(true)}>
      <Plus size={18} aria-hidden /> Start a trial
    </Button>
  )
  const open = trials.filter((t) => t.trial.finishedAt === null)
  const done = trials.filter((t) => t.trial.finishedAt !== null)
  return (
    <div className="p-3 md:p-4">
      <DemoNote />
      {trials.length === 0 ? (
        <Nothing start={start} />
      ) : (
        <>
          <div className="mb-3 flex items-end justify-between gap-4">
            <div>
              <h1 className="text-title">Bench</h1>
              <p className="text-quiet">
                {open.length} {open.length === 1 ? 'trial' : 'trials'} open, {done.length} finished
              </p>
            </div>
            {start}
          </div>
          <div className="grid items-start gap-3 lg:grid-cols-2">
            {[[...open].sort((a, b) => b.counted - a.counted), done].map((list, i) => (
              <div key={i} className="grid gap-3">
                {list.map((t) => (
                  <TrialCard key={t.trial.id} summary={t} />
                ))}
              </div>
            ))}
          </div>
        </>
      )}
      {(starting || chosen !== null) && (
        <Suspense>
          <StartTrial
            from={chosen === null ? [] : chosen.split(',').filter(Boolean)}
            onClose={() => {
              setStarting(false)
              setParams({}, { replace: true })
            }}
          />
        </Suspense>
      )}
    </div>
  )
}

/** What to do first, with one button: discs come before trials. */
function Nothing({ start }: { start: ReactNode }) {
  const { view } = useShelf()
  const empty = view !== undefined && view.shelf.discs.every((d) => d.removedAt !== null)
  return (
    <Empty
      title="Nothing on the bench yet"
      action={
        empty ? (
          <StationLink at="shelf" search="?add=1" className={buttonLook('primary')}>
            <Plus size={18} aria-hidden /> Add the first disc
          </StationLink>
        ) : (
          start
        )
      }
    >
      A trial is one question put to some discs: which is more stable, is it true to its label.{' '}
      {empty
        ? 'Put the discs on the shelf first, with the numbers printed on them.'
        : 'Start one, then throw for it.'}
    </Empty>
  )
}

/** A trial: how far it is, what it says so far, and what to do next. */
function TrialCard({ summary: { trial, counted, leftOut, lastThrownAt } }: { summary: TrialSummary }) {
  const { view } = useTrial(trial.id)
  const rating = useRating(view)
  const finished = trial.finishedAt !== null
  const share = trial.plannedThrows > 0 ? Math.min(1, counted / trial.plannedThrows) : 0
  return (
    <Card className="flex flex-col p-4" label={trial.name}>
      <div className="flex items-start justify-between gap-4">
        <div className="min-w-0">
          <h2 className="text-lead">
            <StationLink at="readout" params={{ trialId: trial.id }} className="hover:underline">
              {trial.name}
            </StationLink>
          </h2>
          <p className="text-quiet">{trial.question}</p>
        </div>
        <span className="shrink-0 text-note font-semibold text-quiet">
          {finished ? 'finished' : counted === 0 ? 'not thrown yet' : 'open'}
        </span>
      </div>
      <div className="mt-2 flex items-center gap-x-3 gap-y-1.5 max-sm:flex-wrap">
        <div className="h-2 flex-1 max-sm:basis-full overflow-hidden rounded-full bg-tint" aria-hidden>
          <div className="h-full rounded-full bg-water" style={{ width: `${100 * share}%` }} />
        </div>
        <span className="text-note">
          <span className="figure text-body">{counted}</span> of {trial.plannedThrows} throws
          {leftOut > 0 && `, ${leftOut} left out`}
          {lastThrownAt && ` · ${formatDistanceToNow(new Date(lastThrownAt), { addSuffix: true })}`}
        </span>
      </div>
      {/* what stands below keeps its place when the reading arrives */}
      <div className={clsx('mt-2 flex-1', counted > 0 && 'min-h-76')}>
        {view && counted > 0 ? (
          <Standing view={view} rating={rating} />
        ) : (
          view && (
            <ul className="mt-3 flex flex-wrap gap-x-5 gap-y-2">
              {view.discs.map((d, i) => (
                <li key={d.disc.id} className="flex items-center gap-2">
                  <DiscDot place={i} /> {d.mold.name} {d.plastic.name}
                  <span className="figure text-quiet">{d.disc.code}</span>
                </li>
              ))}
            </ul>
          )
        )}
      </div>
      <div className="mt-3 flex gap-2">
        {!finished && (
          <StationLink at="field" params={{ trialId: trial.id }} className={buttonLook('primary')}>
            {counted === 0 ? 'Throw the first' : 'Throw on'}
          </StationLink>
        )}
        {!finished && (
          <StationLink at="plan" params={{ trialId: trial.id }} className={buttonLook()}>
            Plan it
          </StationLink>
        )}
        {counted > 0 && (
          <StationLink at="readout" params={{ trialId: trial.id }} className={buttonLook()}>
            Read it
          </StationLink>
        )}
      </div>
    </Card>
  )
}

/** The corrected flights in small, and the sentences nearest to a question still open. */
function Standing({
  view,
  rating: { reading, settlings, working, share },
}: {
  view: TrialView
  rating: RatingState
}) {
  if (!reading) return <p className="py-4 text-quiet">{weighing(view.throws.length, share)}</p>
  const names = trialNames(view.discs)
  const place = (code: string) => view.discs.findIndex((d) => d.disc.code === code)
  const said = statements(
    reading.outcome,
    reading.ranks,
    (code) => names.get(code) ?? code,
    settlings,
  ).filter((s) => s.kind !== 'label')
  const shown = [...said.filter((s) => !s.settled), ...said.filter((s) => s.settled)].slice(0, 2)
  const ends = reading.corrected.flatMap((c) => c.band.flatMap((b) => [b.low, b.high]))
  return (
    <div className="grid gap-3">
      <Strip
        height={164}
        names={reading.corrected.map((c) => names.get(c.disc) ?? c.disc)}
        label={`Corrected flights of ${view.discs.length} discs, seen from above`}
        fade="up"
        reach={{
          down: 1.02 * Math.max(...reading.corrected.map((c) => c.features.carryM)),
          left: Math.max(6, ...ends),
          right: Math.max(6, ...ends.map((e) => -e)),
        }}
      >
        {reading.corrected.map((c) => (
          <Band
            key={c.disc}
            hue={hueOf(place(c.disc))}
            band={c.band.map((b) => ({ down: b.x, low: b.low, high: b.high }))}
          />
        ))}
        {reading.corrected.map((c) => (
          <Flight
            key={c.disc}
            hue={hueOf(place(c.disc))}
            path={c.path.map((p) => ({ down: p.x, left: p.y }))}
          />
        ))}
        <EndLabels
          ends={reading.corrected.map((c) => {
            const end = c.path[c.path.length - 1]!
            return {
              at: { down: end.x, left: end.y },
              hue: hueOf(place(c.disc)),
              words: names.get(c.disc) ?? c.disc,
            }
          })}
        />
      </Strip>
      <Sentences list={shown} working={working} />
    </div>
  )
}
