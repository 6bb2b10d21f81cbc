import { expose } from 'comlink'
import type { Preferences } from '../../contract/preferences.ts'
import type { Answer, Answered } from '../../core/judge/answers/answerOf.ts'
import type { TurnedWind } from '../../core/judge/turnedWind.ts'
import type { Ask } from '../../core/plan/ask.ts'
import type { Protocol } from '../../core/plan/order.ts'
import type { PlanQuestion } from '../../core/plan/weighed.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import type { Reading } from '../../core/trial/reading.ts'
import { Trials } from '../../core/trial/trials.ts'
import type { AskedAbout, PlanWorth } from '../../core/trial/trials.ts'
import { unitsOf, wordingOf } from '../data/units.ts'
import { Heard } from './lines.ts'
import type { Lines } from './lines.ts'

/** Throws as they cross to the worker, and their discs. */
export interface ToldThrown {
  readonly lines: Lines
  readonly discs: readonly RatedDisc[]
}

/** What an answer is asked about, as it crosses to the worker. */
export type AskedAcross = Omit<AskedAbout, 'words'> & {
  readonly names: ReadonlyMap<string, string>
  readonly units: Preferences['units']
}
const inWords = ({ names, units, ...about }: AskedAcross): AskedAbout => ({
  ...about,
  words: wordingOf(unitsOf(units), (code) => names.get(code) ?? code),
})

const heard = new Heard()
const thrown = ({ lines, discs }: ToldThrown) => ({ sheet: heard.sheet(lines), discs })

/** The engine of trials off the interface thread: told of throws by their numbers, and of words by units and names. */
class Rating extends Trials {
  async rate(
    trial: string,
    own: ToldThrown,
    besides: ToldThrown,
    onShare?: (share: number) => void,
    onFirst?: (reading: Reading) => void,
  ): Promise<Reading | undefined> {
    return await this.weigh(trial, thrown(own), thrown(besides), onShare, onFirst)
  }
  weighPlan(own: ToldThrown, plan: PlanQuestion, spend: number, protocol: Protocol, ask: Ask): PlanWorth {
    return this.planned(thrown(own), plan, spend, protocol, ask)
  }
  answer(trial: string, question: Answered, about: AskedAcross): Answer | undefined {
    return this.answered(trial, question, inWords(about))
  }
  answers(trial: string, questions: readonly Answered[], about: AskedAcross): Answer[] {
    return questions.flatMap((q) => this.answer(trial, q, about) ?? [])
  }
  answerWithout(trial: string, throwId: string, question: Answered, about: AskedAcross): Answer | undefined {
    return this.answeredWithout(trial, throwId, question, inWords(about))
  }
  answerTurned(
    trial: string,
    turned: Pick<TurnedWind, 'outing' | 'turn'>,
    question: Answered,
    about: AskedAcross,
  ): Answer | undefined {
    return this.answeredTurned(trial, turned, question, inWords(about))
  }
}

export type RatingWorker = Rating
expose(
  new Rating({
    now: () => performance.now(),
    breathe: () => new Promise((next) => setTimeout(next, 0)),
  }),
)
