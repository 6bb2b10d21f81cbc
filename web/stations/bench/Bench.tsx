import clsx from 'clsx'
import { formatDistanceToNow } from 'date-fns'
import { Plus, Upload } from 'lucide-react'
import { lazy, Suspense, useMemo, useState } from 'react'
import type { ComponentProps, ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import { nearestOpen } from '../../../core/judge/card.ts'
import type { PlanPoint } from '../../../core/flight/path.ts'
import { statements } from '../../../core/judge/statements.ts'
import { MOST_CARDS } from '../../../contract/cards.ts'
import type { TrialSummary } from '../../../contract/trials.ts'
import { Sentences } from '../../charts/Sentences.tsx'
import { at } from '../../../contract/api.ts'
import { read } from '../../data/api.ts'
import { outbox } from '../../data/outbox.ts'
import { say, sayWrong } from '../../data/say.ts'
import { useCards, useShelf, useTrial, useTrials } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { Band, EndLabels, Flight } from '../../strip/layers.tsx'
import { Strip } from '../../strip/Strip.tsx'
import { dashesOf, hueOf, looksById, looksOf } from '../../strip/hues.ts'
import { useRating, weighing } from '../../workers/rating.ts'
import { StationLink } from '../../parts/StationLink.tsx'

import { DemoNote, useDemo } from './DemoNote.tsx'
import { wordingOf } from '../../data/units.ts'
import { useUnits } from '../../data/preferences.tsx'

/** Trials shown of each column until more are asked for. */
const PAGE = 12

/** Open trials, those thrown most first, and finished ones, the last finished first. */
const columnsOf = (trials: readonly TrialSummary[]): readonly (readonly TrialSummary[])[] => [
  trials.filter((t) => t.trial.finishedAt === null).sort((a, b) => b.counted - a.counted),
  trials
    .filter((t) => t.trial.finishedAt !== null)
    .sort((a, b) => b.trial.finishedAt!.localeCompare(a.trial.finishedAt!)),
]

const StartTrial = lazy(() => import('./StartTrial.tsx'))

export default function Bench() {
  const { trials, putAway = [], error } = useTrials()
  const demo = useDemo()
  const [more, setMore] = useState(1)
  const columns = useMemo(() => columnsOf(trials ?? []), [trials])
  const shown = columns.map((list) => list.slice(0, more * PAGE))
  const cards = useCards(
    shown
      .flat()
      .flatMap((t) => (t.counted > 0 ? t.trial.id : []))
      .slice(0, MOST_CARDS),
  )
  const [starting, setStarting] = useState(false)
  const [params, setParams] = useSearchParams()
  // discs chosen on the shelf come in the address
  const chosen = params.get('start')
  const hidden = columns.flat().length - shown.flat().length
  const [open, done] = columns as [readonly TrialSummary[], readonly TrialSummary[]]
  if (error && !trials) return <TroubleNote error={error} />
  // a note that came later would move what somebody is about to press
  if (!trials || (!demo.data && !demo.error)) return <WaitingNote what="the bench" />
  const start = (
    <div className="flex flex-wrap justify-center gap-2">
      <FromFile />
      <Button kind="primary" onClick={() => setStarting(true)}>
        <Plus size={18} aria-hidden /> Start a trial
      </Button>
    </div>
  )
  return (
    <div className="p-3 md:p-4">
      <DemoNote />
      {trials.length + putAway.length === 0 ? (
        <Nothing start={start} />
      ) : (
        <>
          <div className="mb-3 flex flex-wrap items-end justify-between gap-x-4 gap-y-2">
            <div>
              <h1 className="text-title">Bench</h1>
              <p className="text-quiet">
                {open.length} {open.length === 1 ? 'trial' : 'trials'} open, {done.length} finished
              </p>
            </div>
            {start}
          </div>
          <div className="grid items-start gap-3 lg:grid-cols-2">
            {shown.map((list, i) => (
              <div key={i} className="grid gap-3">
                {list.map((t) => (
                  <TrialCard key={t.trial.id} summary={t} cards={cards} />
                ))}
              </div>
            ))}
          </div>
          {hidden > 0 && (
            <div className="mt-4 text-center">
              <Button onClick={() => setMore(more + 1)}>
                Show more of {hidden} further {hidden === 1 ? 'trial' : 'trials'}
              </Button>
            </div>
          )}
        </>
      )}
      <PutAway trials={putAway} />
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

/** Puts a trial away or brings it back; it is read first, since what is written is the whole of it. */
async function putAside(id: string, removedAt: string | null): Promise<void> {
  try {
    const { trial } = await read(at('GET /api/trials/:id', { id }))
    await outbox.put('trials', { ...trial, removedAt })
    if (removedAt === null) return say(`${trial.name} is back on the bench.`)
    say(`${trial.name} was put away. Its throws go on counting for its discs.`, {
      label: 'Undo',
      run: () => void putAside(id, null),
    })
  } catch (e) {
    sayWrong((e as Error).message)
  }
}

/** Trials that were put away, each with a way back. */
function PutAway({ trials }: { trials: readonly TrialSummary[] }) {
  if (trials.length === 0) return null
  return (
    <details className="mt-4 rounded-xl border border-rule px-4 py-2">
      <summary className="min-h-8 cursor-pointer text-quiet max-md:min-h-11">
        {trials.length === 1 ? '1 trial' : `${trials.length} trials`} put away
      </summary>
      <ul>
        {trials.map(({ trial, counted }) => (
          <li key={trial.id} className="flex items-center gap-3 border-t border-rule py-1.5">
            <span className="min-w-0 flex-1">
              <StationLink
                at="readout"
                params={{ trialId: trial.id }}
                className="tap font-medium hover:underline"
              >
                {trial.name}
              </StationLink>{' '}
              <span className="text-note text-quiet">
                {counted === 1 ? '1 throw' : `${counted} throws`} counted
              </span>
            </span>
            <Button kind="quiet" onClick={() => void putAside(trial.id, null)}>
              Bring back<span className="sr-only"> {trial.name}</span>
            </Button>
          </li>
        ))}
      </ul>
    </details>
  )
}

/** A way in for whoever has last year’s throws in a sheet. */
const FromFile = () => (
  <StationLink at="bench/file" className={buttonLook()}>
    <Upload size={18} aria-hidden /> Start from a file
  </StationLink>
)

/** What to do first, with one button: discs come before trials. */
function Nothing({ start }: { start: ReactNode }) {
  const { view } = useShelf()
  const empty = view !== undefined && view.shelf.discs.every((d) => d.removedAt !== null)
  return (
    <Empty
      title="Nothing on the bench yet"
      action={
        empty ? (
          <div className="flex flex-wrap justify-center gap-2">
            <FromFile />
            <StationLink at="shelf" search="?add=1" className={buttonLook('primary')}>
              <Plus size={18} aria-hidden /> Add the first disc
            </StationLink>
          </div>
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
function TrialCard({
  summary: { trial, counted, leftOut, lastThrownAt },
  cards,
}: {
  summary: TrialSummary
  cards: ReturnType<typeof useCards>
}) {
  const card = cards?.get(trial.id)
  const finished = trial.finishedAt !== null
  const share = trial.plannedThrows > 0 ? Math.min(1, counted / trial.plannedThrows) : 0
  return (
    <Card className="flex flex-col p-4" label={trial.name}>
      <div className="flex items-start justify-between gap-4">
        <div className="min-w-0">
          <h2 className="text-lead">
            <StationLink at="readout" params={{ trialId: trial.id }} className="tap hover:underline">
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
        {counted === 0 ? (
          <Discs ids={trial.discIds} />
        ) : card ? (
          <Standing flights={card.flights} sentences={card.sentences} />
        ) : (
          cards && <WeighedHere trialId={trial.id} />
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
        <Button
          kind="quiet"
          className="ml-auto text-note text-quiet"
          onClick={() => void putAside(trial.id, new Date().toISOString())}
        >
          Put away<span className="sr-only"> {trial.name}</span>
        </Button>
      </div>
    </Card>
  )
}

/** The discs of a trial nobody has thrown for. */
function Discs({ ids }: { ids: readonly string[] }) {
  const { view } = useShelf()
  const discs = ids.flatMap((id) => view?.discs.find((d) => d.disc.id === id) ?? [])
  const look = looksById(discs)
  return (
    <ul className="mt-3 flex flex-wrap gap-x-5 gap-y-2">
      {ids.map((id) => {
        const d = view?.discs.find((x) => x.disc.id === id)
        return (
          d && (
            <li key={id} className="flex items-center gap-2">
              <DiscDot look={look(id)} /> {d.mold.name} {d.plastic.name}
              <span className="figure text-quiet">{d.disc.code}</span>
            </li>
          )
        )
      })}
    </ul>
  )
}

/** What a trial says whose card is behind, or of which something waits here: weighed on this device. */
function WeighedHere({ trialId }: { trialId: string }) {
  const units = useUnits()
  const { view } = useTrial(trialId)
  const { reading, settlings, working, share } = useRating(view)
  if (!view) return null
  if (!reading) return <p className="py-4 text-quiet">{weighing(view.throws.length, share)}</p>
  const names = trialNames(view.discs)
  const name = (code: string) => names.get(code) ?? code
  return (
    <Standing
      working={working}
      flights={reading.corrected.map((c) => ({
        ...c,
        name: name(c.disc),
        carryM: c.features.carryM,
      }))}
      sentences={nearestOpen(statements(reading.outcome, reading.ranks, wordingOf(units, name), settlings))}
    />
  )
}

interface StandingProps {
  readonly flights: readonly {
    readonly disc: string
    readonly name: string
    readonly carryM: number
    readonly path: readonly PlanPoint[]
    readonly band: readonly { readonly x: number; readonly low: number; readonly high: number }[]
  }[]
  readonly sentences: ComponentProps<typeof Sentences>['list']
  readonly working?: boolean
}

/** The corrected flights in small, and the sentences nearest to a question still open. */
function Standing({ flights, sentences, working = false }: StandingProps) {
  const look = looksOf(flights.map((c) => c.disc))
  const ends = flights.flatMap((c) => c.band.flatMap((b) => [b.low, b.high]))
  return (
    <div className="grid gap-3">
      <Strip
        height={164}
        names={flights.map((c) => c.name)}
        label={`Corrected flights of ${flights.length} discs, seen from above`}
        fade="up"
        reach={{
          down: 1.02 * Math.max(...flights.map((c) => c.carryM)),
          left: Math.max(6, ...ends),
          right: Math.max(6, ...ends.map((e) => -e)),
        }}
      >
        {flights.map((c) => (
          <Band
            key={c.disc}
            hue={hueOf(look(c.disc))}
            band={c.band.map((b) => ({ down: b.x, low: b.low, high: b.high }))}
          />
        ))}
        {flights.map((c) => (
          <Flight
            key={c.disc}
            hue={hueOf(look(c.disc))}
            dashes={dashesOf(look(c.disc))}
            path={c.path.map((p) => ({ down: p.x, left: p.y }))}
          />
        ))}
        <EndLabels
          ends={flights.map((c) => {
            const end = c.path[c.path.length - 1]!
            return { at: { down: end.x, left: end.y }, hue: hueOf(look(c.disc)), words: c.name }
          })}
        />
      </Strip>
      <Sentences list={sentences} working={working} />
    </div>
  )
}
