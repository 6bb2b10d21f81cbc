import { looksOf } from '../../strip/hues.ts'
import { useMemo, useRef } from 'react'
import { useSearchParams } from 'react-router'
import { READ_FROM, disagreements } from '../../../core/rating/known.ts'
import type { ReadFrom } from '../../../core/rating/known.ts'
import { trialNames } from '../../../contract/naming.ts'
import { capital } from '../../../contract/words.ts'
import { useKnown, useShortThrows, useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { percent } from '../../data/units.ts'
import { buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, TroubleNote, Unanswered, WaitingNote } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { SaveView } from '../../parts/SaveView.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { useRating } from '../../workers/rating.ts'
import { AnswerHead } from './AnswerHead.tsx'
import { MovedCard } from './Moved.tsx'
import { NotWeighedHere } from './NotWeighed.tsx'
import { Reasons } from './Why.tsx'
import { Slips } from './Slips.tsx'
import { Tabs } from './Tabs.tsx'
import { TurnedWinds } from './TurnedWinds.tsx'
import { answeredFirst, useAnswer } from '../../workers/useAnswer.ts'
import type { ViewProps } from './views/viewProps.ts'
import { isView, VIEWS } from './views/views.tsx'
import type { ViewName } from './views/views.tsx'

/** What the throws of a trial say: the answer to its question, and every view of what stands behind it. */
export default function Readout({ trialId, view: named = 'answer' }: { trialId: string; view?: string }) {
  const { view, error } = useTrial(trialId)
  if (!isView(named))
    return <Empty title="There is no such view">The views of a readout are listed above its answer.</Empty>
  if (error && !view) return <TroubleNote error={error} />
  if (!view) return <WaitingNote what="the trial" />
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
      <WaitingNote what={`${view.throws.length} throws${share === undefined ? '' : `, ${percent(share)}`}`} />
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

interface ReadProps extends Omit<ViewProps, 'names' | 'name' | 'look' | 'expected' | 'answer'> {
  readonly shown: ViewName
}

/** A trial that is rated: its answer, and one of its views. */
function Read({ shown, ...read }: ReadProps) {
  const { view, reading, ratingKey, working, share } = read
  const content = useRef<HTMLDivElement>(null)
  const names = useMemo(() => trialNames(view.discs), [view])
  const short = useShortThrows(view.trial.id)
  const answer = useAnswer(view, ratingKey, reading, names, answeredFirst(view))
  const { trial } = view
  if (view.throws.length === 0 && short.length === 0)
    return (
      <Empty
        title={`${trial.name} has no throws yet`}
        action={
          <div className="flex flex-wrap justify-center gap-2">
            <StationLink at="field" params={{ trialId: trial.id }} className={buttonLook('primary')}>
              Throw the first
            </StationLink>
            <StationLink at="readout/import" params={{ trialId: trial.id }} className={buttonLook()}>
              Import a file
            </StationLink>
          </div>
        }
      >
        The readout shows what the throws prove, and how surely, once there are some.
      </Empty>
    )

  const codeOf = (id: string) => view.discs.find((d) => d.disc.id === id)?.disc.code
  const { show: Shown, words } = VIEWS[shown]
  const isAnswer = shown === 'answer'
  const name = (code: string) => names.get(code) ?? code
  const look = looksOf(view.discs.map((d) => d.disc.code))
  return (
    <Reasons value={{ view, reading, ratingKey, name, look }}>
      <div ref={content} className="grid gap-3 p-3 md:p-4">
        <AnswerHead
          {...{ view, working }}
          answer={answer.value}
          first={reading.firstFrom === undefined ? undefined : { throws: reading.firstFrom, share }}
          small={!isAnswer}
        />
        {isAnswer && answer.value && reading.firstFrom === undefined && (
          <MovedCard key={trial.id} view={view} answer={answer.value} />
        )}
        <div className="flex min-w-0 items-end gap-3" data-about="view">
          <Tabs trialId={trial.id} view={shown} />
          <SaveView of={content} name={`${trial.name}, ${words.toLowerCase()}`} />
        </div>
        <NotWeighedHere view={view} leftOut={reading.leftOut} name={name} />
        <TurnedWinds {...{ view, reading, ratingKey, names }} answer={answer.value} />
        <Slips {...{ view, reading, ratingKey, name }} />
        {!isAnswer && read.readFrom}
        <Shown
          {...read}
          names={names}
          name={name}
          look={look}
          expected={(trial.plan?.expected ?? []).flatMap((id) => codeOf(id) ?? [])}
          answer={answer}
        />
      </div>
    </Reasons>
  )
}
