import type { QuestionKind } from '../../plan/questions.ts'
import { unanswerable } from './answer.ts'
import type { Found } from './answer.ts'
import { answerArms } from './arms.ts'
import { answerMolds } from './molds.ts'
import { answerNumbers } from './numbers.ts'
import { answerPlastics } from './plastics.ts'
import { answerRuns } from './runs.ts'
import { answerApproach, answerGround } from './shortGame.ts'
import type { AskedOfShort } from './shortGame.ts'
import { answerWear } from './wear.ts'
import { answerWeight } from './weight.ts'
import { answerWind } from './wind.ts'

/** How a question is answered. */
interface Answering {
  readonly find: (asked: AskedOfShort) => Found
  /** Whether a review speaks of it, whatever its trial asked. */
  readonly inReviews?: true
  /** Whether it is read from the short game; else from full throws. */
  readonly ofShortGame?: true
}

/**
 * What can be answered, as programs name it. A further answer is a file of its own and a line here; a picture of another kind is
 * asked for by the compiler in `web/pictures/Picture.tsx`.
 */
const ANSWERS = {
  numbers: { find: answerNumbers, inReviews: true },
  plastics: { find: answerPlastics },
  runs: { find: answerRuns },
  wear: { find: answerWear, inReviews: true },
  weight: { find: answerWeight, inReviews: true },
  molds: { find: answerMolds, inReviews: true },
  arms: { find: answerArms, inReviews: true },
  wind: { find: answerWind, inReviews: true },
  ground: { find: answerGround, inReviews: true, ofShortGame: true },
  approach: { find: answerApproach, inReviews: true, ofShortGame: true },
} as const satisfies Record<string, Answering>

export type Answered = keyof typeof ANSWERS
const answeringOf = (question: Answered): Answering => ANSWERS[question]
export const ANSWERED = Object.keys(ANSWERS) as Answered[]
/** Whether programs can ask for an answer by this name. */
export const isAnswered = (name: string): name is Answered => Object.hasOwn(ANSWERS, name)

/** What a review speaks of, whatever its trial asked. */
export const IN_REVIEWS: readonly Answered[] = ANSWERED.filter((a) => answeringOf(a).inReviews)

/** What a trial that asks something is answered with. */
export const ANSWER_TO: Readonly<Record<QuestionKind, Answered>> = {
  label: 'numbers',
  plastics: 'plastics',
  runs: 'runs',
  wear: 'wear',
  weight: 'weight',
  molds: 'molds',
  arms: 'arms',
  wind: 'wind',
  ground: 'ground',
  'short-game': 'approach',
}

/** What the throws say to a question, and to which. */
export interface Answer extends Found {
  readonly question: Answered
}

/** What throws say to a question. */
export function answerOf(question: Answered, asked: AskedOfShort): Answer {
  const { find, ofShortGame } = answeringOf(question)
  return { question, ...(ofShortGame ? find(asked) : ofThrown(find, asked)) }
}

/** Discs nobody threw are asked about and say nothing yet. */
function ofThrown(find: (asked: AskedOfShort) => Found, asked: AskedOfShort): Found {
  const thrown = new Set(asked.state.evidence.throws.filter((t) => t.counts).map((t) => t.disc))
  const discs = asked.discs.filter((d) => thrown.has(d))
  if (discs.length === 0)
    return unanswerable('No throw of these discs counts yet', ['Throw the first, or import a file.'])
  const found = find({ ...asked, discs })
  const waiting = asked.discs.filter((d) => !thrown.has(d))
  return {
    ...found,
    open: [...found.open, ...waiting.map((d) => `${asked.words.name(d)} has not been thrown yet.`)],
  }
}
