import { proxy, wrap } from 'comlink'
import type { Remote } from 'comlink'
import { useEffect, useMemo, useState } from 'react'
import { ratedFromShelf, sheetOf } from '../../contract/sheet.ts'
import { percent } from '../data/units.ts'
import type { TrialView } from '../data/hooks.ts'
import type { Settling } from '../../core/judge/resolve.ts'
import type { RatingWorker, Reading } from './rating.worker.ts'

let worker: Remote<RatingWorker> | undefined

/** The one worker that rates, started when first asked. */
export function ratingWorker(): Remote<RatingWorker> {
  worker ??= wrap<RatingWorker>(
    new Worker(new URL('./rating.worker.ts', import.meta.url), { type: 'module' }),
  )
  return worker
}

export interface RatingState {
  readonly reading: Reading | undefined
  /** What would settle the pairs still open; comes a moment after the reading. */
  readonly settlings: readonly Settling[]
  /** True while newer throws are being weighed than the reading shows. */
  readonly working: boolean
  /** Share of the way gone where weighing takes a while. */
  readonly share: number | undefined
  readonly error: Error | undefined
}

/** What is said while throws are weighed. */
export const weighing = (throws: number, share: number | undefined): string =>
  `Weighing ${throws} throws${share === undefined ? '' : `, ${percent(share)}`} …`

/** The reading of a trial, weighed anew off the interface thread whenever its throws change. */
export function useRating(view: TrialView | undefined): RatingState {
  const input = useMemo(() => {
    if (!view) return undefined
    const sheet = sheetOf(view.file, view.discs, view.throwers)
    const discs = view.discs.map((d) => ratedFromShelf(d, view.trial.controlDiscId))
    return { trial: view.trial.id, sheet, discs, key: JSON.stringify([sheet, discs]) }
  }, [view])
  const [state, setState] = useState<RatingState & { key?: string; trial?: string }>({
    reading: undefined,
    settlings: [],
    working: true,
    share: undefined,
    error: undefined,
  })
  const key = input?.key
  useEffect(() => {
    if (!input) return
    let current = true
    ratingWorker()
      .rate(
        input.trial,
        input.sheet,
        input.discs,
        proxy((share: number) => {
          if (current) setState((s) => ({ ...s, share }))
        }),
      )
      .then(
        (reading) => {
          if (!current || !reading) return
          const { key, trial } = input
          setState((s) => ({ ...s, reading, working: false, share: undefined, error: undefined, key, trial }))
          void ratingWorker()
            .settle(trial)
            .then((settlings) => current && setState((s) => ({ ...s, settlings })))
        },
        (error: Error) =>
          current && setState((s) => ({ ...s, working: false, share: undefined, error, key: input.key })),
      )
    return () => {
      current = false
    }
    // the key stands for the input: the same throws need no new fit
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key])
  return {
    settlings: state.trial === input?.trial ? state.settlings : [],
    reading: state.trial === input?.trial ? state.reading : undefined,
    working: state.key !== key,
    share: state.key === key ? undefined : state.share,
    error: state.error,
  }
}
