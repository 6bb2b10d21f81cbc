import { Download, Upload } from 'lucide-react'
import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { statements } from '../../../core/judge/statements.ts'
import { Ladder } from '../../charts/Ladder.tsx'
import { LimitLine } from '../../charts/LimitLine.tsx'
import { Sentences } from '../../charts/Sentences.tsx'
import { READ_FROM, disagreements } from '../../../core/rating/known.ts'
import type { ReadFrom } from '../../../core/rating/known.ts'
import { useKnown, useTrial } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
import { outbox } from '../../data/outbox.ts'
import { percent, wordingOf } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { Card, Empty, Trouble, Unanswered, Waiting } from '../../parts/Card.tsx'
import { say } from '../../parts/Toasts.tsx'
import { useRating } from '../../workers/rating.ts'
import { AimedOff } from './AimedOff.tsx'
import { Disagreements } from './Disagreements.tsx'
import { Evidence } from './Evidence.tsx'
import { Expected } from './Expected.tsx'
import { NotWeighed } from './NotWeighed.tsx'
import { Flights } from './Flights.tsx'
import { SameLine } from './SameLine.tsx'
import { ShortGames } from './ShortGames.tsx'
import { Throws } from './Throws.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { useUnits } from '../../data/preferences.tsx'
import { capital } from '../../../contract/words.ts'
import { PER_M } from '../../../core/flight/side.ts'

const BUTTON_LINK = buttonLook()

export default function Readout({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  const [params, setParams] = useSearchParams()
  const known = useKnown(view)
  const others = known?.sheet.length ?? 0
  const alone = useRating(view)
  const together = useRating(others > 0 ? view : undefined, known, ' with all')
  const from: ReadFrom = others > 0 && params.get('from') === 'all' ? 'all that is known' : 'this trial'
  const {
    key: ratingKey,
    reading,
    settlings,
    limit,
    working,
    share,
    error: ratingError,
    again,
  } = from === 'this trial' ? alone : together
  const units = useUnits()
  const [picked, setPicked] = useState<string>()
  const names = useMemo(() => trialNames(view?.discs ?? []), [view])
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the trial" />
  if (ratingError)
    return (
      <Card className="m-4 p-5">
        <Unanswered asked={{ error: ratingError, again }} />
      </Card>
    )
  if (!reading)
    return (
      <Waiting what={`${view.throws.length} throws${share === undefined ? '' : `, ${percent(share)}`}`} />
    )
  const { trial } = view
  const name = (code: string) => names.get(code) ?? code
  const place = (code: string) => view.discs.findIndex((d) => d.disc.code === code)
  const counted = view.throws.filter((t) => t.counts).length
  const said = statements(reading.outcome, reading.ranks, wordingOf(units, name), settlings)

  const finish = async () => {
    const next = { ...trial, finishedAt: trial.finishedAt === null ? new Date().toISOString() : null }
    await outbox.put('trials', next)
    say(next.finishedAt ? `${trial.name} is finished.` : `${trial.name} is open again.`)
  }

  if (view.throws.length === 0)
    return (
      <Empty
        title={`${trial.name} has no throws yet`}
        action={
          <div className="flex flex-wrap justify-center gap-2">
            <StationLink at="field" params={{ trialId: trial.id }} className={buttonLook('primary')}>
              Throw the first
            </StationLink>
            <StationLink at="readout/import" params={{ trialId: trial.id }} className={BUTTON_LINK}>
              Import a file
            </StationLink>
          </div>
        }
      >
        The readout shows what the throws prove, and how surely, once there are some.
      </Empty>
    )

  return (
    <div className="grid gap-3 p-3 md:p-4 xl:grid-cols-[minmax(0,1fr)_25rem] lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="grid min-w-0 content-start gap-3">
        <Flights {...{ view, reading, ratingKey, working, share, picked, name, place }} />
        <Evidence {...{ view, reading, picked, name, place }} onPick={setPicked} />
        {trial.plan?.protocol === 'same line' && <SameLine {...{ view, reading, name, place }} />}
        <Expected view={view} reading={reading} name={name} />
        <ShortGames view={view} name={name} />
      </div>

      <div className="grid min-w-0 content-start gap-3">
        <NotWeighed view={view} leftOut={reading.leftOut} name={name} />
        <Card className="p-4" label="Ladder of stability">
          <h2 className="mb-1 text-lead">Stability, most to least</h2>
          <Ladder discs={reading.outcome.discs} name={name} place={place} />
          <p className="mt-1 text-note text-quiet">
            How far to the fade side it flies on average, a flight of {units.length.show(PER_M, 0)}, over
            hyzer, flat and anhyzer.
          </p>
        </Card>
        <Card className="p-4" label="What you can say">
          <h2 className="text-lead">What you can say</h2>
          {others > 0 && (
            <div className="mt-1 mb-2">
              <Choice
                label="Read from"
                value={from}
                onChange={(v) => {
                  setParams((p) => (v === 'this trial' ? p.delete('from') : p.set('from', 'all'), p), {
                    replace: true,
                  })
                }}
                options={READ_FROM.map((value) => ({ value, label: capital(value) }))}
              />
              <p className="mt-1 text-note text-quiet">
                {from === 'this trial'
                  ? `${others} throws of other trials know these discs too.`
                  : `With ${others} throws of other trials; each of their days has a habit and an aim line of its own.`}
              </p>
            </div>
          )}
          <Sentences list={said} working={working} />
          {alone.reading && together.reading && (
            <Disagreements
              list={disagreements(alone.reading.outcome, together.reading.outcome)}
              fadeSide={alone.reading.outcome.fadeSide}
              name={name}
            />
          )}
          <AimedOff view={view} aims={reading.outcome.aims} />
          <LimitLine limit={limit} />
          {trial.controlDiscId === null && (
            <p className="mt-2 text-note text-quiet">
              No control disc: a habit of the thrower and a bias shared by all discs cannot be told apart
              here. The order of the discs does not suffer from it.
            </p>
          )}
        </Card>
      </div>

      <Card className="min-w-0 p-4 lg:col-span-2" label="Throws">
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <h2 className="mr-auto text-lead">
            Throws{' '}
            <span className="font-sans text-note font-normal text-quiet">
              {view.throws.length - counted} left out, each with its reason
            </span>
          </h2>
          <a href={`/api/trials/${trial.id}/throws.csv`} download className={BUTTON_LINK}>
            <Download size={16} aria-hidden /> Export CSV
          </a>
          <StationLink at="readout/import" params={{ trialId: trial.id }} className={BUTTON_LINK}>
            <Upload size={16} aria-hidden /> Import CSV
          </StationLink>
          <Button onClick={() => void finish()}>
            {trial.finishedAt === null ? 'Call it finished' : 'Open it again'}
          </Button>
        </div>
        <Throws view={view} outcome={reading.outcome} name={name} />
      </Card>
    </div>
  )
}
