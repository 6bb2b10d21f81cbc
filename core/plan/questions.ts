import { arms } from './questions/arms.ts'
import { ground } from './questions/ground.ts'
import { label } from './questions/label.ts'
import { molds } from './questions/molds.ts'
import { plastics } from './questions/plastics.ts'
import type { Question } from './questions/question.ts'
import { runs } from './questions/runs.ts'
import { shortGame } from './questions/shortGame.ts'
import { wear } from './questions/wear.ts'
import { weight } from './questions/weight.ts'
import { wind } from './questions/wind.ts'

/** What published numbers describe: a disc fresh from the shop, or one that has been seasoned. */
export const CONVENTIONS = ['fresh', 'seasoned'] as const
export type Convention = (typeof CONVENTIONS)[number]

/**
 * What a trial can ask, in the order in which it is offered. A further question is a file of its own and a line here; what answers
 * it is asked for by the compiler in `core/judge/answers/answerOf.ts`.
 */
const QUESTIONS = {
  label,
  plastics,
  runs,
  wear,
  weight,
  molds,
  arms,
  wind,
  ground,
  'short game': shortGame,
} as const satisfies Record<string, Question>

/** One of the questions a trial can ask. */
export type QuestionKind = keyof typeof QUESTIONS
/** All of them by name, in the order in which they are offered. */
export const QUESTION_KINDS = Object.keys(QUESTIONS) as QuestionKind[]

/** What one question is, proposes and wants. */
export const questionOf = (kind: QuestionKind): Question => QUESTIONS[kind]
