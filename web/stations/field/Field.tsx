import { useState } from 'react'
import type { MouseEvent } from 'react'
import { useSearchParams } from 'react-router'
import { fadeSide } from '../../../core/flight/hand.ts'
import { aimedWords } from '../../../core/throw/words.ts'
import type { Throw } from '../../../contract/trials.ts'
import { isSimulated } from '../../../core/throw/simulated.ts'
import { useKnown, useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, TroubleNote, Unanswered, WaitingNote } from '../../parts/Card.tsx'
import { useRating } from '../../workers/rating.ts'
import type { RatingState } from '../../workers/rating.ts'
import { CallCard } from './CallCard.tsx'
import { Cautions } from './Cautions.tsx'
import type { draftLine, Meant, Seen, FieldStanding } from './draft.ts'
import { landingOf } from './draft.ts'
import { FieldStrip } from './FieldStrip.tsx'
import { LandedLine } from './LandedLine.tsx'
import { NextCard, UpNext } from './NextCard.tsx'
import { Notices } from './Notices.tsx'
import { RunLine } from './RunLine.tsx'
import { StandingsPanel } from './Standings.tsx'
import { ThrownList } from './ThrownList.tsx'
import { TurnsDialog } from './TurnsDialog.tsx'
import { useForecast, usePathTo } from './useForecast.ts'
import { useLogging } from './useLogging.ts'
import type { LoggingProps } from './useLogging.ts'
import { WindAir } from './WindAir.tsx'
import { WindLine } from './WindLine.tsx'
import { Offered } from '../../parts/Offered.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { looksById } from '../../strip/hues.ts'
import type { Look } from '../../strip/hues.ts'

export default function Field({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  const rating = useRating(view)
  // what is expected of the next throw leans on all that is known
  const known = useKnown(view)
  const together = useRating(known && known.sheet.length > 0 ? view : undefined, known, ' with all')
  // where it should land moves a little once all is known; the angle that is asked for must not move under a throw
  const expects = together.reading ? together : rating
  const asks = known?.sheet.length === 0 || together.error ? rating : together
  const [params] = useSearchParams()
  if (error && !view) return <TroubleNote error={error} />
  if (!view) return <WaitingNote what="the trial" />
  if (view.throwers.length === 0)
    return (
      <Empty
        title="Who throws?"
        action={
          <StationLink at="settings" className={buttonLook('primary')}>
            Add a thrower
          </StationLink>
        }
      >
        A throw needs to know whose it is: the hand decides which side is the fade side.
      </Empty>
    )
  if (view.discs.length === 0)
    return (
      <Empty title="The discs of this trial are not on the shelf">
        Put them back on the shelf, or open another trial from the bench.
      </Empty>
    )
  const edited = [...view.throws, ...view.takenBack].find((t) => t.id === params.get('edit'))
  return (
    <FieldLog
      key={edited?.id ?? 'new'}
      view={view}
      rating={rating}
      expects={expects}
      asks={asks}
      edited={edited}
    />
  )
}

/** A button that was pressed by hand gives the focus back: the next Enter keeps the throw and presses nothing again. */
function letGo({ detail, target }: MouseEvent) {
  const button = (target as HTMLElement).closest<HTMLElement>('button, [role="radio"]')
  if (detail > 0 && button && button === document.activeElement && !button.hasAttribute('aria-haspopup'))
    button.blur()
}

interface FieldLogProps extends LoggingProps {
  /** What is expected of the next throw comes from here. */
  readonly expects: RatingState
}

function FieldLog(props: FieldLogProps) {
  const { view, rating, expects, edited } = props
  const { discs } = view
  const logged = useLogging(props)
  const { state, next, name, line, thrower, arms, pauses, devices, live, listening } = logged
  const { see, stand, turn, clock, angle, leave, dispatch } = logged.do
  const { session, standing, seen } = state
  const { queue, meant } = next
  /** On a phone the landing is tapped; its figures are typed only when asked for. */
  const [typing, setTyping] = useState(false)
  const [windOpen, setWindOpen] = useState(false)
  const look = looksById(discs)(meant.discId)
  if (!line)
    return (
      <Empty title="A disc of this trial is not on the shelf">
        Put it back on the shelf, or open another trial from the bench.
      </Empty>
    )
  const fade = fadeSide(thrower.hand, standing.stroke)
  const landing = landingOf(seen)
  return (
    <div
      onClick={letGo}
      className="grid gap-3 p-3 phone:flex phone:flex-col phone:gap-2 phone:p-0 phone:pb-24 across:grid across:grid-cols-[minmax(0,1fr)_19rem] across:content-start across:gap-x-3 across:pb-16 across:*:col-start-2 md:grid-cols-[16.25rem_minmax(0,1fr)] xl:h-[calc(100dvh-3.25rem)] xl:min-h-[44rem] xl:grid-cols-[16.25rem_minmax(0,1fr)_18.5rem] xl:grid-rows-1 desk:p-4"
    >
      <WhatNext view={view} edited={edited} logged={logged} />
      <div className="flex min-h-0 min-w-0 flex-col gap-3 phone:contents">
        <Cautions
          day={session.day}
          temperatureC={session.temperatureC}
          fresh={logged.lastThrown === undefined}
          arms={arms}
        />
        <WindLine
          {...{ standing, listening }}
          throws={view.throws}
          open={windOpen}
          onOpen={setWindOpen}
          onStanding={stand}
          onTurn={turn}
        />
        <StripCard {...{ view, rating, expects, line, fade, meant, seen, see, look }} />
        <LandedLine landing={landing} typing={typing} onTyping={setTyping} onLanding={see} />
        <WindAir
          {...{ standing, session, listening, live }}
          above={windOpen}
          onStanding={stand}
          onTurn={turn}
          onListening={logged.do.setListening}
          onSession={(s) => {
            dispatch({ type: 'outing', session: s })
            void outbox.put('sessions', s)
          }}
        />
        <Offered kind="sessions" ids={[session.id]} className="p-4 phone:order-2 phone:mx-3" />
        <Notices
          {...{ view, name, session, rating }}
          wind={{
            leg: standing.leg,
            windAlongMps: logged.blows.alongMps,
            windAcrossMps: logged.blows.acrossMps,
          }}
          pausedSince={pauses.since}
          onGoOn={pauses.goOn}
          waitedSince={logged.resumed && landing ? state.landedAt : undefined}
          simulated={landing !== null && isSimulated(seen)}
          onClear={logged.do.clear}
          turnDue={
            !edited && logged.lastThrown !== undefined && (queue.planned[0]?.leg ?? logged.leg) !== logged.leg
          }
          planDone={
            !edited && view.trial.plan !== null && queue.planned.length === 0 && view.throws.length > 0
          }
          onTurn={turn}
          onAgain={(t) => dispatch({ type: 'chosen', meant: { discId: t.discId, hyzerDeg: t.hyzerDeg } })}
        />
        <StandingsPanel view={view} rating={rating} name={name} landed={landing !== null}>
          {!edited && <ThrownList {...{ view, name }} />}
        </StandingsPanel>
      </div>
      <CallCard
        {...{ seen, typing, fade, look, see, angle, clock }}
        asked={meant.hyzerDeg}
        timing={state.timing}
        last={logged.lastThrown}
        onAir={(word) => dispatch({ type: 'called', word })}
        onRange={() => void devices.range()}
        bearingDeg={
          logged.place?.bearingDeg == null
            ? undefined
            : (logged.place.bearingDeg + (logged.leg === 'out' ? 0 : 180)) % 360
        }
        thrown={view.throws.length}
        onKeep={() => void logged.do.keep()}
        onTakeBack={() => void logged.do.takeBack()}
        onCancel={edited && leave}
      />
    </div>
  )
}

interface WhatNextProps {
  readonly view: TrialView
  readonly edited: Throw | undefined
  readonly logged: ReturnType<typeof useLogging>
}

/** The throw to make, how the run goes, and what follows. */
function WhatNext({ view, edited, logged }: WhatNextProps) {
  const { trial, discs } = view
  const { name, next, warmingUp, byTurns, turns } = logged
  const { dispatch } = logged.do
  const { queue, meant } = next
  const { standing } = logged.state
  const [choosing, setChoosing] = useState(false)
  const sameLine = trial.plan?.protocol === 'same-line'
  return (
    <div className="grid min-h-0 min-w-0 content-start gap-3 phone:contents xl:grid-rows-[auto_auto_minmax(0,1fr)]">
      <NextCard
        {...{ discs, name, sameLine, meant, standing, warmingUp }}
        throwers={view.throwers}
        angles={trial.hyzerDegs}
        lineAngle={next.lineAngle}
        heading={headingOf(view, edited, warmingUp ? queue.warmUps.length : undefined, logged.blowing)}
        onWarm={() => dispatch({ type: 'warmedUp' })}
        aimed={aimedWords(logged.state.seen.aimDeg)}
        brief={
          warmingUp
            ? `Warm-up, ${queue.warmUps.length} to go`
            : edited
              ? `throw ${view.throws.findIndex((t) => t.id === edited.id) + 1}, edited`
              : `${throwOf(view).replace('Throw ', '')}, ${logged.leg}`
        }
        turns={byTurns.length > 1 ? byTurns.map((t) => t.name.split(' ')[0]!) : []}
        onTurns={() => setChoosing(true)}
        onMeant={(change) => dispatch({ type: 'asked', change })}
        onStanding={logged.do.stand}
      />
      {!edited && (
        <RunLine
          left={queue.planned}
          onAgain={logged.do.again}
          onLater={logged.do.later}
          {...{ view, arms: logged.arms, pauses: logged.pauses }}
          onVolunteer={() => void logged.devices.volunteer()}
        />
      )}
      {next.tellingError.error && <Unanswered asked={next.tellingError} />}
      {!edited && (
        <UpNext
          {...{ discs, name, telling: logged.telling, sameLine }}
          cells={
            next.best
              ? next.best.slice(1, 5)
              : queue.next
                  .filter((c) => c.disc !== meant.discId || (!sameLine && c.hyzerDeg !== meant.hyzerDeg))
                  .slice(0, 4)
          }
          onTelling={logged.do.setTelling}
          planned={queue.planned.length > 0}
          onPick={(c) =>
            dispatch({
              type: 'chosen',
              meant: { discId: c.disc, ...(!sameLine && { hyzerDeg: c.hyzerDeg }) },
            })
          }
        />
      )}
      {choosing && <TurnsDialog throwers={view.throwers} turns={turns} onClose={() => setChoosing(false)} />}
    </div>
  )
}

/** Which throw of how many comes next; beyond a plan it is said how far. */
function throwOf({ trial: { plannedThrows }, throws }: TrialView): string {
  const at = throws.length + 1
  if (plannedThrows === 0) return `Throw ${at}`
  return at <= plannedThrows
    ? `Throw ${at} of ${plannedThrows}`
    : `Throw ${at}, ${at - plannedThrows} more than planned`
}

const windWords = (along: number | null) =>
  along === null || along === 0 ? 'wind not noted' : along < 0 ? 'into the wind' : 'with the wind'

/** What is being thrown: which throw of how many, and how the wind stands to it. */
function headingOf(
  view: TrialView,
  edited: Throw | undefined,
  warmUps: number | undefined,
  { windAlongMps }: FieldStanding,
): string {
  if (edited) return `Changing throw ${view.throws.findIndex((t) => t.id === edited.id) + 1}`
  const wind = windWords(windAlongMps)
  if (warmUps !== undefined) return `Warm-up, ${warmUps} to go; it does not count · ${wind}`
  return `${throwOf(view)} · ${wind}`
}

interface StripCardProps {
  readonly view: TrialView
  readonly rating: RatingState
  readonly expects: RatingState
  readonly line: ReturnType<typeof draftLine>
  readonly fade: 'left' | 'right'
  readonly meant: Meant
  readonly seen: Seen
  readonly see: (change: Partial<Seen>) => void
  readonly look: Look
}

function StripCard({
  view,
  rating: { reading, error, again },
  expects,
  line,
  fade,
  meant,
  seen,
  see,
  look,
}: StripCardProps) {
  const forecast = useForecast(expects.key, line, expects.reading)
  const path = usePathTo(expects.key, landingOf(seen) ? line : undefined, expects.reading)
  const silent = [{ error, again }, forecast, path].find((asked) => asked.error)
  return (
    <>
      <FieldStrip
        {...{ view, reading, fade, meant, seen, see, look }}
        forecast={forecast.value}
        path={path.value}
        sign={fade === 'right' ? 1 : -1}
      />
      {silent && (
        <Card className="px-4 phone:order-3 phone:mx-3">
          <Unanswered asked={silent} />
        </Card>
      )}
    </>
  )
}
