import type { Plan, Trial } from '../../contract/trials.ts'
import type { Ask } from '../../core/plan/ask.ts'
import { guessKind } from '../../core/plan/guess.ts'
import { questionOf } from '../../core/plan/questions.ts'
import type { QuestionKind } from '../../core/plan/questions.ts'
import type { TrialView } from './hooks.ts'

/** What a plan asks, its discs by what a fit knows them by. */
export function askIn(
  { kind, pair }: Pick<Plan, 'kind' | 'pair'>,
  codeOf: (discId: string) => string | undefined,
): Ask {
  const [a, b] = pair?.map(codeOf) ?? []
  return { kind, pair: a !== undefined && b !== undefined ? [a, b] : null }
}

/** The words of a trial’s question once another is asked: what somebody typed stays, what came with a question goes with it. */
export const wordsAsking = (
  { question }: Pick<Trial, 'question'>,
  before: QuestionKind,
  kind: QuestionKind,
): string =>
  question.trim() === '' || question === questionOf(before).words ? questionOf(kind).words : question

/** A trial read for another question. What was thrown stays; without a plan it is the words that ask. */
export const askingOtherwise = (trial: Trial, kind: QuestionKind): Trial =>
  trial.plan
    ? { ...trial, question: wordsAsking(trial, trial.plan.kind, kind), plan: { ...trial.plan, kind } }
    : { ...trial, question: questionOf(kind).words }

/** The discs a trial asks about. */
export const askedDiscs = ({ trial, discs }: TrialView) =>
  discs.filter((d) => d.disc.id !== trial.controlDiscId)

/** Which question a trial asks; guessed until it has a plan. */
export const kindOf = (view: TrialView): QuestionKind =>
  view.trial.plan?.kind ??
  guessKind(
    view.trial.question,
    askedDiscs(view).map((d) => ({
      mold: d.mold.id,
      plastic: d.plastic.id,
      wear: d.disc.wear,
      ...(d.run && { run: d.run.id }),
    })),
  )

/** What a trial asks, its discs by what a fit knows them by. */
export const askOf = (view: TrialView): Ask =>
  askIn(
    { kind: kindOf(view), pair: view.trial.plan?.pair ?? null },
    (id) => view.discs.find((d) => d.disc.id === id)?.disc.code,
  )
