import { useMemo } from 'react'
import { armId } from '../../core/rating/fromSheet.ts'
import type { Answer, Answered } from '../../core/judge/answers/answerOf.ts'
import { ANSWER_TO } from '../../core/judge/answers/answerOf.ts'
import { askedDiscs, askOf, kindOf } from '../data/ask.ts'
import { useShortThrows, useThrough } from '../data/hooks.ts'
import type { TrialView } from '../data/hooks.ts'
import { useUnits } from '../data/preferences.tsx'
import { useAsked } from '../data/useAsked.ts'
import type { AskedAnswer } from '../data/useAsked.ts'
import { askRating } from './rating.ts'
import type { AskedAcross } from './rating.worker.ts'
import type { Reading } from '../../core/trial/reading.ts'

/** Which question a trial is answered with first. */
export const answeredFirst = (view: TrialView): Answered => ANSWER_TO[kindOf(view)]

/**
 * What an answer is asked about.
 *
 * @param discs codes of the discs; those of the trial where nobody says
 * @param listener whom it is told to, where that is nobody who threw
 */
export function useAbout(
  view: TrialView,
  names: ReadonlyMap<string, string>,
  discs?: readonly string[],
  listener?: AskedAcross['listener'],
): AskedAcross {
  const { kind } = useUnits()
  const short = useShortThrows(view.trial.id)
  const worn = useThrough(view.trial.id)
  return useMemo(() => {
    const codes = new Map(view.discs.map((d) => [d.disc.id, d.disc.code]))
    const thrown = new Map(
      view.throwers.flatMap((t) =>
        (['backhand', 'forehand'] as const).map((stroke) => [
          armId({ thrower: t.name, hand: t.hand, stroke }),
          stroke === 'backhand' ? t.name : `${t.name}, forehand`,
        ]),
      ),
    )
    return {
      discs: discs ?? askedDiscs(view).map((d) => d.disc.code),
      convention: view.trial.plan?.convention ?? ('fresh' as const),
      pair: askOf(view).pair,
      names,
      units: kind,
      thrown,
      ...(listener && { listener }),
      // a disc that is not new and was never counted has been through nobody knows what
      through: new Map(
        view.discs.flatMap(({ disc }) => {
          const throws = worn.get(disc.id)
          return throws === undefined || (throws === 0 && disc.wear !== 'new') ? [] : [[disc.code, throws]]
        }),
      ),
      short: short.flatMap(({ discId, ...seen }) => {
        const disc = codes.get(discId)
        return disc === undefined ? [] : [{ ...seen, disc }]
      }),
    }
  }, [view, discs, names, kind, short, worn, listener])
}

/** What an answer hangs on besides its question and its reading. */
const keyOf = ({
  discs,
  convention,
  pair,
  units,
  short,
  through,
  listener,
}: AskedAcross): readonly unknown[] => [discs, convention, pair, units, short, [...through], listener]

/** Answers to several questions, of a reading of a trial. */
export function useAnswers(
  view: TrialView,
  ratingKey: string,
  reading: Reading,
  names: ReadonlyMap<string, string>,
  questions: readonly Answered[],
): AskedAnswer<readonly Answer[]> {
  const about = useAbout(view, names)
  return useAsked(
    JSON.stringify([ratingKey, reading.serial, questions, ...keyOf(about)]),
    () => askRating((w) => w.answers(ratingKey, questions, about)),
    { about: `${view.trial.id} ${questions.join()}` },
  )
}

/** The answer to a question, of a reading of a trial. */
export function useAnswer(
  view: TrialView,
  ratingKey: string,
  reading: Reading,
  names: ReadonlyMap<string, string>,
  question: Answered | null,
  discs?: readonly string[],
  listener?: AskedAcross['listener'],
): AskedAnswer<Answer | undefined> {
  const about = useAbout(view, names, discs, listener)
  const key = question === null ? null : JSON.stringify([question, reading.serial, ...keyOf(about)])
  return useAsked(key, () => askRating((w) => w.answer(ratingKey, question!, about)), {
    about: `${view.trial.id} ${question}`,
  })
}
