import { useMemo, useReducer, useState } from 'react'
import { useSearchParams } from 'react-router'
import { fadeSide } from '../../../core/flight/hand.ts'
import type { Throw } from '../../../contract/trials.ts'
import { useHolding } from '../../data/hands.ts'
import { useKnown, usePlaces, useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
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
import { legOf, logging } from './logging.ts'
import { NextCard, UpNext } from './NextCard.tsx'
import { Notices } from './Notices.tsx'
import { RunLine } from './RunLine.tsx'
import { StandingsPanel } from './Standings.tsx'
import { startOf } from './start.ts'
import { TurnsDialog } from './TurnsDialog.tsx'
import { useArmsHere } from './useArms.ts'
import { useDevices } from './useDevices.ts'
import { useFieldKeys } from './useFieldKeys.ts'
import { useForecast, usePathTo } from './useForecast.ts'
import { useIntended } from './useIntended.ts'
import { useKeeping } from './useKeeping.ts'
import { useLiveWind } from './useLiveWind.ts'
import { useNext } from './useNext.ts'
import { usePauses } from './usePauses.ts'
import { useTurns } from './useTurns.ts'
import { useWakeLock } from './useWakeLock.ts'
import { WindAir } from './WindAir.tsx'
import { Offered } from '../../parts/Offered.tsx'
import { StationLink } from '../../parts/StationLink.tsx'

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
    <Logging
      key={edited?.id ?? 'new'}
      view={view}
      rating={rating}
      expects={expects}
      asks={asks}
      edited={edited}
    />
  )
}

interface LoggingProps {
  readonly view: TrialView
  readonly rating: RatingState
  /** What is expected of the next throw comes from here. */
  readonly expects: RatingState
  /** What is asked of it, too. */
  readonly asks: RatingState
  readonly edited: Throw | undefined
}

function Logging({ view, rating, expects, asks, edited }: LoggingProps) {
  const { trial, discs } = view
  const [params, setParams] = useSearchParams()
  const telling = params.get('next') === 'telling'
  const [state, dispatch] = useReducer(logging, undefined, () => startOf(view, edited))
  const { session, standing, seen } = state
  const leg = legOf(state)
  /** On a phone the landing is tapped; its figures are typed only when asked for. */
  const [typing, setTyping] = useState(false)
  const [choosing, setChoosing] = useState(false)
  const [listening, setListening] = useState(false)
  const place = usePlaces().find((p) => p.id === session.placeId)
  const live = useLiveWind(listening, session.id, session.place, place?.bearingDeg ?? 0, leg)
  const pauses = usePauses(trial.id, session.day)
  const turns = useTurns(trial.id)
  useWakeLock(pauses.since === undefined)
  const names = useMemo(() => trialNames(discs), [discs])
  const name = (code: string) => names.get(code) ?? code

  // what is expected follows the wind as it blows, in half metres a second, so that it does not tremble
  const half = (v: number) => Math.round(2 * v) / 2
  const blowing: FieldStanding =
    listening && live.now
      ? { ...standing, windAlongMps: half(live.now.alongMps), windAcrossMps: half(live.now.acrossMps) }
      : standing
  const next = useNext(view, state, blowing, telling, rating.reading, asks)
  const { queue, proposed, meant, best } = next
  const lastThrown = view.throws.filter((t) => t.sessionId === session.id && t.id !== edited?.id).at(-1)
  const again =
    lastThrown &&
    (() => dispatch({ type: 'chosen', meant: { discId: lastThrown.discId, hyzerDeg: lastThrown.hyzerDeg } }))
  const warmingUp = !edited && proposed.warmUp === true && meant.discId === proposed.disc
  // stroke, power and thrower follow the plan from throw to throw; within a throw they are the person’s to change
  const step = `${state.kept} ${state.putOff} ${proposed.disc} ${proposed.hyzerDeg}`
  if (!edited && state.followed !== step) {
    const { stroke, power, throwerId } = proposed
    const turn = throwerId ?? (lastThrown && turns.after(lastThrown.throwerId))
    dispatch({
      type: 'followed',
      step,
      change: {
        ...(stroke !== undefined && { stroke }),
        ...(power !== undefined && { power }),
        ...(view.throwers.some((t) => t.id === turn) && { throwerId: turn! }),
      },
    })
  }
  const thrower = view.throwers.find((t) => t.id === standing.throwerId) ?? view.throwers[0]!
  const byTurns = turns.throwerIds.flatMap((id) => view.throwers.find((t) => t.id === id) ?? [])
  const arms = useArmsHere(byTurns.length > 1 ? byTurns : [thrower], session.day)
  const blows =
    listening && live.now ? live.now : { alongMps: standing.windAlongMps, acrossMps: standing.windAcrossMps }
  const devices = useDevices(state, dispatch, meant, thrower, blows)
  const leave = () => setParams({}, { replace: true })
  useIntended(discs, dispatch)
  const { keep, takeBack } = useKeeping({
    ...{ view, state, dispatch, meant, thrower, edited, warmingUp },
    live: listening ? live : undefined,
    onKept: edited ? leave : pauses.goOn,
  })

  const see = (change: Partial<Seen>) =>
    dispatch({ type: 'seen', change, meantDeg: meant.hyzerDeg, discId: meant.discId, at: Date.now() })
  const stand = (change: Partial<FieldStanding>) => dispatch({ type: 'stood', change })
  const later = () => dispatch({ type: 'putOff' })
  const turn = () => dispatch({ type: 'turned' })
  const clock = () => dispatch({ type: 'clocked', at: Date.now() })
  const angle = (by: number) => dispatch({ type: 'angled', by, meantDeg: meant.hyzerDeg })
  const setTelling = (on: boolean) => {
    dispatch({ type: 'restarted' })
    setParams((p) => (on ? p.set('next', 'telling') : p.delete('next'), p), { replace: true })
  }
  const nextThrower = () => {
    const ids = (byTurns.length > 1 ? byTurns : view.throwers).map((t) => t.id)
    stand({ throwerId: ids[(ids.indexOf(thrower.id) + 1) % ids.length]! })
  }
  // whoever only looks on holds nothing
  useHolding(
    trial.id,
    next.logs && !edited ? { ...meant, stroke: standing.stroke, power: standing.power } : undefined,
  )
  const pause = () => (pauses.since === undefined ? pauses.pause() : pauses.goOn())
  useFieldKeys({
    ...{ turn, clock, later, again, pause, nextThrower, angle },
    keep: () => void keep(),
    takeBack: () => void takeBack(),
    range: () => void devices.range(),
    volunteer: () => void devices.volunteer(),
    telling: () => setTelling(!telling),
    count: () => dispatch({ type: 'counted' }),
  })

  const at = discs.findIndex((d) => d.disc.id === meant.discId)
  const line = next.lineFor(meant.hyzerDeg)
  if (!line)
    return (
      <Empty title="A disc of this trial is not on the shelf">
        Put it back on the shelf, or open another trial from the bench.
      </Empty>
    )
  const fade = fadeSide(thrower.hand, standing.stroke)
  const sameLine = trial.plan?.protocol === 'same line'
  const landing = landingOf(seen)
  return (
    <div className="grid gap-3 p-3 max-md:flex max-md:flex-col max-md:gap-2 max-md:p-0 max-md:pb-24 md:grid-cols-[16.25rem_minmax(0,1fr)] xl:h-[calc(100dvh-3.25rem)] xl:min-h-[44rem] xl:grid-cols-[16.25rem_minmax(0,1fr)_18.5rem] xl:grid-rows-1 md:p-4">
      <div className="grid min-h-0 min-w-0 content-start gap-3 max-md:order-1 xl:grid-rows-[auto_auto_minmax(0,1fr)]">
        <NextCard
          {...{ discs, name, sameLine, meant, standing, warmingUp }}
          throwers={view.throwers}
          angles={trial.hyzerDegs}
          lineAngle={next.lineAngle}
          heading={headingOf(view, edited, warmingUp ? queue.warmUps.length : undefined, blowing)}
          turns={byTurns.length > 1 ? byTurns.map((t) => t.name.split(' ')[0]!) : []}
          onTurns={() => setChoosing(true)}
          onMeant={(change) => dispatch({ type: 'asked', change })}
          onStanding={stand}
        />
        {!edited && (
          <RunLine
            left={queue.planned}
            onAgain={again}
            onLater={later}
            {...{ view, arms, pauses }}
            onVolunteer={() => void devices.volunteer()}
          />
        )}
        {next.tellingError.error && <Unanswered asked={next.tellingError} />}
        {!edited && (
          <UpNext
            {...{ discs, name, telling, sameLine }}
            cells={
              best
                ? best.slice(1, 5)
                : queue.next
                    .filter((c) => c.disc !== meant.discId || (!sameLine && c.hyzerDeg !== meant.hyzerDeg))
                    .slice(0, 4)
            }
            onTelling={setTelling}
            planned={queue.planned.length > 0}
            onPick={(c) =>
              dispatch({
                type: 'chosen',
                meant: { discId: c.disc, ...(!sameLine && { hyzerDeg: c.hyzerDeg }) },
              })
            }
          />
        )}
      </div>

      {choosing && <TurnsDialog throwers={view.throwers} turns={turns} onClose={() => setChoosing(false)} />}
      <div className="flex min-h-0 min-w-0 flex-col gap-3 max-md:contents">
        <Cautions
          day={session.day}
          temperatureC={session.temperatureC}
          fresh={lastThrown === undefined}
          arms={arms}
        />
        <StripCard {...{ view, rating, expects, line, fade, meant, seen, see, at }} />
        <LandedLine landing={landing} typing={typing} onTyping={setTyping} />
        <WindAir
          {...{ standing, session, listening, live }}
          onStanding={stand}
          onTurn={turn}
          onListening={setListening}
          onSession={(s) => {
            dispatch({ type: 'outing', session: s })
            void outbox.put('sessions', s)
          }}
        />
        <Offered kind="sessions" ids={[session.id]} className="p-4 max-md:order-2 max-md:mx-3" />
        <Notices
          {...{ view, name, session, rating }}
          wind={listening ? live.now : blows}
          pausedSince={pauses.since}
          onGoOn={pauses.goOn}
          turnDue={!edited && lastThrown !== undefined && (queue.planned[0]?.leg ?? leg) !== leg}
          onTurn={turn}
          onAgain={(t) => dispatch({ type: 'chosen', meant: { discId: t.discId, hyzerDeg: t.hyzerDeg } })}
        />
        <StandingsPanel view={view} rating={rating} name={name} landed={landing !== null} />
      </div>
      <CallCard
        {...{ seen, typing, fade, at, see, angle, clock }}
        asked={meant.hyzerDeg}
        timing={state.timing}
        last={lastThrown}
        onAir={(word) => dispatch({ type: 'called', word })}
        onRange={() => void devices.range()}
        bearingDeg={
          place?.bearingDeg == null ? undefined : (place.bearingDeg + (leg === 'out' ? 0 : 180)) % 360
        }
        thrown={view.throws.length}
        onKeep={() => void keep()}
        onTakeBack={() => void takeBack()}
        onCancel={edited && leave}
      />
    </div>
  )
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
  const { plannedThrows } = view.trial
  return `Throw ${view.throws.length + 1}${plannedThrows > 0 ? ` of ${plannedThrows}` : ''} · ${wind}`
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
  readonly at: number
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
  at,
}: StripCardProps) {
  const forecast = useForecast(expects.key, line, expects.reading)
  const path = usePathTo(expects.key, landingOf(seen) ? line : undefined, expects.reading)
  const silent = [{ error, again }, forecast, path].find((asked) => asked.error)
  return (
    <>
      <FieldStrip
        {...{ view, reading, fade, meant, seen, see, at }}
        forecast={forecast.value}
        path={path.value}
        sign={fade === 'right' ? 1 : -1}
      />
      {silent && (
        <Card className="px-4 max-md:order-3 max-md:mx-3">
          <Unanswered asked={silent} />
        </Card>
      )}
    </>
  )
}
