import { WARM_UP } from '../../../core/throw/whyNot.ts'
import { useState } from 'react'
import type { Dispatch } from 'react'
import { v7 as newId } from 'uuid'
import { LOGGED_WIND_SD } from '../../../core/rating/evidence.ts'
import type { Thrower, Throw } from '../../../contract/trials.ts'
import type { TrialView } from '../../data/hooks.ts'
import { lastMadeHere, NONE_HERE, noteMade } from '../../data/made.ts'
import { onceAnId } from '../../data/once.ts'
import { outbox } from '../../data/outbox.ts'
import { say, sayWrong } from '../../data/say.ts'
import { toThrow } from './draft.ts'
import type { Meant } from './draft.ts'
import { releasedAt } from './logging.ts'
import type { FieldEvent, Logging } from './logging.ts'
import type { LiveWind } from './useLiveWind.ts'

const tenth = (v: number) => Math.round(10 * v) / 10

/** A landing that waited this long to be kept was put down when its throw was made, ms. */
const WAITED_MS = 10 * 60_000
/** When a throw was made that is kept now, ms. */
const madeAt = ({ landedAt }: Logging, now: number): number =>
  landedAt !== undefined && now - landedAt > WAITED_MS ? landedAt : now

interface Keeping {
  readonly view: TrialView
  readonly state: Logging
  readonly dispatch: Dispatch<FieldEvent>
  readonly meant: Meant
  readonly thrower: Thrower
  readonly edited: Throw | undefined
  /** The throw warms the arm: it is kept and does not count. */
  readonly warmingUp: boolean
  /** The anemometer, while it is listened to. */
  readonly live: LiveWind | undefined
  readonly onKept: () => void
}

/** Keeping a throw, and taking back the last one that this device kept: others log the same trial on theirs. */
export function useKeeping({
  view,
  state,
  dispatch,
  meant,
  thrower,
  edited,
  warmingUp,
  live,
  onKept,
}: Keeping) {
  const [once] = useState(onceAnId)
  /** The wind of the throw from the log; what blows now where nothing was heard while it flew. */
  const loggedWind = () => {
    const wind =
      live?.of(releasedAt(state, Date.now()), state.seen.hangS) ??
      (live?.now && { ...live.now, sdMps: LOGGED_WIND_SD })
    return (
      wind && {
        windAlongMps: tenth(wind.alongMps),
        windAcrossMps: tenth(wind.acrossMps),
        windSdMps: tenth(wind.sdMps),
      }
    )
  }
  const keep = async () => {
    const { session, standing, seen } = state
    const drawn = toThrow(
      state.id,
      view.trial.id,
      meant,
      { ...standing, ...loggedWind() },
      warmingUp && seen.counts ? { ...seen, counts: false, whyNot: WARM_UP } : seen,
      thrower,
      edited,
      new Date(madeAt(state, Date.now())).toISOString(),
    )
    if (!drawn.ok) return sayWrong(drawn.why)
    const { row } = drawn
    const isNow = await once(`${row.id} ${row.version}`, async () => {
      if (!view.sessions.some((s) => s.id === session.id)) await outbox.put('sessions', session)
      await outbox.put('throws', row)
    })
    if (!isNow) return
    if (!edited) noteMade(view.trial.id, row.id)
    if (edited) say('The throw was changed.')
    else dispatch({ type: 'kept', nextId: newId() })
    onKept()
  }
  const takeBack = async () => {
    const last = lastMadeHere(view.trial.id, view.throws)
    if (!last) return sayWrong(NONE_HERE)
    const row = { ...last, takenBackAt: new Date().toISOString() }
    await outbox.put('throws', row)
    say(`Throw ${view.throws.indexOf(last) + 1} was taken back.`, {
      label: 'Restore',
      run: () => void outbox.put('throws', { ...row, takenBackAt: null }),
    })
  }
  return { keep, takeBack }
}
