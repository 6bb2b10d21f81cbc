import { proxy } from 'comlink'
import type { Remote } from 'comlink'
import { useMemo, useState } from 'react'
import { ratedFromShelf, sheetOf } from '../../contract/sheet.ts'
import type { Ask } from '../../core/plan/ask.ts'
import { askOf } from '../data/ask.ts'
import { percent } from '../data/units.ts'
import type { Known, TrialView } from '../data/hooks.ts'
import { useAsked } from '../data/useAsked.ts'
import type { Limit } from '../../core/judge/limits.ts'
import type { Settling } from '../../core/judge/resolve.ts'
import { numberOf, Told } from './lines.ts'
import { OneFit } from './oneFit.ts'
import { OneWorker } from './oneWorker.ts'
import type { RatingWorker } from './rating.worker.ts'
import type { Reading } from '../../core/trial/reading.ts'

const rating = new OneWorker<RatingWorker, Told>(
  () => new Worker(new URL('./rating.worker.ts', import.meta.url), { type: 'module' }),
  'The rating',
  () => new Told(),
)

const fits = new OneFit<Reading>()

/** Asks the worker that rates; an answer or an error, never silence. */
export const askRating = <T>(
  question: (worker: Remote<RatingWorker>, told: Told) => Promise<T>,
): Promise<T> => rating.ask(question)

export interface RatingState {
  /** What the worker knows this reading by. */
  readonly key: string
  readonly reading: Reading | undefined
  /** What would settle the pairs still open; comes a moment after the reading. */
  readonly settlings: readonly Settling[]
  /** What further evidence would narrow the pair nearest to being settled most; comes with them. */
  readonly limit: Limit | undefined
  /** True while newer throws are being weighed than the reading shows. */
  readonly working: boolean
  /** Share of the way gone where weighing takes a while. */
  readonly share: number | undefined
  readonly error: Error | undefined
  /** Weighs again, after an error. */
  readonly again: () => void
}

/** What is said while throws are weighed. */
export const weighing = (throws: number, share: number | undefined): string =>
  `Weighing ${throws} throws${share === undefined ? '' : `, ${percent(share)}`} …`

/**
 * The reading of a trial, weighed anew off the interface thread whenever its throws change.
 *
 * @param known what is known besides, where it is to be read with all that
 * @param as another reading of the same trial beside the first
 */
export function useRating(view: TrialView | undefined, known?: Known, as = ''): RatingState {
  const input = useMemo(() => {
    if (!view) return undefined
    const sheet = sheetOf(view.file, view.discs, view.throwers)
    const discs = view.discs.map((d) => ratedFromShelf(d, view.trial.controlDiscId))
    const besides = known ?? NOTHING_ELSE
    const trial = `${view.trial.id}${as}`
    const key = [
      trial,
      JSON.stringify([discs, besides.discs]),
      ...[sheet, besides.sheet].map((lines) => lines.map(numberOf).join()),
    ].join('\n')
    return { trial, sheet, discs, besides, key, ask: askOf(view) }
  }, [view, known, as])
  const [progress, setProgress] = useState<{ key: string; share: number }>()
  const [first, setFirst] = useState<{ key: string; reading: Reading }>()
  const key = input?.key ?? null
  const about = input?.trial ?? ''
  const rated = useAsked(
    key,
    async (wanted) => {
      const { trial, sheet, discs, besides, key } = input!
      const reading = await fits.get(
        trial,
        key,
        ({ onShare, onFirst }) =>
          askRating((w, told) =>
            w.rate(
              trial,
              { lines: told.lines(sheet), discs },
              { lines: told.lines(besides.sheet), discs: besides.discs },
              proxy(onShare),
              proxy(onFirst),
            ),
          ),
        {
          onShare: (share) => setProgress({ key, share }),
          onFirst: (first) => setFirst({ key, reading: first }),
        },
        wanted,
      )
      return reading && { reading, key }
    },
    { about },
  )
  const ask = input?.ask ?? NOTHING_ASKED
  const ratedKey = rated.value ? JSON.stringify([rated.value.key, ask]) : null
  const settled = useAsked(ratedKey, () => askRating((w) => w.settle(about, ask)), { about })
  return {
    key: about,
    reading: (rated.value?.key !== key && first?.key === key ? first : rated.value)?.reading,
    settlings: settled.value?.settlings ?? NONE,
    limit: settled.value?.limit,
    working: rated.working || !input,
    share: progress?.key === key && rated.working ? progress?.share : undefined,
    error: rated.error,
    again: rated.again,
  }
}
const NOTHING_ASKED: Ask = { kind: 'molds', pair: null }
const NONE: readonly Settling[] = []
const NOTHING_ELSE: Known = { sheet: [], discs: [] }
