import type { ReactNode } from 'react'
import type { Answer } from '../../../../core/judge/answers/answerOf.ts'
import type { disagreements } from '../../../../core/rating/known.ts'
import type { TrialView } from '../../../data/hooks.ts'
import type { AskedAnswer } from '../../../data/useAsked.ts'
import type { RatingState } from '../../../workers/rating.ts'
import type { Reading } from '../../../../core/trial/reading.ts'

/** What every view of a readout is given. */
export interface ViewProps extends Pick<RatingState, 'settlings' | 'limit' | 'working' | 'share'> {
  readonly view: TrialView
  readonly reading: Reading
  /** What the worker knows the reading by. */
  readonly ratingKey: string
  readonly names: ReadonlyMap<string, string>
  readonly name: (code: string) => string
  readonly look: (code: string) => number
  /** Discs as they were expected, the most stable first; empty where nobody said. */
  readonly expected: readonly string[]
  /** The answer to the trial’s own question. */
  readonly answer: AskedAnswer<Answer | undefined>
  /** Where it is read from, to be changed; nothing where there is only one way. */
  readonly readFrom: ReactNode
  /** Where the trial and all that is known say different things. */
  readonly apart: ReturnType<typeof disagreements> | undefined
}
