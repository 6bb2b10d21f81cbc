import { armsQuestion } from './questions/arms.ts'
import { groundQuestion } from './questions/ground.ts'
import { labelQuestion } from './questions/label.ts'
import { moldsQuestion } from './questions/molds.ts'
import { plasticsQuestion } from './questions/plastics.ts'
import type { TrialQuestion } from './questions/question.ts'
import { runsQuestion } from './questions/runs.ts'
import { shortGameQuestion } from './questions/shortGame.ts'
import { wearQuestion } from './questions/wear.ts'
import { weightQuestion } from './questions/weight.ts'
import { windQuestion } from './questions/wind.ts'

/** What published numbers describe: a disc fresh from the shop, or one that has been seasoned. */
export const CONVENTIONS = ['fresh', 'seasoned'] as const
export type Convention = (typeof CONVENTIONS)[number]

/**
 * What a trial can ask, in the order in which it is offered. A further question is a file of its own and a line here; what answers
 * it is asked for by the compiler in `core/judge/answers/answerOf.ts`.
 */
const QUESTIONS = {
  label: labelQuestion,
  plastics: plasticsQuestion,
  runs: runsQuestion,
  wear: wearQuestion,
  weight: weightQuestion,
  molds: moldsQuestion,
  arms: armsQuestion,
  wind: windQuestion,
  ground: groundQuestion,
  'short-game': shortGameQuestion,
} as const satisfies Record<string, TrialQuestion>

/** One of the questions a trial can ask. */
export type QuestionKind = keyof typeof QUESTIONS
/** All of them by name, in the order in which they are offered. */
export const QUESTION_KINDS = Object.keys(QUESTIONS) as QuestionKind[]

/** What one question is, proposes and wants. */
export const questionOf = (kind: QuestionKind): TrialQuestion => QUESTIONS[kind]
