import { useMemo, useRef, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { Link, useSearchParams } from 'react-router'
import { fadeSide } from '../../../core/flight/hand.ts'
import { wholeDegrees } from '../../../core/judge/sameLine.ts'
import { LOGGED_WIND_SD } from '../../../core/rating/evidence.ts'
import { SHEET_RANGE } from '../../../core/formats/sheet.ts'
import type { RangeReport, VolunteerReport } from '../../../contract/devices.ts'
import type { Throw } from '../../../contract/trials.ts'
import { ask, read } from '../../data/api.ts'
import { usePlaces, useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../data/naming.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { aside } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, Trouble, Waiting } from '../../parts/Card.tsx'
import { say, sayWrong } from '../../parts/Toasts.tsx'
import { useRating } from '../../workers/rating.ts'
import type { RatingState } from '../../workers/rating.ts'
import { Calls } from './Calls.tsx'
import { Cautions } from './Cautions.tsx'
import { draftLine, NOTHING_SEEN, seenOf, toThrow, WARM_UP, WHY_NOT } from './draft.ts'
import type { Meant, Seen, Standing } from './draft.ts'
import { FieldStrip } from './FieldStrip.tsx'
import { NextCard, UpNext } from './NextCard.tsx'
import { PathFile } from './PathFile.tsx'
import { useArms } from './useArms.ts'
import { useForecast, useLineAngle, usePathTo, useTelling } from './useForecast.ts'
import { Notices } from './Notices.tsx'
import { outingOf, startOf } from './outing.ts'
import { RunLine } from './RunLine.tsx'
import { Standings } from './Standings.tsx'
import { TurnsDialog } from './TurnsDialog.tsx'
import { TypedLanding } from './TypedLanding.tsx'
import { useLiveWind } from './useLiveWind.ts'
import { usePauses } from './usePauses.ts'
import { useQueue } from './useQueue.ts'
import { useTurns } from './useTurns.ts'
import type { Facing } from './useLiveWind.ts'
import { useWakeLock } from './useWakeLock.ts'
import { WindAir } from './WindAir.tsx'

export default function Field({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  const rating = useRating(view)
  const [params] = useSearchParams()
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the trial" />
  if (view.throwers.length === 0)
    return (
      <Empty
        title="Who throws?"
        action={
          <Link to="/settings" className={buttonLook('primary')}>
            Add a thrower
          </Link>
        }
      >
        A throw needs to know whose it is: the hand decides which side is the fade side.
      </Empty>
    )
  const edited = [...view.throws, ...view.takenBack].find((t) => t.id === params.get('edit'))
  return <Logging key={edited?.id ?? 'new'} view={view} rating={rating} edited={edited} />
}

interface LoggingProps {
  readonly view: TrialView
  readonly rating: RatingState
  readonly edited: Throw | undefined
}

/** Keys that belong to a control while it has the focus. */
const onControl = (e: KeyboardEvent) =>
  (e.target as HTMLElement | null)?.closest(
    'button, a, input, select, [role="radiogroup"], [role="dialog"]',
  ) != null

function Logging({ view, rating, edited }: LoggingProps) {
  const { trial } = view
  const units = useUnits()
  const [params, setParams] = useSearchParams()
  const telling = params.get('next') === 'telling'
  const [session, setSession] = useState(
    () => (edited && view.sessions.find((s) => s.id === edited.sessionId)) ?? outingOf(view),
  )
  const [standing, setStanding] = useState(() => startOf(view, edited, session))
  const [seen, setSeen] = useState<Seen>(() => (edited ? seenOf(edited) : NOTHING_SEEN))
  const [asked, setAsked] = useState<Partial<Meant>>(() =>
    edited ? { discId: edited.discId, hyzerDeg: edited.hyzerDeg } : {},
  )
  const [skipped, setSkipped] = useState(0)
  /** On a phone the landing is tapped; its figures are typed only when asked for. */
  const [typing, setTyping] = useState(false)
  /** Which way the thrower faces; the anemometer knows only the aim line. */
  const [facing, setFacing] = useState<Facing>(() => ((standing.windAlongMps ?? -1) > 0 ? 'back' : 'out'))
  const [listening, setListening] = useState(false)
  /** When the stopwatch was started, ms; and when a landing was first put down. */
  const [startedAt, setStartedAt] = useState<number>()
  const [timing, setTiming] = useState(false)
  const landedAt = useRef<number>(undefined)
  const places = usePlaces()
  const place = places.find((p) => p.name === session.place)
  const live = useLiveWind(listening, session.id, session.place, place?.bearingDeg ?? 0, facing)
  const [choosing, setChoosing] = useState(false)
  const pauses = usePauses(trial.id, session.day)
  const turns = useTurns(trial.id)
  useWakeLock(pauses.since === undefined)

  const lastThrown = view.throws.filter((t) => t.sessionId === session.id && t.id !== edited?.id).at(-1)
  const again = lastThrown && (() => setAsked({ discId: lastThrown.discId, hyzerDeg: lastThrown.hyzerDeg }))
  const later = () => {
    setAsked({})
    setSkipped((k) => k + 1)
  }
  const names = useMemo(() => trialNames(view.discs), [view.discs])
  const name = (code: string) => names.get(code) ?? code
  const somebody = view.discs[0]
  const standingLine =
    somebody &&
    draftLine(
      somebody,
      view.throwers.find((t) => t.id === standing.throwerId) ?? view.throwers[0]!,
      session,
      { discId: somebody.disc.id, hyzerDeg: 0 },
      standing,
      NOTHING_SEEN,
    )
  const told = useTelling(
    trial.id,
    telling,
    standingLine,
    view.discs.map((d) => d.disc.code),
    trial.hyzerDegs,
    trial.plan?.protocol ?? 'same release',
    rating.reading,
  )
  const best = told?.flatMap(({ code, hyzerDeg }) => {
    const disc = view.discs.find((d) => d.disc.code === code)?.disc.id
    return disc === undefined ? [] : [{ disc, hyzerDeg }]
  })
  const queue = useQueue(view, session.id, best)
  const proposed = queue.next[skipped % queue.next.length]!
  const discId = asked.discId ?? proposed.disc
  const at = view.discs.findIndex((d) => d.disc.id === discId)
  const disc = view.discs[at]
  const thrower = view.throwers.find((t) => t.id === standing.throwerId) ?? view.throwers[0]!
  // what is expected follows the wind as it blows, in half metres a second, so that it does not tremble
  const half = (v: number) => Math.round(2 * v) / 2
  const blowing: Standing =
    listening && live.now
      ? { ...standing, windAlongMps: half(live.now.alongMps), windAcrossMps: half(live.now.acrossMps) }
      : standing
  const lineFor = (hyzerDeg: number) =>
    disc && draftLine(disc, thrower, session, { discId, hyzerDeg }, blowing, seen)
  const sameLine = trial.plan?.protocol === 'same line'
  const lineAngle = useLineAngle(trial.id, sameLine, lineFor(0), rating.reading)
  const meant: Meant = {
    discId,
    hyzerDeg:
      asked.hyzerDeg ??
      (lineAngle?.found && proposed.warmUp !== true ? wholeDegrees(lineAngle.hyzerRad) : proposed.hyzerDeg),
  }
  const warmingUp = !edited && proposed.warmUp === true && meant.discId === proposed.disc
  // stroke, power and thrower follow the plan from throw to throw; within a throw they are the person’s to change
  const step = `${view.throws.length} ${skipped} ${proposed.disc} ${proposed.hyzerDeg}`
  const [followed, setFollowed] = useState<string>()
  if (!edited && followed !== step) {
    setFollowed(step)
    const { stroke, power, throwerId } = proposed
    const turn = throwerId ?? (lastThrown && turns.after(lastThrown.throwerId))
    const known = view.throwers.some((t) => t.id === turn)
    if (stroke !== undefined || power !== undefined || known)
      setStanding((s) => ({
        ...s,
        ...(stroke !== undefined && { stroke }),
        ...(power !== undefined && { power }),
        ...(known && { throwerId: turn! }),
      }))
  }
  const fade = fadeSide(thrower.hand, standing.stroke)
  const line = lineFor(meant.hyzerDeg)
  const arms = useArms(
    turns.throwerIds.length > 1
      ? turns.throwerIds.flatMap((id) => view.throwers.find((t) => t.id === id) ?? [])
      : [thrower],
  )

  const see = (change: Partial<Seen>) => {
    if (change.landing && !seen.landing) {
      landedAt.current = Date.now()
      // what was asked of a throw that has landed no longer follows the wind
      setAsked((a) => ({ ...a, hyzerDeg: a.hyzerDeg ?? meant.hyzerDeg }))
    }
    setSeen((s) => ({ ...s, ...change }))
  }
  const stand = (change: Partial<Standing>) => setStanding((s) => ({ ...s, ...change }))

  const keep = async () => {
    const released = startedAt ?? (landedAt.current ?? Date.now()) - NOTICED_AFTER_MS
    // nothing was heard while it flew: what blows now is the best there is
    const blows = live.now && { ...live.now, sdMps: LOGGED_WIND_SD }
    const wind = listening ? (live.of(released, seen.hangS) ?? blows) : undefined
    const logged = wind && {
      windAlongMps: tenth(wind.alongMps),
      windAcrossMps: tenth(wind.acrossMps),
      windSdMps: tenth(wind.sdMps),
    }
    const warm = warmingUp && seen.counts ? { counts: false, whyNot: WARM_UP } : {}
    const drawn = toThrow(trial.id, meant, { ...standing, ...logged }, { ...seen, ...warm }, thrower, edited)
    if (!drawn.ok) return sayWrong(drawn.why)
    if (!view.sessions.some((s) => s.id === session.id))
      await outbox.put(`/api/sessions/${session.id}`, session)
    await outbox.put(`/api/throws/${drawn.row.id}`, drawn.row)
    if (edited) {
      say('The throw was changed.')
      setParams({}, { replace: true })
      return
    }
    pauses.goOn()
    setSeen(NOTHING_SEEN)
    setAsked({})
    setSkipped(0)
    setStartedAt(undefined)
    setTiming(false)
    landedAt.current = undefined
  }
  const time = () => {
    const now = Date.now()
    if (!timing) {
      setStartedAt(now)
      setTiming(true)
      return
    }
    setTiming(false)
    const [least, most] = SHEET_RANGE.hangS
    see({ hangS: tenth(Math.min(most, Math.max(least, (now - startedAt!) / 1000))) })
  }
  const letVolunteerThrow = async () => {
    try {
      const [alongMps, acrossMps] = listening
        ? [live.now?.alongMps ?? null, live.now?.acrossMps ?? null]
        : [standing.windAlongMps, standing.windAcrossMps]
      const thrown = await ask<VolunteerReport>('/api/devices/volunteer', {
        discId: meant.discId,
        throwerId: thrower.id,
        stroke: standing.stroke,
        hyzerDeg: meant.hyzerDeg,
        power: standing.power,
        windAlongMps: alongMps,
        windAcrossMps: acrossMps,
        temperatureC: session.temperatureC,
        altitudeM: session.altitudeM,
      })
      setStartedAt(Date.now() - 1000 * thrown.hangS)
      see({
        landing: { carryM: thrown.carryM, rightM: thrown.rightM },
        mid: null,
        hangS: thrown.hangS,
        hyzerCalledDeg: thrown.hyzerCalledDeg,
        path: thrown.path,
        notes: { ...seen.notes, thrown_by: 'simulated volunteer' },
      })
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  const range = async () => {
    if (!seen.landing) return sayWrong('Tap about where it lies first; the range finder then measures it.')
    const { carryM, rightM } = seen.landing
    try {
      const query = new URLSearchParams({ downM: String(carryM), rightM: String(rightM) })
      const found = await read<RangeReport>(`/api/devices/range-finder?${query}`)
      see({ landing: { carryM: found.carryM, rightM: found.rightM } })
      say(
        `${units.length.show(found.range.distanceM)} at ${Math.abs(found.range.bearingDeg)}° ${found.range.bearingDeg < 0 ? 'left' : 'right'} of the line. ${found.device}.`,
      )
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  const takeBack = async () => {
    const last = view.throws[view.throws.length - 1]
    if (!last) return
    const row = { ...last, takenBackAt: new Date().toISOString() }
    await outbox.put(`/api/throws/${row.id}`, row)
    say(`Throw ${view.throws.length} was taken back.`, {
      label: 'Restore',
      run: () => void outbox.put(`/api/throws/${row.id}`, { ...row, takenBackAt: null } as Throw),
    })
  }
  const turnRound = () => {
    setFacing((f) => (f === 'out' ? 'back' : 'out'))
    setStanding((s) => ({
      ...s,
      windAlongMps: s.windAlongMps === null ? null : -s.windAlongMps,
      windAcrossMps: s.windAcrossMps === null ? null : -s.windAcrossMps,
    }))
  }
  const setTelling = (on: boolean) => {
    setAsked({})
    setSkipped(0)
    setParams((p) => (on ? p.set('next', 'telling') : p.delete('next'), p), { replace: true })
  }
  const angle = (by: number) =>
    setSeen((s) => ({
      ...s,
      hyzerCalledDeg: Math.max(-45, Math.min(45, (s.hyzerCalledDeg ?? meant.hyzerDeg) + by)),
    }))

  useHotkeys('enter', (e) => !onControl(e) && void keep(), { enableOnFormTags: ['slider'] })
  useHotkeys('u', () => void takeBack())
  useHotkeys('w', turnRound)
  useHotkeys('s', time)
  useHotkeys('r', () => void range())
  useHotkeys('v', () => void letVolunteerThrow())
  useHotkeys('m', () => setTelling(!telling))
  useHotkeys('n', later)
  useHotkeys('a', () => again?.())
  useHotkeys('p', () => (pauses.since === undefined ? pauses.pause() : pauses.goOn()))
  useHotkeys('t', () => {
    const ids = turns.throwerIds.length > 1 ? turns.throwerIds : view.throwers.map((t) => t.id)
    stand({ throwerId: ids[(ids.indexOf(thrower.id) + 1) % ids.length]! })
  })
  useHotkeys('c', () =>
    setSeen((s) =>
      s.counts ? { ...s, counts: false, whyNot: WHY_NOT[0] } : { ...s, counts: true, whyNot: null },
    ),
  )
  useHotkeys('[', () => angle(-1), { useKey: true })
  useHotkeys(']', () => angle(1), { useKey: true })

  if (!disc || !line)
    return (
      <Empty title="A disc of this trial is not on the shelf">
        Put it back on the shelf, or open another trial from the bench.
      </Empty>
    )
  const thrown = view.throws.length
  const heading = edited
    ? `Changing throw ${view.throws.findIndex((t) => t.id === edited.id) + 1}`
    : warmingUp
      ? `Warm-up, ${queue.warmUps.length} to go; it does not count · ${legWords(blowing.windAlongMps)}`
      : `Throw ${thrown + 1}${trial.plannedThrows > 0 ? ` of ${trial.plannedThrows}` : ''} · ${legWords(blowing.windAlongMps)}`
  const { landing } = seen
  return (
    <div className="grid gap-3 p-3 max-md:flex max-md:flex-col max-md:gap-2 max-md:p-0 max-md:pb-24 md:grid-cols-[16.25rem_minmax(0,1fr)] xl:h-[calc(100dvh-3.25rem)] xl:min-h-[44rem] xl:grid-cols-[16.25rem_minmax(0,1fr)_18.5rem] xl:grid-rows-1 md:p-4">
      <div className="grid min-h-0 min-w-0 content-start gap-3 max-md:order-1 xl:grid-rows-[auto_auto_minmax(0,1fr)]">
        <NextCard
          discs={view.discs}
          name={name}
          throwers={view.throwers}
          angles={trial.hyzerDegs}
          {...{ sameLine, lineAngle }}
          meant={meant}
          standing={standing}
          heading={heading}
          warmingUp={warmingUp}
          turns={
            turns.throwerIds.length > 1
              ? turns.throwerIds.map((id) => view.throwers.find((t) => t.id === id)?.name.split(' ')[0] ?? '')
              : []
          }
          onTurns={() => setChoosing(true)}
          onMeant={(c) => setAsked((a) => ({ ...a, ...c }))}
          onStanding={stand}
        />
        {!edited && (
          <RunLine
            left={queue.planned}
            onAgain={again}
            onLater={later}
            {...{ view, arms, pauses }}
            onVolunteer={() => void letVolunteerThrow()}
          />
        )}
        {!edited && (
          <UpNext
            discs={view.discs}
            name={name}
            cells={
              best
                ? best.slice(1, 5)
                : queue.next
                    .filter((c) => c.disc !== meant.discId || (!sameLine && c.hyzerDeg !== meant.hyzerDeg))
                    .slice(0, 4)
            }
            telling={telling}
            onTelling={setTelling}
            planned={queue.planned.length > 0}
            sameLine={sameLine}
            onPick={(c) => setAsked({ discId: c.disc, ...(!sameLine && { hyzerDeg: c.hyzerDeg }) })}
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
        <StripCard {...{ view, rating, line, fade, meant, seen, see, at }} />
        <div className="order-3 flex items-center justify-between gap-3 px-3 md:hidden">
          <p className="figure text-lead" data-testid="landed">
            {landing
              ? `${units.length.show(landing.carryM)} down, ${aside(units, landing.rightM)}`
              : 'Tap where it landed'}
          </p>
          <button
            type="button"
            aria-expanded={typing}
            onClick={() => setTyping((t) => !t)}
            className="-my-2 min-h-11 px-2 underline underline-offset-4"
          >
            type it
          </button>
        </div>
        <WindAir
          standing={standing}
          session={session}
          onStanding={stand}
          onTurn={turnRound}
          listening={listening}
          onListening={setListening}
          live={live}
          onSession={(s) => {
            setSession(s)
            void outbox.put(`/api/sessions/${s.id}`, s)
          }}
        />
        <Notices
          view={view}
          name={name}
          session={session}
          wind={listening ? live.now : { alongMps: standing.windAlongMps, acrossMps: standing.windAcrossMps }}
          pausedSince={pauses.since}
          onGoOn={pauses.goOn}
          turnDue={
            !edited &&
            queue.planned[0] !== undefined &&
            queue.planned[0].leg !== facing &&
            lastThrown !== undefined
          }
          onTurn={turnRound}
          onAgain={(t) => setAsked({ discId: t.discId, hyzerDeg: t.hyzerDeg })}
        />
        <Standings view={view} rating={rating} name={name} landed={landing !== null} />
      </div>

      <div className="min-w-0 max-md:order-4 max-md:px-3 md:col-span-2 xl:col-span-1 xl:min-h-0">
        <Card className="flex h-full flex-col p-4" label="Call the throw">
          <h2 className="sr-only">Call the throw</h2>
          <div className="min-h-0 flex-1 space-y-2.5 xl:-mr-2 xl:overflow-y-auto xl:pr-2">
            <div className={typing ? '' : 'max-md:hidden'}>
              <TypedLanding
                landing={landing}
                last={lastThrown}
                onLanding={(l) => see({ landing: l })}
                onRange={() => void range()}
              />
            </div>
            <Calls
              asked={meant.hyzerDeg}
              fadeSide={fade}
              place={at}
              seen={seen}
              onSeen={see}
              onAngle={angle}
              timing={timing}
              onTime={time}
            />
            <PathFile
              path={seen.path}
              bearingDeg={
                place?.bearingDeg == null
                  ? undefined
                  : (place.bearingDeg + (facing === 'out' ? 0 : 180)) % 360
              }
              onSeen={see}
            />
          </div>
          <div className="mt-3 flex gap-2 border-t border-rule pt-3 max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:z-20 max-md:border-t-2 max-md:bg-card max-md:px-3 max-md:pb-[max(0.75rem,env(safe-area-inset-bottom))]">
            {edited ? (
              <Button className="max-md:min-h-14" onClick={() => setParams({}, { replace: true })}>
                Leave it
              </Button>
            ) : (
              <Button
                className="max-md:min-h-14"
                keyHint="U"
                disabled={thrown === 0}
                onClick={() => void takeBack()}
              >
                Undo
              </Button>
            )}
            <Button
              kind="primary"
              keyHint="↵"
              className="flex-1 max-md:min-h-14 max-md:text-lead"
              onClick={() => void keep()}
            >
              {edited ? 'Keep changes' : 'Keep throw'}
            </Button>
          </div>
        </Card>
      </div>
    </div>
  )
}

/** A landing is put down about this long after the release. */
const NOTICED_AFTER_MS = 6000
const tenth = (v: number) => Math.round(10 * v) / 10

const legWords = (along: number | null) =>
  along === null || along === 0 ? 'wind not noted' : along < 0 ? 'into the wind' : 'with the wind'

interface StripCardProps {
  readonly view: TrialView
  readonly rating: RatingState
  readonly line: ReturnType<typeof draftLine>
  readonly fade: 'left' | 'right'
  readonly meant: Meant
  readonly seen: Seen
  readonly see: (change: Partial<Seen>) => void
  readonly at: number
}

function StripCard({ view, rating: { reading }, line, fade, meant, seen, see, at }: StripCardProps) {
  const forecast = useForecast(view.trial.id, line, reading)
  const path = usePathTo(view.trial.id, seen.landing ? line : undefined, reading)
  return (
    <FieldStrip
      {...{ view, reading, forecast, path, fade, meant, seen, see, at }}
      sign={fade === 'right' ? 1 : -1}
    />
  )
}
