import type { QuestionKind } from '../../plan/questions.ts'
import { ANSWERED, unanswerable } from './answer.ts'
import type { Answer, Answered, Asked } from './answer.ts'
import { answerArms } from './arms.ts'
import { answerMolds } from './molds.ts'
import { answerNumbers } from './numbers.ts'
import { answerPlastics } from './plastics.ts'
import { answerRuns } from './runs.ts'
import { answerShortGame } from './shortGame.ts'
import type { ShortPlay } from './shortGame.ts'
import { answerWear } from './wear.ts'
import { answerWeight } from './weight.ts'
import { answerWind } from './wind.ts'

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
  'short game': 'approach',
}

const BY_FLIGHT: Readonly<Record<Exclude<Answered, 'ground' | 'approach'>, (asked: Asked) => Answer>> = {
  numbers: answerNumbers,
  plastics: answerPlastics,
  runs: answerRuns,
  wear: answerWear,
  weight: answerWeight,
  molds: answerMolds,
  arms: answerArms,
  wind: answerWind,
}

/** What throws say to a question. */
export function answerOf(
  question: Answered,
  asked: Asked & { readonly short: readonly ShortPlay[] },
): Answer {
  if (question === 'ground' || question === 'approach') return answerShortGame(question, asked)
  const thrown = new Set(asked.state.evidence.throws.filter((t) => t.counts).map((t) => t.disc))
  // a disc nobody threw is asked about and says nothing yet
  const discs = asked.discs.filter((d) => thrown.has(d))
  if (discs.length === 0)
    return unanswerable(question, 'No throw of these discs counts yet', [
      'Throw the first, or import a file.',
    ])
  const answer = BY_FLIGHT[question]({ ...asked, discs })
  const waiting = asked.discs.filter((d) => !thrown.has(d))
  return waiting.length === 0
    ? answer
    : {
        ...answer,
        open: [...answer.open, ...waiting.map((d) => `${asked.words.name(d)} has not been thrown yet.`)],
      }
}

export const isAnswered = (name: string): name is Answered => (ANSWERED as readonly string[]).includes(name)
