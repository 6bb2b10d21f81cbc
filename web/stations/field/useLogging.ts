import { useEffect, useMemo, useReducer, useState } from 'react'
import { fadeSign } from '../../../core/flight/hand.ts'
import { useSearchParams } from 'react-router'
import { v7 as newId } from 'uuid'
import { trialNames } from '../../../contract/naming.ts'
import type { Throw } from '../../../contract/trials.ts'
import { useHolding } from '../../data/hands.ts'
import { usePlaces } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import type { RatingState } from '../../workers/rating.ts'
import type { Seen, FieldStanding } from './draft.ts'
import { followedPlan, legOf, logging } from './logging.ts'
import { keepDraft, keptDraft } from './keptDraft.ts'
import { startOf } from './start.ts'
import { useArmsHere } from './useArms.ts'
import { useDevices } from './useDevices.ts'
import { useFieldKeys } from './useFieldKeys.ts'
import { useIntended } from './useIntended.ts'
import { useKeeping } from './useKeeping.ts'
import { useLiveWind } from './useLiveWind.ts'
import { useNext } from './useNext.ts'
import { usePauses } from './usePauses.ts'
import { useTurns } from './useTurns.ts'
import { useWakeLock } from './useWakeLock.ts'

export interface LoggingProps {
  readonly view: TrialView
  readonly rating: RatingState
  /** What is asked of the next throw comes from here. */
  readonly asks: RatingState
  readonly edited: Throw | undefined
}

/** Everything that is done while throws are logged: what is to be thrown, what was seen, and what keeps it. */
export function useLogging({ view, rating, asks, edited }: LoggingProps) {
  const { trial, discs } = view
  const [params, setParams] = useSearchParams()
  const telling = params.get('next') === 'telling'
  const [{ start, resumed }] = useState(() => {
    const fresh = startOf(view, edited)
    const kept = edited
      ? undefined
      : keptDraft(localStorage, trial.id, fresh, [...view.throws, ...view.takenBack])
    return { start: kept ?? fresh, resumed: kept?.id }
  })
  const [state, dispatch] = useReducer(logging, start)
  const isNew = !edited
  useEffect(() => {
    if (isNew) keepDraft(localStorage, trial.id, state)
  }, [isNew, trial.id, state])
  const { session, standing } = state
  const leg = legOf(state)
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
  const { proposed, meant } = next
  const lastThrown = view.throws.filter((t) => t.sessionId === session.id && t.id !== edited?.id).at(-1)
  const again =
    lastThrown &&
    (() => dispatch({ type: 'chosen', meant: { discId: lastThrown.discId, hyzerDeg: lastThrown.hyzerDeg } }))
  const warmingUp = !edited && proposed.warmUp === true && meant.discId === proposed.disc
  if (!edited) {
    const followed = followedPlan(
      state,
      proposed,
      view.throwers,
      lastThrown && turns.after(lastThrown.throwerId),
    )
    if (followed) dispatch(followed)
  }
  const thrower = view.throwers.find((t) => t.id === standing.throwerId) ?? view.throwers[0]!
  const byTurns = turns.throwerIds.flatMap((id) => view.throwers.find((t) => t.id === id) ?? [])
  const arms = useArmsHere(byTurns.length > 1 ? byTurns : [thrower], session.day)
  const blows =
    listening && live.now ? live.now : { alongMps: standing.windAlongMps, acrossMps: standing.windAcrossMps }
  const devices = useDevices(state, dispatch, meant, thrower, blows)
  const leave = () => setParams({}, { replace: true })
  useIntended(discs, fadeSign(thrower.hand, standing.stroke), dispatch)
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
  const clear = () => dispatch({ type: 'cleared', nextId: newId() })
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
  const line = next.lineFor(meant.hyzerDeg)
  return {
    ...{ state, names, name, next, live, listening, blowing, blows, lastThrown, warmingUp, leg, place },
    ...{ thrower, byTurns, turns, arms, pauses, devices, telling, line },
    /** Whether what is shown was put down before this page was opened. */
    resumed: resumed !== undefined && state.id === resumed,
    do: {
      keep,
      takeBack,
      see,
      stand,
      later,
      turn,
      clock,
      angle,
      again,
      leave,
      setTelling,
      setListening,
      clear,
      dispatch,
    },
  }
}
