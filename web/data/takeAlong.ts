import { useEffect } from 'react'
import type { TrialSummary } from '../../contract/trials.ts'
import { addressOf } from '../../contract/writes.ts'
import { useTrials } from './hooks.ts'
import { useMe } from './crew.ts'

/** So many trials are taken along, the open ones first. */
const MOST = 12
/** Read again so often, ms. */
const AGAIN_MS = 30 * 60_000

/** What a trial is thrown, planned and read with. */
const ofTrial = (id: string): string[] =>
  ['', '/known', '/worn', '/short', '/hands', '/loggers'].map((part) => `${addressOf('trials', id)}${part}`)

/** Open trials first, then those thrown last. */
export const takenAlong = (trials: readonly TrialSummary[]): string[] =>
  trials
    .toSorted(
      (a, b) =>
        Number(a.trial.finishedAt !== null) - Number(b.trial.finishedAt !== null) ||
        (b.lastThrownAt ?? '').localeCompare(a.lastThrownAt ?? ''),
    )
    .slice(0, MOST)
    .map((t) => t.trial.id)

/**
 * Has the service worker keep what is needed in a field without a network: the shelf, the people, and every open trial, whether
 * it was looked at on this device or not.
 */
export function useTakeAlong(): void {
  const me = useMe()
  const { trials } = useTrials()
  const ids = trials ? takenAlong(trials).join() : ''
  const isIn = me?.person != null
  useEffect(() => {
    if (!isIn || typeof navigator.serviceWorker === 'undefined') return
    let stopped = false
    const { serviceWorker } = navigator
    const take = async () => {
      // on a first visit, whatever keeps answers may be a while in coming; it says so when it is there
      if (!serviceWorker.controller) return
      const wanted = [
        ...[
          '/api/me',
          '/api/shelf',
          '/api/discs',
          '/api/reviews',
          '/api/throwers',
          '/api/sessions',
          '/api/places',
          '/api/trials',
          '/api/inspections',
          '/api/rotation',
          '/api/drill-answers',
        ],
        ...ids.split(',').filter(Boolean).flatMap(ofTrial),
      ]
      for (const address of wanted) {
        if (stopped) return
        // one after the other, behind whatever somebody waits for
        await fetch(address).then(
          (answer) => answer.arrayBuffer(),
          () => {},
        )
      }
    }
    const cameLate = () => void take()
    if (!serviceWorker.controller)
      serviceWorker.addEventListener('controllerchange', cameLate, { once: true })
    const soon = setTimeout(() => void take(), 2500)
    const timer = setInterval(() => void take(), AGAIN_MS)
    return () => {
      stopped = true
      serviceWorker.removeEventListener('controllerchange', cameLate)
      clearTimeout(soon)
      clearInterval(timer)
    }
  }, [ids, isIn])
}
