import { Download, Upload } from 'lucide-react'
import { useMemo, useState } from 'react'
import type { ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import { statements } from '../../../core/judge/statements.ts'
import { Ladder } from '../../charts/Ladder.tsx'
import { LimitLine } from '../../charts/LimitLine.tsx'
import { Sentences } from '../../charts/Sentences.tsx'
import { READ_FROM, disagreements } from '../../../core/rating/known.ts'
import type { ReadFrom } from '../../../core/rating/known.ts'
import { useKnown, useShortThrows, useTrial } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
import { outbox } from '../../data/outbox.ts'
import { percent, wordingOf } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { Card, Empty, Trouble, Unanswered, Waiting } from '../../parts/Card.tsx'
import { say } from '../../parts/Toasts.tsx'
import { questionOf, useAnswer } from './useAnswer.ts'
import type { TrialView } from '../../data/hooks.ts'
import type { RatingState } from '../../workers/rating.ts'
import type { Reading } from '../../workers/rating.worker.ts'
import { useRating } from '../../workers/rating.ts'
import { AnswerHead } from './AnswerHead.tsx'
import { Picture } from './pictures/Picture.tsx'
import { Said } from './Said.tsx'
import { isView, Tabs } from './Tabs.tsx'
import type { ViewName } from './Tabs.tsx'
import { AskedView } from './views/AskedView.tsx'
import { LikenessView } from './views/LikenessView.tsx'
import { PairsView } from './views/PairsView.tsx'
import { ThrowersView } from './views/ThrowersView.tsx'
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

/** What the throws of a trial say: the answer to its question, and every view of what stands behind it. */
export default function Readout({ trialId, view: named = 'answer' }: { trialId: string; view?: string }) {
  const { view, error } = useTrial(trialId)
  if (!isView(named))
    return <Empty title="There is no such view">The views of a readout are listed above its answer.</Empty>
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the trial" />
  return <Rated view={view} shown={named} />
}

/** A trial once it is known: rated, from its own throws or from all that is known. */
function Rated({ view, shown }: { view: TrialView; shown: ViewName }) {
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
  const readFrom = others > 0 && (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
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
      <p className="text-note text-quiet">
        {from === 'this trial'
          ? `${others} throws of other trials know these discs too.`
          : `With ${others} throws of other trials; each of their days has a habit and an aim line of its own.`}
      </p>
    </div>
  )
  return (
    <Read
      {...{ view, shown, reading, ratingKey, settlings, limit, working, share, readFrom }}
      apart={
        alone.reading && together.reading
          ? disagreements(alone.reading.outcome, together.reading.outcome)
          : undefined
      }
    />
  )
}

interface ReadProps extends Pick<RatingState, 'settlings' | 'limit' | 'working' | 'share'> {
  readonly view: TrialView
  readonly shown: ViewName
  readonly reading: Reading
  readonly ratingKey: string
  /** Where it is read from, to be changed; nothing where there is only one way. */
  readonly readFrom: ReactNode
  /** Where the trial and all that is known say different things. */
  readonly apart: ReturnType<typeof disagreements> | undefined
}

/** A trial that is rated, as one of its views. */
function Read({
  view,
  shown,
  reading,
  ratingKey,
  settlings,
  limit,
  working,
  share,
  readFrom,
  apart,
}: ReadProps) {
  const units = useUnits()
  const [picked, setPicked] = useState<string>()
  const names = useMemo(() => trialNames(view.discs), [view])
  const short = useShortThrows(view.trial.id)
  const answer = useAnswer(view, ratingKey, reading, names, questionOf(view))
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

  if (view.throws.length === 0 && short.length === 0)
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

  const expected = (trial.plan?.expected ?? []).flatMap(
    (id) => view.discs.find((d) => d.disc.id === id)?.disc.code ?? [],
  )
  const common = { view, reading, ratingKey, names, name, place, working, share }
  return (
    <div className="grid gap-3 p-3 md:p-4">
      <AnswerHead {...{ view, working }} answer={answer.value} small={shown !== 'answer'} />
      <Tabs trialId={trial.id} view={shown} />
      <NotWeighed view={view} leftOut={reading.leftOut} name={name} />
      {shown === 'answer' && (
        <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_22rem] xl:grid-cols-[minmax(0,1fr)_25rem]">
          <div className="grid min-w-0 gap-3">
            {answer.error ? (
              <Card className="p-4">
                <Unanswered asked={answer} />
              </Card>
            ) : (
              answer.value &&
              answer.value.picture.kind !== 'nothing' && (
                <Card className="p-4" label="Picture of the answer">
                  <Picture
                    picture={answer.value.picture}
                    outcome={reading.outcome}
                    {...{ expected, name, place }}
                  />
                </Card>
              )
            )}
            {answer.value && answer.value.besides.length + answer.value.open.length > 0 && (
              <Card className="p-4" label="What else the answer says">
                <Said answer={answer.value} />
              </Card>
            )}
            {trial.plan?.protocol === 'same line' && <SameLine {...{ view, reading, name, place }} />}
            <Expected view={view} reading={reading} name={name} />
          </div>
          <div className="grid min-w-0 gap-3">
            <Card className="p-4" label="What you can say">
              <h2 className="text-lead">What you can say</h2>
              {readFrom && <div className="mt-1 mb-2">{readFrom}</div>}
              <Sentences list={said} working={working} />
              {apart && <Disagreements list={apart} fadeSide={reading.outcome.fadeSide} name={name} />}
              <AimedOff view={view} aims={reading.outcome.aims} />
              <LimitLine limit={limit} />
              {trial.controlDiscId === null && (
                <p className="mt-2 text-note text-quiet">
                  No control disc: a habit of the thrower and a bias shared by all discs cannot be told apart
                  here. The order of the discs does not suffer from it.
                </p>
              )}
            </Card>
            {answer.value?.picture.kind !== 'ladder' && (
              <Card className="p-4" label="Ladder of stability">
                <h2 className="mb-1 text-lead">Stability, most to least</h2>
                <Ladder discs={reading.outcome.discs} name={name} place={place} />
                <p className="mt-1 text-note text-quiet">
                  How far to the fade side it flies on average, a flight of {units.length.show(PER_M, 0)},
                  over hyzer, flat and anhyzer.
                </p>
              </Card>
            )}
          </div>
        </div>
      )}
      {shown !== 'answer' && readFrom}
      {shown === 'flights' && <Flights {...common} picked={undefined} />}
      {shown === 'evidence' && (
        <div className="grid gap-3">
          <Evidence {...{ view, reading, picked, name, place }} onPick={setPicked} />
          <Flights {...common} picked={picked} />
        </div>
      )}
      {shown === 'pairs' && <PairsView {...common} />}
      {shown === 'wind' && <AskedView {...common} question="wind" expected={expected} />}
      {shown === 'arms' && <AskedView {...common} question="arms" oneDisc expected={expected} />}
      {shown === 'likeness' && <LikenessView {...common} />}
      {shown === 'short' && <ShortGames view={view} name={name} />}
      {shown === 'throwers' && <ThrowersView {...common} />}
      {shown === 'throws' && (
        <Card className="min-w-0 p-4" label="Throws">
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
      )}
    </div>
  )
}
